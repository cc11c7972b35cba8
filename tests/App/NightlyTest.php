<?php

declare(strict_types=1);

use App\Models\Reading;
use App\Models\Survey;
use Illuminate\Support\Facades\Artisan;

/*
 * What a site is given each night, from its minute on, once.
 */

beforeEach(fn () => $this->touched());

it('reads a site at its minute, surveys it after that, and neither twice in a night', function (): void {
    $this->site()->update(['reach_at' => ['korrinbay.example' => 'http://127.0.0.1:9'], 'pause' => 0]);
    // A day that no clock of a machine that runs this says.
    $this->travelTo('2031-11-30 12:00:00');
    expect(Artisan::call('ylema:site', ['site' => 'korrin-bay', '--nightly' => '03:10']))
        ->toBe(0)
        ->and(Artisan::output())
        ->toContain('read and surveyed from 03:10 UTC');
    $counts = static fn (): array => [Reading::query()->count(), Survey::query()->count()];
    [$readings, $surveys] = $counts();
    $this->travelTo('2031-12-01 03:09:30');
    Artisan::call('ylema:nightly');
    expect($counts())->toBe([$readings, $surveys]);
    $this->travelTo('2031-12-01 03:10:10');
    Artisan::call('ylema:nightly');
    expect($counts())->toBe([$readings + 1, $surveys]);
    $this->travelTo('2031-12-01 03:11:10');
    Artisan::call('ylema:nightly');
    expect($counts())->toBe([$readings + 1, $surveys + 1]);
    $this->travelTo('2031-12-01 03:12:10');
    Artisan::call('ylema:nightly');
    expect($counts())->toBe([$readings + 1, $surveys + 1]);
    $this->travelTo('2031-12-02 03:10:10');
    Artisan::call('ylema:nightly');
    expect($counts())->toBe([$readings + 2, $surveys + 1]);
    $this->travelBack();
});

it('waits while the site is being read, and surveys nothing that may not be asked', function (): void {
    $this->site()->update(['nightly' => '00:00', 'reach_at' => [], 'ask_public' => false]);
    $surveys = Survey::query()->count();
    Artisan::call('ylema:nightly');
    Artisan::call('ylema:nightly');
    expect(Survey::query()->count())
        ->toBe($surveys)
        ->and($this->site()->nightly_read_on)
        ->toBe(now()->toDateString())
        ->and(Artisan::call('ylema:site', ['site' => 'korrin-bay', '--nightly' => 'midnight']))
        ->toBe(2);
});

it('begins tomorrow where the minute is past today', function (): void {
    $this->travelTo('2031-12-01 12:00:00');
    Artisan::call('ylema:site', ['site' => 'korrin-bay', '--nightly' => '03:10']);
    $readings = Reading::query()->count();
    Artisan::call('ylema:nightly');
    expect(Reading::query()->count())->toBe($readings);
    $this->travelTo('2031-12-02 03:10:10');
    Artisan::call('ylema:nightly');
    expect(Reading::query()->count())->toBe($readings + 1);
    Artisan::call('ylema:site', ['site' => 'korrin-bay', '--nightly' => 'off']);
    $this->travelBack();
});
