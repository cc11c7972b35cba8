<?php

declare(strict_types=1);

namespace Ylema\Change;

/** The edits of one text: sorted, not overlapping, and each holding the bytes that it expects to find. */
final readonly class Edits
{
    /** @param  list<Edit>  $edits sorted by place */
    private function __construct(public array $edits)
    {
    }

    /**
     * @param  list<Edit>  $edits in any order
     *
     * @throws EditConflict when two of them claim the same bytes
     */
    public static function of(array $edits): self
    {
        usort($edits, static fn (Edit $a, Edit $b): int => $a->start <=> $b->start ?: $a->end() <=> $b->end());
        $end = -1;
        foreach ($edits as $edit) {
            if ($edit->start < $end) {
                throw EditConflict::overlapping($edit->start);
            }
            $end = $edit->end();
        }

        return new self($edits);
    }

    /** @throws EditConflict when the text does not hold what an edit expects to replace */
    public function applyTo(string $text): string
    {
        $out = '';
        $from = 0;
        foreach ($this->edits as $edit) {
            if (substr($text, $edit->start, strlen($edit->before)) !== $edit->before || $edit->start > strlen($text)) {
                throw EditConflict::unexpected($edit->start, $edit->before);
            }
            $out .= substr($text, $from, $edit->start - $from).$edit->after;
            $from = $edit->end();
        }

        return $out.substr($text, $from);
    }

    /** The edits that lead back: applied to the result, they give the text as it was, byte for byte. */
    public function inverse(): self
    {
        $shift = 0;
        $inverse = [];
        foreach ($this->edits as $edit) {
            $inverse[] = new Edit($edit->start + $shift, $edit->after, $edit->before, $edit->reference);
            $shift += strlen($edit->after) - strlen($edit->before);
        }

        return new self($inverse);
    }
}
