<?php

declare(strict_types=1);

use App\Models\Change;
use Illuminate\Support\Facades\Artisan;

it('lists sites and uses, for people and for scripts', function (): void {
    expect(Artisan::call('ylema:sites'))->toBe(0)->and(Artisan::output())->toContain('korrin-bay');
    expect(
        Artisan::call('ylema:uses', [
            'site' => 'korrin-bay',
            'path' => '/media/people/maren-oake.w150.jpg',
            '--json' => true,
        ]),
    )->toBe(0);
    $uses = json_decode(Artisan::output(), true);
    expect($uses['uses'])->toHaveCount(25)->and($uses['pages'])->toContain('https://korrinbay.example/people');
    expect(Artisan::call('ylema:uses', ['site' => 'korrin-bay', 'path' => 'media/archive/unsorted-14.jpg']))->toBe(1);
    expect(Artisan::call('ylema:uses', ['site' => 'korrin-bay', 'path' => 'media/maren-oake.jpg']))
        ->toBe(2)
        ->and(Artisan::output())
        ->toContain('Did you mean media/people/maren-oake.jpg');
    expect(Artisan::call('ylema:uses', ['site' => 'nowhere', 'path' => 'x']))
        ->toBe(2)
        ->and(Artisan::output())
        ->toContain('Known: korrin-bay');
});

it('says what moves by itself before it swaps, for eyes and for programs', function (): void {
    $this->touched();
    self::content()->exec(
        "create or replace function stamp() returns trigger language plpgsql as 'begin return new; end'",
    );
    self::content()->exec('create trigger stamp before update on entries for each row execute function stamp()');
    $swap = [
        'site' => 'korrin-bay',
        'from' => 'media/people/maren-oake.jpg',
        'to' => 'media/people/lise-holm.jpg',
        '--dry-run' => true,
    ];
    Artisan::call('ylema:swap', $swap);
    expect(Artisan::output())->toContain('whenever a post is written; columns that it sets will move.');
    Artisan::call('ylema:swap', [...$swap, '--json' => true]);
    expect(implode(' ', json_decode(Artisan::output(), true)['notes']))->toContain('whenever a post is written');
});

it('reads, swaps and undoes', function (): void {
    $this->site()->update(['reach_at' => ['korrinbay.example' => 'http://127.0.0.1:9']]);
    $before = $this->contentDigest();
    expect(Artisan::call('ylema:read', ['site' => 'korrin-bay', '--json' => true]))
        ->toBe(0)
        ->and(json_decode(Artisan::output(), true)['state'])
        ->toBe('done');
    expect(
        Artisan::call('ylema:swap', [
            'site' => 'korrin-bay',
            'from' => 'media/people/maren-oake.jpg',
            'to' => 'media/people/lise-holm.jpg',
            '--dry-run' => true,
        ]),
    )
        ->toBe(0)
        ->and(Artisan::output())
        ->toContain('Nothing was written')
        ->and($this->contentDigest())
        ->toBe($before)
        ->and(Change::query()->count())
        ->toBe(0);
    $this->touched();
    expect(
        Artisan::call('ylema:swap', [
            'site' => 'korrin-bay',
            'from' => 'media/people/maren-oake.jpg',
            'to' => 'media/people/lise-holm.jpg',
            '--json' => true,
        ]),
    )->toBe(0);
    $change = json_decode(Artisan::output(), true)['change'];
    expect($this->contentDigest())->not->toBe($before);
    expect(Artisan::call('ylema:undo', ['change' => (string) $change]))
        ->toBe(0)
        ->and($this->contentDigest())
        ->toBe($before);
    expect(Artisan::call('ylema:undo', ['change' => '999']))->toBe(2);
});
