<?php

declare(strict_types=1);

use Ylema\Usage\CarrierGraph;
use Ylema\Usage\PageSet;
use Ylema\Usage\RecordState as State;
use Ylema\Usage\Standing;

it('counts and lists sets of pages', function (): void {
    $set = PageSet::union(PageSet::of([0, 9, 100_000]), PageSet::one(9));
    expect(PageSet::count($set))
        ->toBe(3)
        ->and(PageSet::pages($set))
        ->toBe([0, 9, 100_000])
        ->and(PageSet::count(''))
        ->toBe(0)
        ->and(PageSet::pages(''))
        ->toBe([]);
});

it('follows chains of carriers to the pages', function (): void {
    // page 1, 2 → part 10 → slot 20 → set 30 → banner 40; page 3 → slot 20 by a token in its text
    $graph = new CarrierGraph(
        array_fill_keys([1, 2, 3, 10, 20, 30, 40], State::Live),
        [1, 2, 3],
        [[1, 10], [2, 10], [10, 20], [20, 30], [30, 40], [3, 20]],
    );
    expect($graph->pagesOf([40]))
        ->toBe([1, 2, 3])
        ->and($graph->pagesOf([10]))
        ->toBe([1, 2])
        ->and($graph->countPagesOf([40, 1]))
        ->toBe(3)
        ->and($graph->standingOf([40]))
        ->toBe(Standing::Live)
        ->and($graph->standingOf([]))
        ->toBe(Standing::Idle);
});

it('lets the worst link of the best chain decide', function (array $states, Standing $standing, int $reach): void {
    [$page, $set, $banner] = $states;
    $graph = new CarrierGraph([1 => $page, 30 => $set, 40 => $banner], [1], [[1, 30], [30, 40]]);
    expect($graph->standingOf([40]))->toBe($standing)->and($graph->countPagesOf([40]))->toBe($reach);
})->with([
    [[State::Live, State::Live, State::Live], Standing::Live, 1],
    [[State::Live, State::Live, State::Fading], Standing::Fading, 0],
    [[State::Waiting, State::Live, State::Live], Standing::Waiting, 0],
    [[State::Live, State::Waiting, State::Live], Standing::Waiting, 0],
    [[State::Fading, State::Live, State::Live], Standing::Fading, 0],
]);

it('takes a carrier that nothing shows for waiting', function (): void {
    $graph = new CarrierGraph([40 => State::Live, 41 => State::Fading], [], []);
    expect($graph->standingOf([40]))->toBe(Standing::Waiting)->and($graph->standingOf([41]))->toBe(Standing::Fading);
});

it('settles on cycles', function (): void {
    $graph = new CarrierGraph(
        [1 => State::Live, 10 => State::Live, 11 => State::Live],
        [1],
        [[1, 10], [10, 11], [11, 10], [11, 11]],
    );
    expect($graph->pagesOf([11]))
        ->toBe([1])
        ->and($graph->pagesOf([10]))
        ->toBe([1]);
});
