<?php

declare(strict_types=1);

namespace App\Sites;

use DateTimeImmutable;
use Ylema\Usage\RecordState;

/** How a row tells whether its record is out: always the same, or by a word and by dates. */
final readonly class RecordStates
{
    /**
     * @param  RecordState|null  $always of every record of the kind
     * @param  string|null  $column whose word decides
     * @param  array<string, RecordState>  $words word → state; one that is not listed counts as waiting
     */
    public function __construct(
        private ?RecordState $always,
        private ?string $column = null,
        private array $words = [],
        private ?DateColumn $from = null,
        private ?DateColumn $until = null,
    ) {
    }

    /** @return list<string> */
    public function columns(): array
    {
        return array_values(array_filter([$this->column, $this->from?->column, $this->until?->column], is_string(...)));
    }

    /** @param  array<string, string>  $row column → text */
    public function of(array $row, DateTimeImmutable $now): RecordState
    {
        if ($this->always !== null) {
            return $this->always;
        }
        // A word that the map does not know is safest taken for something that may come out.
        $state =
            $this->column === null
                ? RecordState::Live
                : $this->words[$row[$this->column] ?? ''] ?? RecordState::Waiting;
        $from = $this->from?->moment($row[$this->from->column] ?? '', false);
        if ($from !== null && $from > $now) {
            $state = $state->and(RecordState::Waiting);
        }
        $until = $this->until?->moment($row[$this->until->column] ?? '', true);
        if ($until !== null && $until < $now) {
            $state = $state->and(RecordState::Fading);
        }

        return $state;
    }
}
