<?php

declare(strict_types=1);

use App\Models\MediaItem;
use App\Reading\ReadSite;
use App\Retire\Proofs;
use Illuminate\Support\Facades\DB;
use Tests\App\Hiding;

/** As if all other witnesses had looked and seen nothing: the net alone decides. */
function allLooked(object $test): void
{
    DB::table('surveys')->where('site_id', $test->site()->id)->delete();
    DB::table('surveys')->insert([
        'site_id' => $test->site()->id,
        'state' => 'done',
        'stage' => 'end',
        'started_at' => now(),
        'worked_at' => now(),
        'finished_at' => now(),
    ]);
    DB::table('log_files')->insert([
        'site_id' => $test->site()->id,
        'name' => 'all.log',
        'begins' => hash('sha256', 'all.log'),
        'lines' => 1,
        'own' => 1,
        'accepted' => true,
        'from_at' => now()->subDays(90),
        'until_at' => now(),
        'read_at' => now(),
    ]);
}

/**
 * The law of the net: what any byte names is never safe; and what nothing names stays so.
 *
 * More seeds than those of the suite: YLEMA_SEED begins with another, YLEMA_CASES says how many.
 */
it('never calls safe what any byte of content, code or files names', function (int $seed): void {
    $this->touched();
    allLooked($this);
    (new Proofs($this->site()->id))->settle();
    $safe = MediaItem::query()->where('verdict', 'safe')->pluck('path')->all();
    expect(count($safe))->toBeGreaterThan(3);

    $hiding = new Hiding($seed, self::folder(), self::content());
    $files = $hiding->lay(60, $this->jpeg(40, 40));
    $hidden = [];
    foreach (array_slice($files, 0, 40) as $path) {
        $hidden[$path] = $hiding->hide($path);
    }
    app(ReadSite::class)->begin($this->site(), null);
    expect($this->site()->beside['left'])->toBe([]);
    $verdicts = MediaItem::query()->pluck('verdict', 'path')->all();
    foreach ($hidden as $path => $how) {
        expect(in_array($verdicts[$path] ?? 'no item', ['ask', 'needed'], true))->toBeTrue($how);
    }
    // The net does not drown in its own catch.
    $idle = [...$safe, ...array_slice($files, 40)];
    $still = array_filter($idle, static fn (string $path): bool => $verdicts[$path] === 'safe');
    expect(array_values(array_diff($idle, $still)))->toBe([]);
})->with(static function (): array {
    $first = (int) (getenv('YLEMA_SEED') ?: 1);

    return range($first, $first + (int) (getenv('YLEMA_CASES') ?: 5) - 1);
});
