<?php

declare(strict_types=1);

namespace Ylema\Plan;

use Ylema\Plan\Steps\EditRecord;

/** Counts what the edits of a plan come to while it is made, and keeps what its outline says of them. */
final class EditTally
{
    /** Values that verification looks for; one page says a few. */
    private const EXPECTED = 400;

    private int $references = 0;

    private int $records = 0;

    private int $left = 0;

    /** @var array<array-key, string> before → after */
    private array $values = [];

    /** @var array<string, true> kinds of records that are written */
    private array $kinds = [];

    public function note(string $before, string $after): void
    {
        if (count($this->values) < self::EXPECTED) {
            $this->values[$before] = $after;
        }
    }

    /** @param  int  $references that the step is about */
    public function took(EditRecord|Refused $step, string $kind, int $references): void
    {
        if ($step instanceof Refused) {
            $this->left += $references;

            return;
        }
        $this->references += $references;
        $this->records++;
        $this->kinds[$kind] = true;
    }

    /** References that are written. */
    public function references(): int
    {
        return $this->references;
    }

    /** References that cannot be written. */
    public function left(): int
    {
        return $this->left;
    }

    public function isEmpty(): bool
    {
        return $this->references + $this->left === 0;
    }

    /** What pages say afterwards: some may rightly show the old beside the new. */
    public function expectation(): Expectation
    {
        return new Expectation(
            everywhere: false,
            unsaid: array_map(strval(...), array_keys($this->values)),
            said: array_values(array_unique($this->values)),
        );
    }

    /** "3 references in 2 records" */
    public function sentence(): string
    {
        return Words::many($this->references, 'reference').' in '.Words::many($this->records, 'record');
    }

    /** @return list<string> what the site says of the kinds of records that are written */
    public function stamps(Facts $facts): array
    {
        $notes = [];
        foreach (array_keys($this->kinds) as $kind) {
            array_push($notes, ...$facts->stamps((string) $kind));
        }

        return $notes;
    }
}
