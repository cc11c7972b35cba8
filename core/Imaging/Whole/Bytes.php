<?php

declare(strict_types=1);

namespace Ylema\Imaging\Whole;

/**
 * Reads numbers out of a file's bytes; what lies behind the end is null.
 *
 * @internal
 */
final readonly class Bytes
{
    public int $length;

    public function __construct(public string $bytes)
    {
        $this->length = strlen($bytes);
    }

    public function at(int $offset): int
    {
        return ord($this->bytes[$offset] ?? "\0");
    }

    /** Big-endian, as in PNG, JPEG and ISO boxes. */
    public function big(int $offset, int $size): ?int
    {
        return $offset < 0 || $offset + $size > $this->length
            ? null
            : (int) hexdec(bin2hex(substr($this->bytes, $offset, $size)));
    }

    /** Little-endian, as in RIFF and GIF. */
    public function little(int $offset, int $size): ?int
    {
        return $offset < 0 || $offset + $size > $this->length
            ? null
            : (int) hexdec(bin2hex(strrev(substr($this->bytes, $offset, $size))));
    }

    public function slice(int $offset, int $size): string
    {
        return substr($this->bytes, $offset, $size);
    }
}
