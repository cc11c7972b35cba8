<?php

declare(strict_types=1);

namespace Ylema\Imaging;

/**
 * What in a document would act by itself where somebody opens it: scripts (ISO 32000-1, 12.6.4.16), programs that are
 * started (12.6.4.5), what is sent (12.7.5.2), and files that lie inside (7.11.4).
 *
 * Names are compared as a reader resolves them (7.3.5: `#` and two digits), also in objects that are packed into
 * streams (7.5.7). What cannot be looked into is said, and is not taken for harmless.
 */
final readonly class PdfScripts
{
    private const ACTS = [
        'JavaScript' => 'scripts',
        'JS' => 'scripts',
        'Launch' => 'an action that starts a program',
        'SubmitForm' => 'a form that sends what is filled in',
        'ImportData' => 'an action that reads other files',
        'RichMedia' => 'players that run programs',
        'XFA' => 'a form with scripts (XFA)',
        'EmbeddedFile' => 'files inside of it',
    ];

    /** Bytes that one packed stream of objects may unpack to. */
    private const LARGEST = 32 * 1024 * 1024;

    private const STREAMS = 5000;

    /** Streams of any kind; a document of 40 MB has a tenth of them. */
    private const LOOKED_AT = 100_000;

    /** @return string|null what it holds, for "… holds X"; null where there is none of it */
    public static function in(string $bytes): ?string
    {
        $found = self::named($bytes);
        if ($found !== null) {
            return $found;
        }
        $isLocked = preg_match('~/Encrypt\b~', $bytes) === 1;
        $streams = $seen = 0;
        for ($at = self::next($bytes, 0); $at !== null; $at = self::next($bytes, $at + 6)) {
            if (++$seen > self::LOOKED_AT) {
                return 'more parts than can be looked into';
            }
            [$dictionary, $begin] = self::stream($bytes, $at);
            if (strpbrk($dictionary, '#') === false && ! str_contains($dictionary, 'ObjStm')) {
                continue;
            }
            $names = self::plain($dictionary);
            if (preg_match('~/Type\s*/ObjStm\b~', $names) !== 1) {
                continue;
            }
            if ($isLocked || ++$streams > self::STREAMS || preg_match('~/FlateDecode\b~', $names) !== 1) {
                return 'parts that nobody can look into without its password, or that are packed in a rare way';
            }
            $objects = self::unpacked($bytes, $begin);
            if ($objects === null) {
                return 'packed parts that cannot be unpacked';
            }
            $found = self::named($objects);
            if ($found !== null) {
                return $found;
            }
        }

        return null;
    }

    private static function next(string $bytes, int $from): ?int
    {
        $at = strpos($bytes, 'stream', $from);
        while ($at !== false && $at >= 3 && substr($bytes, $at - 3, 3) === 'end') {
            $at = strpos($bytes, 'stream', $at + 6);
        }

        return $at === false ? null : $at;
    }

    /** @return array{string, int} the dictionary before a stream, and where its bytes begin (7.3.8.1) */
    private static function stream(string $bytes, int $at): array
    {
        $before = substr($bytes, max(0, $at - 2000), min($at, 2000));
        $object = strrpos($before, ' obj');
        $begin = $at + 6;
        $begin += ($bytes[$begin] ?? '') === "\r" ? 1 : 0;
        $begin += ($bytes[$begin] ?? '') === "\n" ? 1 : 0;

        return [$object === false ? $before : substr($before, $object), $begin];
    }

    private static function unpacked(string $bytes, int $begin): ?string
    {
        // What is damaged is a warning of PHP, beside what it returns.
        set_error_handler(static fn (): bool => true);
        try {
            return self::inflated($bytes, $begin);
        } finally {
            restore_error_handler();
        }
    }

    private static function inflated(string $bytes, int $begin): ?string
    {
        $end = strpos($bytes, 'endstream', $begin);
        $unpacking = inflate_init(ZLIB_ENCODING_DEFLATE);
        if ($unpacking === false || $end === false) {
            return null;
        }
        $text = '';
        for ($at = $begin; $at < $end && strlen($text) < self::LARGEST; $at += 65_536) {
            $piece = inflate_add($unpacking, substr($bytes, $at, min(65_536, $end - $at)));
            if ($piece === false) {
                return null;
            }
            $text .= $piece;
        }

        return strlen($text) >= self::LARGEST ? null : $text;
    }

    private static function named(string $objects): ?string
    {
        $names = implode('|', array_keys(self::ACTS));
        // Most names are written plainly; the others hold a number sign.
        foreach ([$objects, self::plain($objects)] as $text) {
            if (preg_match("~/($names)(?=[\\s/<>\\[\\](){}%]|$)~", $text, $m) === 1) {
                return self::ACTS[$m[1]];
            }
        }

        return null;
    }

    private static function plain(string $text): string
    {
        return str_contains($text, '#')
            ? (string) preg_replace_callback(
                '~#([0-9A-Fa-f]{2})~',
                static fn (array $m): string => chr((int) hexdec($m[1])),
                $text,
            )
            : $text;
    }
}
