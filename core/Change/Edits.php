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

    /**
     * The same edits for the text that later ones made of the text which these fit: each where its bytes stand now, as
     * in a three-way merge. A stated length that both mended is mended by both.
     *
     * @param  callable(Edit): bool  $isMend whether an edit mends a stated length
     *
     * @throws EditConflict when a later edit touched the same bytes
     */
    public function through(self $later, callable $isMend): self
    {
        $carried = [];
        $shift = $next = 0;
        foreach ($this->edits as $edit) {
            $other = $later->edits[$next] ?? null;
            while ($other !== null && self::isBefore($other, $edit)) {
                $shift += strlen($other->after) - strlen($other->before);
                $other = $later->edits[++$next] ?? null;
            }
            if ($other === null || self::isBefore($edit, $other)) {
                $carried[] = new Edit($edit->start + $shift, $edit->before, $edit->after, $edit->reference);

                continue;
            }
            $isSame = [$other->start, $other->before] === [$edit->start, $edit->before];
            if (! $isSame || ! $isMend($edit) || ! ctype_digit($edit->before.$edit->after.$other->after)) {
                throw EditConflict::standsOn($edit->start);
            }
            $length = (int) $other->after + (int) $edit->after - (int) $edit->before;
            $carried[] = new Edit($edit->start + $shift, $other->after, (string) $length);
            $shift += strlen($other->after) - strlen($other->before);
            $next++;
        }

        return new self($carried);
    }

    /** Whether an edit ends before another begins; of two at one point nobody knows which comes first. */
    private static function isBefore(Edit $one, Edit $other): bool
    {
        return $one->end() < $other->start
            || ($one->end() === $other->start && $one->before !== '' && $other->before !== '');
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
