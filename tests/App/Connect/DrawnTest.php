<?php

declare(strict_types=1);

use Tests\App\Connect\Drawn\Measured;

/*
 * Sites without end: each drawn from a seed with habits of its own, and proposed a map told nothing.
 *
 * Twelve are the same in every run, and one is another each day. YLEMA_SEED begins with another, YLEMA_CASES says how
 * many. bench/habits prints what hundreds of them come to.
 */

beforeEach(fn () => $this->touched());

it('proposes a map of a drawn site that finds its uses and invents none', function (int $seed): void {
    $folder = self::folder().'/drawn';
    $connection = Measured::connection($seed, self::folder().'/drawn.sqlite');
    $measured = Measured::of($connection, $folder, $seed);
    $said = json_encode([
        $measured->drawn->habits,
        array_slice($measured->missed, 0, 9),
        array_slice($measured->invented, 0, 9),
        array_slice($measured->falseFindings, 0, 9),
        array_slice($measured->lostPages, 0, 9),
    ], JSON_UNESCAPED_SLASHES);
    expect($measured->found())
        ->toBeGreaterThanOrEqual(0.85, (string) $said)
        ->and(count($measured->invented))
        ->toBeLessThanOrEqual(0.005 * $measured->uses, (string) $said)
        ->and($measured->safeButUsed)
        ->toBe([])
        ->and($measured->lostPages)
        ->toBe([], (string) $said);
    // What is asked and answered brings more, never less.
    $answered = $measured->answered($folder);
    expect($answered?->found() ?? 1.0)->toBeGreaterThanOrEqual($measured->found());
})->with(static function (): array {
    $seed = getenv('YLEMA_SEED');
    if ($seed !== false && $seed !== '') {
        return range((int) $seed, (int) $seed - 1 + (int) (getenv('YLEMA_CASES') ?: 12));
    }

    return [...range(1, 12), 100_000 + intdiv(time(), 86_400)];
});
