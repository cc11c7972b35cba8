<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

use Ylema\Change\Bytes;
use Ylema\Change\Edit;
use Ylema\Change\EditConflict;
use Ylema\Change\Edits;
use Ylema\Reading\Excerpt;

/** The edits of one field, and beside each what a person sees of it. */
final readonly class FieldEdits
{
    private const AROUND = 70;

    /** @param  list<EditNote>  $notes one for each edit, in the same order */
    private function __construct(public Edits $edits, public array $notes)
    {
    }

    public static function of(string $text, Edits $edits): self
    {
        return new self(
            $edits,
            array_map(static function (Edit $edit) use ($text): EditNote {
                $excerpt = Excerpt::of($text, $edit->start, strlen($edit->before), self::AROUND);

                return new EditNote($edit->reference?->role, $edit->reference?->line(), $excerpt->lead, $excerpt->tail);
            }, $edits->edits),
        );
    }

    /** @return int how many references it changes; mended lengths are none */
    public function count(): int
    {
        return count(array_filter($this->notes, static fn (EditNote $note): bool => $note->role !== null));
    }

    /**
     * The same for the text that later edits made of the field.
     *
     * @throws EditConflict when they touched the same bytes
     */
    public function through(self $later): self
    {
        $mends = array_map(static fn (EditNote $note): bool => $note->role === null, $this->notes);
        $isMend = fn (Edit $edit): bool => $mends[(int) array_search($edit, $this->edits->edits, true)];

        return new self($this->edits->through($later->edits, $isMend), $this->notes);
    }

    public function inverse(): self
    {
        return new self($this->edits->inverse(), $this->notes);
    }

    /**
     * @return list<array{0: int, 1: mixed, 2: mixed, 3: string|null, 4: int|null, 5: string, 6: string}> start, before,
     *       after, role, line, lead, tail
     */
    public function toArray(): array
    {
        return array_map(
            static fn (Edit $edit, EditNote $note): array => [
                $edit->start,
                Bytes::pack($edit->before),
                Bytes::pack($edit->after),
                $note->role,
                $note->line,
                $note->lead,
                $note->tail,
            ],
            $this->edits->edits,
            $this->notes,
        );
    }

    /** @param  array<mixed>  $data as toArray() made it */
    public static function fromArray(array $data): self
    {
        $edits = $notes = [];
        foreach ($data as $row) {
            if (is_array($row)) {
                $edits[] = new Edit(
                    is_int($row[0] ?? null) ? $row[0] : 0,
                    Bytes::unpack($row[1] ?? ''),
                    Bytes::unpack($row[2] ?? ''),
                );
                $notes[] = new EditNote(
                    is_string($row[3] ?? null) ? $row[3] : null,
                    is_int($row[4] ?? null) ? $row[4] : null,
                    is_string($row[5] ?? null) ? $row[5] : '',
                    is_string($row[6] ?? null) ? $row[6] : '',
                );
            }
        }

        return new self(Edits::of($edits), $notes);
    }
}
