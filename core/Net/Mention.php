<?php

declare(strict_types=1);

namespace Ylema\Net;

/**
 * Bytes of a text that name a file of the site, and that no reader took for a reference.
 *
 * `start` and `length` are bytes of the outermost text, whatever it was hidden in.
 */
final readonly class Mention
{
    /**
     * @param  string  $folder as it stands before the name, folded, without scheme and host; ends in `/`, or empty
     * @param  string  $stem the folded name of a file without its ending
     * @param  string  $ending that stands behind it, without the dot; empty where none does
     * @param  string|null  $item the key of a media item that a token says; then all before is empty
     */
    public function __construct(
        public int $start,
        public int $length,
        public Strength $strength,
        public string $folder = '',
        public string $stem = '',
        public string $ending = '',
        public ?string $item = null,
    ) {
    }

    /** The same in a text in which this one begins at an offset. */
    public function moved(int $by): self
    {
        return new self(
            $this->start + $by,
            $this->length,
            $this->strength,
            $this->folder,
            $this->stem,
            $this->ending,
            $this->item,
        );
    }

    /** As a person reads it. */
    public function said(): string
    {
        return $this->item ?? $this->folder.$this->stem.($this->ending === '' ? '' : ".$this->ending");
    }
}
