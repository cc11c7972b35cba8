<?php

declare(strict_types=1);

namespace App\Survey;

use App\Outgoing\Visit;

/** What a survey counts on its way, and how often in a row nobody answered. */
final class Tally
{
    private ?string $problem = null;

    /** @param  array<string, int>  $totals */
    public function __construct(public array $totals)
    {
    }

    public function add(string $name, int $by = 1): void
    {
        $this->totals[$name] = ($this->totals[$name] ?? 0) + $by;
    }

    /** A host that nobody allowed to be asked says nothing about itself. */
    public function answered(bool $well, Visit $visit): void
    {
        if ($well) {
            $this->totals['in_a_row'] = 0;
        } else {
            $this->add('in_a_row');
            $this->problem = $visit->problem ?? "It answers {$visit->status()}.";
        }
    }

    public function quiet(string $host, bool $isQuiet): void
    {
        $this->totals["quiet $host"] = $isQuiet ? ($this->totals["quiet $host"] ?? 0) + 1 : 0;
    }

    public function isQuiet(string $host, int $patience): bool
    {
        return ($this->totals["quiet $host"] ?? 0) >= $patience;
    }

    public function lastProblem(): string
    {
        return rtrim($this->problem ?? 'it answered with errors', '.');
    }
}
