<?php

declare(strict_types=1);

namespace Ylema\Change;

use RuntimeException;
use Ylema\Failure;

/** Edits that do not fit their text or each other; nothing has been written when this is thrown. */
final class EditConflict extends RuntimeException implements Failure
{
    /** @param  int|null  $offset in bytes of the text, where one place is meant */
    private function __construct(string $message, public readonly ?int $offset, public readonly ?string $value)
    {
        parent::__construct($message);
    }

    public static function overlapping(int $offset): self
    {
        return new self("Two edits claim the same bytes at offset $offset.", $offset, null);
    }

    public static function unexpected(int $offset, string $expected): self
    {
        return new self(
            sprintf(
                'At offset %d the text no longer reads "%s".',
                $offset,
                mb_strimwidth(mb_scrub($expected), 0, 80, '…'),
            ),
            $offset,
            $expected,
        );
    }

    public static function standsOn(int $offset): self
    {
        return new self("A later edit touched the same bytes, at offset $offset.", $offset, null);
    }

    public static function notReadBack(string $value): self
    {
        return new self(
            "Written at this place, \"$value\" would not be read back as the same reference, so it was not written.",
            null,
            $value,
        );
    }

    /** It stands where nothing can be left out: in a style, in serialized data. */
    public static function staysIn(string $value): self
    {
        return new self(
            'What shows "'.mb_strcut(mb_scrub($value), 0, 120).'" cannot be taken out of this place by itself. Choose '
                .'something else for it, or edit the record by hand.',
            null,
            $value,
        );
    }
}
