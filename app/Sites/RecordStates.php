<?php

declare(strict_types=1);

namespace App\Sites;

use DateTimeImmutable;
use Ylema\Usage\RecordState;

/** How a row tells whether its record is out: always the same, or the worst that its columns and dates say. */
final readonly class RecordStates
{
    /**
     * @param  RecordState|null  $always of every record of the kind
     * @param  list<StateRule>  $rules
     */
    public function __construct(private ?RecordState $always, private array $rules = [])
    {
    }

    /** @return list<string> */
    public function columns(): array
    {
        return array_merge([], ...array_map(static fn (StateRule $rule): array => $rule->columns(), $this->rules));
    }

    /** @param  array<string, string|null>  $row column → text */
    public function of(array $row, DateTimeImmutable $now): RecordState
    {
        $state = $this->always ?? RecordState::Live;
        foreach ($this->rules as $rule) {
            $state = $state->and($rule->of($row, $now));
        }

        return $state;
    }
}
