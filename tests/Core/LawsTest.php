<?php

declare(strict_types=1);

use Tests\Core\Generators\Laws;

// As many as a run of all tests has time for; bench/laws draws on for as long as it is told to.
it('keeps the laws of reading and changing', function (int $from): void {
    [$written, $refused] = (new Laws())->readings($from, 1500);
    // A refusal is honest, but the rule must not be.
    expect($written)
        ->toBeGreaterThan(2 * $refused)
        ->and($written)
        ->toBeGreaterThan(600);
})->with([0, 10_000]);
