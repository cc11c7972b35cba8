<?php

declare(strict_types=1);

use Random\Engine\Mt19937;
use Random\Randomizer;
use Ylema\Usage\CarrierGraph;
use Ylema\Usage\PageSet;
use Ylema\Usage\RecordState as State;
use Ylema\Usage\Standing;

/**
 * The same question answered by walking every chain, as slowly as it likes.
 *
 * @param  array<int, State>  $states
 * @param  list<int>  $public
 * @param  list<array{int, int}>  $edges
 * @return list<int> live pages from which live records lead to one
 */
function walked(array $states, array $public, array $edges, int $to): array
{
    $pages = [];
    foreach ($public as $page) {
        $seen = [];
        $queue = $states[$page] === State::Live ? [$page] : [];
        while ($queue !== []) {
            $at = array_pop($queue);
            if (isset($seen[$at])) {
                continue;
            }
            $seen[$at] = true;
            foreach ($edges as [$parent, $child]) {
                if ($parent === $at && $states[$child] === State::Live) {
                    $queue[] = $child;
                }
            }
        }
        if (isset($seen[$to])) {
            $pages[] = $page;
        }
    }
    sort($pages);

    return $pages;
}

it('reaches what walking every chain reaches, on any graph', function (int $seed): void {
    $random = new Randomizer(new Mt19937($seed));
    $count = $random->getInt(3, 25);
    $states = [];
    for ($record = 1; $record <= $count; $record++) {
        // Most records of a site are live.
        $states[$record] = [State::Live, State::Live, State::Live, State::Waiting, State::Fading][
            $random->getInt(0, 4)
        ];
    }
    $public = range(1, max(1, intdiv($count, 3)));
    $edges = [];
    for ($n = $random->getInt(0, 3 * $count); $n > 0; $n--) {
        $edges[] = [$random->getInt(1, $count), $random->getInt(1, $count)];
    }
    $graph = new CarrierGraph($states, $public, $edges);
    foreach (array_keys($states) as $record) {
        $pages = $graph->pagesOf([$record]);
        sort($pages);
        $walked = walked($states, $public, $edges, $record);
        expect($pages)
            ->toBe($walked, "record $record of seed $seed")
            ->and($graph->countPagesOf([$record]))
            ->toBe(count($walked));
        // Whoever is met is live.
        if ($walked !== []) {
            expect($graph->stateOf($record))->toBe(State::Live);
        }
    }
})->with(range(1, 60));

it('does not care in which order it is told', function (): void {
    $states = array_fill_keys(range(1, 12), State::Live);
    $edges = [[1, 5], [2, 5], [5, 6], [6, 7], [7, 8], [3, 8], [8, 9], [9, 6]];
    $pages = static function (array $edges) use ($states): array {
        $graph = new CarrierGraph($states, [1, 2, 3], $edges);

        return array_map(static function (int $record) use ($graph): array {
            $pages = $graph->pagesOf([$record]);
            sort($pages);

            return $pages;
        }, range(1, 12));
    };
    $first = $pages($edges);
    expect($pages(array_reverse($edges)))
        ->toBe($first)
        ->and($first[8])
        ->toBe([1, 2, 3])
        ->and($first[9])
        ->toBe([]);
});

it('forgets edges to records that it does not know', function (): void {
    $graph = new CarrierGraph([1 => State::Live, 2 => State::Live], [1], [[1, 99], [99, 2], [1, 2]]);
    expect($graph->pagesOf([2]))
        ->toBe([1])
        ->and($graph->pagesOf([99]))
        ->toBe([]);
});

it('counts a page once, in however many ways it is reached', function (): void {
    $graph = new CarrierGraph(
        array_fill_keys([1, 10, 11, 20], State::Live),
        [1],
        [[1, 10], [1, 11], [10, 20], [11, 20], [1, 20]],
    );
    expect($graph->countPagesOf([20]))->toBe(1)->and($graph->countPagesOf([10, 11, 20, 1]))->toBe(1);
});

it('takes the best of all places', function (array $states, Standing $standing): void {
    $all = [];
    foreach ($states as $i => $state) {
        $all[$i + 1] = $state;
    }
    expect((new CarrierGraph($all, array_keys($all), []))->standingOf(array_keys($all)))->toBe($standing);
})->with([
    'one live' => [[State::Fading, State::Live, State::Waiting], Standing::Live],
    'none live' => [[State::Fading, State::Waiting], Standing::Waiting],
    'only faded' => [[State::Fading, State::Fading], Standing::Fading],
    'none at all' => [[], Standing::Idle],
]);

it('holds sets of pages as sets', function (array $a, array $b): void {
    $union = array_values(array_unique([...$a, ...$b]));
    sort($union);
    $bits = PageSet::union(PageSet::of($a), PageSet::of($b));
    expect(PageSet::pages($bits))
        ->toBe($union)
        ->and(PageSet::count($bits))
        ->toBe(count($union))
        ->and(PageSet::pages(PageSet::union(PageSet::of($b), PageSet::of($a))))
        ->toBe($union);
})->with([
    'nothing' => [[], []],
    'one' => [[0], []],
    'the same' => [[3, 5], [3, 5]],
    'apart' => [[0, 7, 8], [1, 9, 15, 16]],
    'far apart' => [[2], [70_000]],
    'a whole byte' => [[0, 1, 2, 3, 4, 5, 6, 7], [8]],
]);

it('takes the worse of two states', function (State $a, State $b, State $worse): void {
    expect($a->and($b))->toBe($worse)->and($b->and($a))->toBe($worse);
})->with([
    [State::Live, State::Live, State::Live],
    [State::Live, State::Waiting, State::Waiting],
    [State::Live, State::Fading, State::Fading],
    [State::Waiting, State::Fading, State::Fading],
]);

it('reads its own words', function (State $state): void {
    expect(State::ofWord($state->word()))->toBe($state);
})->with(State::cases());
