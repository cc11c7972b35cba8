<?php

declare(strict_types=1);

use App\Models\MediaItem;
use App\Reading\ReadSite;
use App\Retire\Proofs;
use Tests\App\Connect\NetLaw;
use Tests\App\Hiding;

/**
 * The law of the net: what any byte names is never safe; and what nothing names stays so.
 *
 * More seeds than those of the suite: YLEMA_SEED begins with another, YLEMA_CASES says how many.
 */
it('never calls safe what any byte of content, code or files names', function (int $seed): void {
    $this->touched();
    NetLaw::allLooked($this->site());
    (new Proofs($this->site()->id))->settle();
    $safe = MediaItem::query()->where('verdict', 'safe')->pluck('path')->all();
    expect(count($safe))->toBeGreaterThan(3);

    $hiding = new Hiding($seed, self::folder(), self::content());
    $files = $hiding->lay(60, $this->jpeg(40, 40));
    $hidden = [];
    foreach (array_slice($files, 0, 40) as $n => $path) {
        $hidden[$path] = $n % 8 === 7 ? $hiding->tie($path) : $hiding->hide($path);
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
