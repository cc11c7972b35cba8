<?php

declare(strict_types=1);

use Tests\Core\Generators\Laws;

it('never hangs or throws on damage, whatever it is', function (int $from): void {
    $laws = new Laws();
    $found = 0;
    for ($seed = $from; $seed < $from + 3000; $seed++) {
        $found += $laws->damage($seed);
    }
    expect($found)->toBeGreaterThan(3000);
})->with([100_000]);
