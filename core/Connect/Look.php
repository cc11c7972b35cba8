<?php

declare(strict_types=1);

namespace Ylema\Connect;

use Ylema\Reading\Notation;

/** What the values of a column, or of a place inside them, plainly are. */
final readonly class Look
{
    /**
     * @param  int  $seen values that were looked at
     * @param  int  $fit values that are of this notation
     * @param  int  $used values that name files which exist
     * @param  string|null  $below the folder before bare paths
     * @param  array<string, array{notation: Notation, below?: string}>  $paths places inside structured values that
     *       need a rule of their own
     * @param  array<string, list<string>>  $numbers places inside structured values that hold whole numbers → some
     * @param  string|null  $packed how the values are kept, where that is otherwise than as they are, as a map says it
     */
    public function __construct(
        public ?Notation $notation,
        public int $seen = 0,
        public int $fit = 0,
        public int $used = 0,
        public ?string $below = null,
        public array $paths = [],
        public array $numbers = [],
        public ?string $packed = null,
    ) {
    }

    public function sentence(): string
    {
        $what = match ($this->notation) {
            Notation::Html => 'hold markup',
            Notation::Json => 'are json',
            Notation::PhpSerialized => 'are serialized by PHP',
            Notation::Markdown => 'are Markdown',
            Notation::Css => 'are style',
            Notation::Srcset => 'are lists of sizes',
            Notation::Addresses => 'are lists of addresses',
            Notation::Url => 'are addresses',
            Notation::Text => 'are plain text',
            Notation::MediaId => 'are ids of media',
            default => 'are words',
        };
        $what .= $this->packed === null ? '' : ", $this->packed";

        return "$this->fit of $this->seen sampled values $what"
            .($this->used > 0 ? ", $this->used with files that exist" : '')
            .($this->below !== null ? ", as bare paths below $this->below" : '');
    }
}
