<?php

declare(strict_types=1);

use Tests\Core\Generators\Laws;

it('keeps the laws of reading and changing', function (int $from): void {
    [$written, $refused] = (new Laws())->readings($from, 2500);
    // A refusal is honest, but the rule must not be.
    expect($written)
        ->toBeGreaterThan(2 * $refused)
        ->and($written)
        ->toBeGreaterThan(1000);
})->with([0, 2500, 5000, 7500]);
