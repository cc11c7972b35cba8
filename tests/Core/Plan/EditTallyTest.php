<?php

declare(strict_types=1);

use Tests\Core\Plan\KnownFacts;
use Ylema\Plan\EditTally;
use Ylema\Plan\Refused;
use Ylema\Plan\Steps\EditRecord;

it('counts what is written and what is left, and asks each kind once what moves by itself', function (): void {
    $step = new EditRecord('stamped', '1', 'One', 'a', 'b', []);
    $tally = new EditTally();
    expect($tally->isEmpty())->toBeTrue();
    $tally->took(new Refused($step, 'It is locked.'), 'locked', 4);
    expect([$tally->isEmpty(), $tally->left(), $tally->references()])->toBe([false, 4, 0]);
    $tally->took($step, 'stamped', 2);
    $tally->took($step, 'stamped', 1);
    expect([$tally->left(), $tally->sentence(), $tally->stamps(new KnownFacts())])->toBe([
        4,
        '3 references in 2 records',
        ['It moves.'],
    ]);
});

it('has visitors look for some of the values, numbers too, and for each new one once', function (): void {
    $tally = new EditTally();
    $tally->note('17', 'new');
    foreach (range(1, 500) as $n) {
        $tally->note("old-$n", 'new');
    }
    $expected = $tally->expectation();
    expect(count($expected->unsaid))
        ->toBe(400)
        ->and($expected->unsaid[0])
        ->toBe('17')
        ->and($expected->said)
        ->toBe(['new'])
        ->and($expected->everywhere)
        ->toBeFalse();
});
