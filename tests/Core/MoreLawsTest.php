<?php

declare(strict_types=1);

use Tests\Core\Generators\Laws;

// A file of its own, so that two processes share the work.
it('keeps the laws of reading and changing on more of them', function (int $from): void {
    [$written, $refused] = (new Laws())->readings($from, 2500);
    // A refusal is honest, but the rule must not be.
    expect($written)
        ->toBeGreaterThan(2 * $refused)
        ->and($written)
        ->toBeGreaterThan(1000);
})->with([10_000, 12_500, 15_000, 17_500]);
