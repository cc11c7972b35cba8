<?php

declare(strict_types=1);

namespace App\Changes\Executors;

use LogicException;
use Ylema\Plan\StepKind;

/** The executor of each kind of step. */
final class Executors
{
    /** @var array<string, Executor> */
    private array $byKind = [];

    public function __construct(
        RecordEdits $edits,
        Files $files,
        MediaRows $rows,
        Rests $rests,
        Archives $archives,
        Redirects $redirects,
    ) {
        foreach ([$edits, $files, $rows, $rests, $archives, $redirects] as $executor) {
            foreach ($executor->kinds() as $kind) {
                $this->byKind[$kind->value] = $executor;
            }
        }
    }

    public function of(StepKind $kind): Executor
    {
        return $this->byKind[$kind->value] ?? throw new LogicException("No executor carries out {$kind->value}.");
    }
}
