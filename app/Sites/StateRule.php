<?php

declare(strict_types=1);

namespace App\Sites;

use DateTimeImmutable;
use Ylema\Usage\RecordState;

/** What one column, or two dates, say of a record's state. */
final readonly class StateRule
{
    /** Spellings that databases have for the same truth. */
    private const SAME = ['true' => '1', 't' => '1', '1' => 'true', 'false' => '0', 'f' => '0', '0' => 'false'];

    /** What a column holds that holds nothing, beside dates of zeros. */
    private const EMPTY = ['', '0', 'false', 'f'];

    /**
     * @param  string|null  $column whose word decides
     * @param  array<string, RecordState>  $words word → state
     * @param  RecordState|null  $otherwise for a word that is not listed; null where any is as good
     * @param  RecordState|null  $set for a column that holds anything but nothing, zero or false
     * @param  RecordState|null  $empty for one that holds just that
     */
    public function __construct(
        public ?string $column,
        private array $words = [],
        private ?RecordState $otherwise = null,
        private ?RecordState $set = null,
        private ?RecordState $empty = null,
        public ?DateColumn $from = null,
        public ?DateColumn $until = null,
    ) {
    }

    /** @return list<string> */
    public function columns(): array
    {
        return array_values(array_filter([$this->column, $this->from?->column, $this->until?->column], is_string(...)));
    }

    /** @param  array<string, string|null>  $row column → text */
    public function of(array $row, DateTimeImmutable $now): RecordState
    {
        $state = RecordState::Live;
        if ($this->column !== null) {
            $state = $this->said(trim($row[$this->column] ?? ''));
        }
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

    private function said(string $word): RecordState
    {
        $listed = $this->words[$word] ?? ($this->words[self::SAME[$word] ?? "\0"] ?? null);
        if ($listed !== null) {
            return $listed;
        }
        $isEmpty = in_array($word, self::EMPTY, true) || preg_match('~^[0\s:.TZ/+-]+$~D', $word) === 1;
        $whether = $isEmpty ? $this->empty : $this->set;

        return $whether ?? ($this->otherwise ?? RecordState::Live);
    }
}
