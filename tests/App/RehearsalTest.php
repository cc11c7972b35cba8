<?php

declare(strict_types=1);

use App\Models\Role;
use Illuminate\Support\Facades\Artisan;

/*
 * A rehearsal says what a plan would write, and writes nothing.
 */

it('names the statement, the key and the bytes of each edit, and writes nothing', function (): void {
    $plan = $this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg');
    $before = [$this->contentDigest(), $this->fileHashes()];
    $says = $this->as(Role::Viewer)
        ->get("/api/sites/korrin-bay/plans/$plan->id/rehearsal")
        ->assertOk()
        ->assertHeader('Content-Type', 'text/plain; charset=utf-8')
        ->streamedContent();
    expect(substr_count($says, 'edit-record: '))
        ->toBe($plan->steps()->where('kind', 'edit-record')->count())
        ->and($says)
        ->toMatch('~^update "entries" set "body" = :body where .*id~m')
        ->toMatch('~^    with \["?\d+"?\]$~m')
        ->toMatch('~^    body, byte \d+: ".*maren-oake.*" → ".*lise-holm.*"$~m')
        ->toContain('only if the record is still as the plan saw it')
        ->and([$this->contentDigest(), $this->fileHashes()])
        ->toBe($before);
    expect(Artisan::call('ylema:rehearse', ['plan' => (string) $plan->id]))
        ->toBe(0)
        ->and(trim(Artisan::output()))
        ->toBe(trim($says));
    expect(Artisan::call('ylema:rehearse', ['plan' => '999999']))->toBe(2);
});

it('names the files that would be written', function (): void {
    $file = self::folder().'/other.jpg';
    file_put_contents($file, $this->jpeg());
    Artisan::call('ylema:swap', [
        'site' => 'korrin-bay',
        'from' => 'media/people/maren-oake.jpg',
        'to' => $file,
        '--same-address' => true,
        '--dry-run' => true,
    ]);
    $plan = App\Models\Plan::query()->orderByDesc('id')->firstOrFail();
    Artisan::call('ylema:rehearse', ['plan' => (string) $plan->id]);
    expect(Artisan::output())->toMatch(
        '~^other bytes for media/people/maren-oake\S*\.jpg: \d+ bytes, SHA-256 [0-9a-f]{64}; written beside it, '
            .'then renamed$~m',
    );
});

it('says of a kind that is never written that it would be refused', function (): void {
    $this->touched();
    $plan = $this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg');
    $site = $this->site();
    $map = str_replace("  page:\n", "  page:\n    read_only: true\n", $site->field_map, $count);
    expect($count)->toBe(1);
    $site->update(['field_map' => $map]);
    Artisan::call('ylema:rehearse', ['plan' => (string) $plan->id]);
    expect(Artisan::output())->toContain(
        'refused: the field map says that it is never written (records.page.read_only)',
    );
});

it('leaves out of a plan what the map says is never written, with the reason', function (): void {
    $this->touched();
    $site = $this->site();
    $kept = '      body: { notation: html, read_only: true }';
    $map = preg_replace('~^      body: html$~m', $kept, $site->field_map, 1, $count);
    expect($count)->toBe(1);
    $site->update(['field_map' => $map]);
    $plan = $this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg');
    $left = $plan->steps()->where('state', 'left-out')->get();
    expect($left->count())
        ->toBeGreaterThan(10)
        ->and($left->pluck('record_kind')->unique()->sort()->values()->all())
        ->toBe(['page', 'post'])
        ->and($left->pluck('message')->unique()->count())
        ->toBe($left->count())
        ->and($left->firstWhere('record_kind', 'post')?->message)
        ->toContain('its body is never written (records.post.fields.body)');
});
