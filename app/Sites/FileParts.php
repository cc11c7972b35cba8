<?php

declare(strict_types=1);

namespace App\Sites;

/** The bytes of a file in parts that share their borders, so that a name on one is whole in the other. */
final readonly class FileParts
{
    private const PART = 1 << 20;

    private const SHARED = 4096;

    /** Files that are larger are looked at as far as this, which is then said. */
    private const LONGEST = 256 << 20;

    /** Endings of files whose bytes are packed by something else than gzip. */
    private const PACKED = '~\.(?:zip|phar|7z|rar|bz2|xz|zst|lz4|br|tgz|jar)$~i';

    /** @return iterable<int, string|NotSearched> offset → bytes */
    public static function of(string $path, string $file): iterable
    {
        if (preg_match(self::PACKED, $path) === 1) {
            $why = 'It is packed, so nobody sees what it names. Unpack it, or take it away.';
            yield 0 => new NotSearched($path, $why);

            return;
        }
        // What gzip packed is read as it was; everything else as it is.
        $handle = @gzopen($file, 'rb');
        if ($handle === false) {
            yield 0 => new NotSearched($path, 'The file cannot be read. Give this user the right.');

            return;
        }
        try {
            $tail = '';
            for ($from = 0; ($part = self::read($handle)) !== ''; $from += strlen($part)) {
                yield $from - strlen($tail) => $tail.$part;
                $tail = substr($part, -self::SHARED);
                if ($from > self::LONGEST) {
                    yield $from => new NotSearched($path, 'It is larger than 256 MB, and was searched as far as that.');

                    return;
                }
            }
            if (! gzeof($handle) || self::isCut($file, $from)) {
                yield $from => new NotSearched($path, 'It could not be read to its end. Look whether it is damaged.');
            }
        } finally {
            gzclose($handle);
        }
    }

    /**
     * Whether a file that gzip packed ends before it says so: its last four bytes are the length of what it holds (RFC
     * 1952, 2.3.1).
     */
    private static function isCut(string $file, int $length): bool
    {
        if (@file_get_contents($file, length: 2) !== "\x1f\x8b") {
            return false;
        }
        $size = (int) @filesize($file);
        $says = unpack('V', (string) @file_get_contents($file, offset: max(0, $size - 4), length: 4));

        return $says === false || $says[1] !== ($length & 0xFFFFFFFF);
    }

    /** @param  resource  $handle */
    private static function read($handle): string
    {
        $bytes = '';
        while (strlen($bytes) < self::PART && ($more = gzread($handle, self::PART - strlen($bytes))) !== false) {
            if ($more === '') {
                break;
            }
            $bytes .= $more;
        }

        return $bytes;
    }
}
