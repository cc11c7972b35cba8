<?php

declare(strict_types=1);

namespace Ylema\Reading;

/**
 * Decodes one token from left to right and notes where offsets part.
 *
 * @internal the readers' working material
 */
final class Decoding
{
    private string $text = '';

    private string $breaks = '';

    /** Up to here the raw text was taken. */
    private int $from = 0;

    /** @param  int  $start where the raw text begins in its slice */
    public function __construct(private readonly string $raw, private readonly int $start)
    {
    }

    /** An escape at an offset of the raw text stands for something; what is before it stands for itself. */
    public function replace(int $offset, int $length, string $by): void
    {
        $this->text .= substr($this->raw, $this->from, $offset - $this->from).$by;
        $this->from = $offset + $length;
        $this->breaks .= pack('VV', strlen($this->text), $this->start + $this->from);
    }

    /** @return array{string, Breaks|null} the decoded text, and where offsets part; null where nothing was replaced */
    public function done(): array
    {
        return $this->breaks === ''
            ? [$this->raw, null]
            : [$this->text.substr($this->raw, $this->from), new Breaks($this->breaks)];
    }
}
