<?php

declare(strict_types=1);

use App\Media\Uploads;
use App\Models\Role;
use App\Vault\Clearing;
use App\Vault\Vault;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;

function keptPath(string $sha): string
{
    return Storage::disk('vault')->path(substr($sha, 0, 2)."/$sha");
}

/** Bytes in the vault that were put there some days ago. */
function keptSince(int $days, string $bytes): string
{
    $sha = (new Vault())->put($bytes);
    touch(keptPath($sha), time() - $days * 86_400);

    return $sha;
}

afterEach(function (): void {
    $this->touched();
});

it('clears away kept bytes that nothing needs, and never others', function (): void {
    $nobodys = keptSince(3, 'of a plan that was dropped');
    $fresh = keptSince(1, 'of a plan that is perhaps being made');
    $shas = [];
    foreach (['before', 'after', 'resting', 'picture', 'asked'] as $word) {
        $shas[$word] = keptSince(9, "bytes $word");
    }
    $site = $this->site();
    $plan = DB::table('plans')->insertGetId([
        'site_id' => $site->id,
        'kind' => 'swap',
        'state' => 'applied',
        'request' => json_encode(['of' => $shas['asked']]),
        'outline' => json_encode(['pictures' => [['sha256' => $shas['picture']]]]),
    ]);
    $written = ['before' => ['sha256' => $shas['before']], 'after' => ['sha256' => $shas['after']]];
    $steps = [
        ['write-file', ['path' => 'a', ...$written]],
        ['rest-file', ['path' => 'b', 'file' => ['sha256' => $shas['resting']]]],
    ];
    foreach ($steps as $position => [$kind, $detail]) {
        DB::table('plan_steps')->insert([
            'plan_id' => $plan,
            'position' => $position,
            'kind' => $kind,
            'title' => '',
            'state' => 'done',
            'detail' => json_encode($detail),
        ]);
    }
    @mkdir(Storage::disk('vault')->path('parts'));
    $begun = Storage::disk('vault')->path('parts/0123abcd.ylema-part');
    file_put_contents($begun, 'half');
    touch($begun, time() - 9 * 86_400);
    [$count, $weight] = (new Clearing())->run();
    $vault = new Vault();
    expect($count)
        ->toBeGreaterThanOrEqual(1)
        ->and($weight)
        ->toBeGreaterThanOrEqual(26)
        ->and($vault->has($nobodys))
        ->toBeFalse()
        ->and(is_file($begun))
        ->toBeFalse()
        ->and($vault->has($fresh))
        ->toBeTrue();
    foreach ($shas as $word => $sha) {
        expect($vault->get($sha))->toBe("bytes $word");
    }
    unlink(keptPath($fresh));
});

it('clears nothing while a plan is being made, and puts back what a killed clearing moved', function (): void {
    $sha = keptSince(3, 'a plan is about to say that it needs this');
    Storage::disk('vault')->move(substr($sha, 0, 2)."/$sha", "leaving/$sha");
    DB::table('plans')->insert([
        'site_id' => $this->site()->id,
        'kind' => 'swap',
        'state' => 'making',
        'request' => '{}',
    ]);
    expect((new Clearing())->run())
        ->toBe([0, 0])
        ->and((new Vault())->has($sha))
        ->toBeTrue();
    DB::table('plans')->where('state', 'making')->delete();
    (new Clearing())->run();
    expect((new Vault())->has($sha))->toBeFalse();
});

it('makes kept bytes fresh that are kept once more', function (): void {
    $sha = keptSince(9, 'the same again');
    (new Vault())->put('the same again');
    clearstatcache();
    expect(filemtime(keptPath($sha)))->toBeGreaterThan(time() - 60);
    unlink(keptPath($sha));
});

it('clears uploads away after a day that no plan uses', function (): void {
    $uploads = new Uploads();
    $disk = Storage::disk('work');
    $token = fn (): string => $uploads->keep($this->jpeg(60, 40), 'boat.jpg', $this->site())['token'];
    [$old, $fresh, $used, $done] = [$token(), $token(), $token(), $token()];
    foreach ([$old, $used, $done] as $name) {
        foreach (['', '.json'] as $end) {
            touch($disk->path("uploads/$name$end"), time() - 90_000);
        }
    }
    foreach ([[$used, 'open'], [$done, 'applied']] as [$name, $state]) {
        DB::table('plans')->insert([
            'site_id' => $this->site()->id,
            'kind' => 'swap',
            'state' => $state,
            'request' => json_encode(['upload' => $name]),
        ]);
    }
    $this->artisan('ylema:clear')->assertSuccessful();
    expect($disk->exists("uploads/$old"))
        ->toBeFalse()
        ->and($disk->exists("uploads/$done.json"))
        ->toBeFalse()
        ->and($disk->exists("uploads/$used.json"))
        ->toBeTrue()
        ->and($disk->exists("uploads/$fresh"))
        ->toBeTrue();
    $this->as(Role::Maintainer)
        ->getJson("/api/sites/korrin-bay/uploads/$old")
        ->assertStatus(422)
        ->assertJsonPath('detail', 'The uploaded picture is no longer here. Send it again.');
});
