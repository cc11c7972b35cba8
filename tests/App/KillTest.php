<?php

declare(strict_types=1);

use App\Plans\Planners;
use Tests\App\Kill\AllKindsPlanner;
use Tests\App\Kill\Killing;
use Tests\App\Sources\Source;

it('loses nothing and leaves nothing half done when workers are killed', function (string $kind): void {
    $this->touched();
    app(Planners::class)->add(AllKindsPlanner::class);
    $killing = new Killing($kind, 4711);
    // It kills twice: on the way there and on the way back. bench/kill does so for as long as it is told to.
    $killing->once();
    expect(array_sum($killing->caught))->toBe(2);
})->with(Source::KINDS);
