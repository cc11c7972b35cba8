<?php

declare(strict_types=1);

namespace Ylema\Imaging;

use Ylema\Imaging\Whole\Bytes;
use Ylema\Imaging\Whole\Gif;
use Ylema\Imaging\Whole\IsoBoxes;

/**
 * What a picture says of itself inside its file: words, how it is turned, and whether it moves.
 *
 * Words are taken from XMP (ISO 16684-1: dc:title, dc:description, dc:creator, photoshop:Credit), then from IPTC-IIM
 * (datasets 2:05, 2:120, 2:110, 2:80), then from EXIF (ImageDescription, Artist); the first that has one wins.
 */
final readonly class Embedded
{
    /** @param  int<1, 8>  $orientation as EXIF's tag 0x0112 counts; 1 is upright */
    private function __construct(
        public string $title,
        public string $caption,
        public string $credit,
        public int $orientation,
        public bool $isAnimated,
    ) {
    }

    public static function none(): self
    {
        return new self('', '', '', 1, false);
    }

    public static function in(string $bytes): self
    {
        $xmp = self::xmp($bytes);
        $iptc = self::iptc($bytes);
        $exif = self::exif($bytes);
        $first = static function (?string ...$texts): string {
            foreach ($texts as $text) {
                $text = trim((string) $text, " \t\r\n\0");
                if ($text !== '') {
                    return mb_substr(mb_scrub($text), 0, 2000);
                }
            }

            return '';
        };
        $orientation = self::isTurnedByExif($bytes) ? $exif[0x0112] ?? 1 : 1;

        return new self(
            $first($xmp['title'] ?? null, $iptc['2#005'] ?? null),
            $first($xmp['description'] ?? null, $iptc['2#120'] ?? null, self::text($exif[0x010E] ?? null)),
            $first(
                $xmp['Credit'] ?? null,
                $iptc['2#110'] ?? null,
                $xmp['creator'] ?? null,
                $iptc['2#080'] ?? null,
                self::text($exif[0x013B] ?? null),
            ),
            is_int($orientation) && $orientation >= 1 && $orientation <= 8 ? $orientation : 1,
            self::moves($bytes),
        );
    }

    /**
     * Browsers turn JPEG (EXIF 2.32, 4.6.4) and PNG (PNG, third edition, 11.3.4.5) as their EXIF says; not WebP, and
     * not AVIF, whose own boxes say how it lies.
     */
    private static function isTurnedByExif(string $bytes): bool
    {
        return ! str_starts_with($bytes, 'RIFF') && substr($bytes, 4, 4) !== 'ftyp';
    }

    /** Whether width and height change places when it is turned upright. */
    public function isSideways(): bool
    {
        return $this->orientation >= 5;
    }

    /** @return array<string, string> name of the property → its first text */
    private static function xmp(string $bytes): array
    {
        $start = strpos($bytes, '<x:xmpmeta');
        $end = $start === false ? false : strpos($bytes, '</x:xmpmeta>', $start);
        if ($start === false || $end === false || $end - $start > 1_000_000) {
            return [];
        }
        $packet = substr($bytes, $start, $end - $start);
        $found = [];
        foreach (['dc:title', 'dc:description', 'dc:creator', 'photoshop:Credit'] as $property) {
            $name = substr($property, (int) strpos($property, ':') + 1);
            if (
                preg_match("~<{$property}[^>]*>(?:\s*<rdf:\w+[^>]*>)*\s*([^<]*)~", $packet, $m) === 1
                || preg_match("~\s{$property}=\"([^\"]*)\"~", $packet, $m) === 1
            ) {
                $found[$name] = html_entity_decode($m[1], ENT_QUOTES | ENT_XML1, 'UTF-8');
            }
        }

        return $found;
    }

    /** @return array<string, string> dataset → its first text, in UTF-8 */
    private static function iptc(string $bytes): array
    {
        if (! str_starts_with($bytes, "\xFF\xD8")) {
            return [];
        }
        $parts = [];
        @getimagesizefromstring($bytes, $parts);
        $part = is_array($parts) ? $parts['APP13'] ?? null : null;
        $data = is_string($part) ? iptcparse($part) : false;
        $found = [];
        foreach ($data === false ? [] : $data as $name => $texts) {
            $text = $texts[0] ?? '';
            // Dataset 1:90 says UTF-8 where a writer cares; most do not, and write it or Latin-1.
            $found[(string) $name] = mb_check_encoding($text, 'UTF-8')
                ? $text
                : mb_convert_encoding($text, 'UTF-8', 'Windows-1252');
        }

        return $found;
    }

    /**
     * The first directory of the EXIF data (TIFF 6.0, section 2; EXIF 2.32, 4.5): in JPEG's APP1, PNG's eXIf, WebP's
     * EXIF.
     *
     * @return array<int, int|string> tag → number or text
     */
    private static function exif(string $bytes): array
    {
        if (preg_match('~(?:Exif\0\0|eXIf|EXIF....)(?=II\x2A\0|MM\0\x2A)~s', $bytes, $m, PREG_OFFSET_CAPTURE) !== 1) {
            return [];
        }
        $tiff = substr($bytes, $m[0][1] + strlen($m[0][0]), 65_536);
        $big = $tiff[0] === 'M';
        $number = static function (int $at, int $length) use ($tiff, $big): int {
            $raw = substr($tiff, $at, $length);
            if (strlen($raw) < $length) {
                return 0;
            }
            $read = unpack($length === 2 ? ($big ? 'n' : 'v') : ($big ? 'N' : 'V'), $raw);

            return is_array($read) && is_int($read[1]) ? $read[1] : 0;
        };
        $directory = $number(4, 4);
        $found = [];
        for ($n = min(200, $number($directory, 2)), $at = $directory + 2; $n > 0; $n--, $at += 12) {
            $tag = $number($at, 2);
            if ($number($at + 2, 2) === 3) {
                $found[$tag] = $number($at + 8, 2);
            } elseif ($number($at + 2, 2) === 2) {
                $length = $number($at + 4, 4);
                $found[$tag] = substr($tiff, $length <= 4 ? $at + 8 : $number($at + 8, 4), min(2000, $length));
            }
        }

        return $found;
    }

    private static function text(int|string|null $value): ?string
    {
        return is_string($value) ? $value : null;
    }

    /** A second picture in a GIF, the flag of an extended WebP (RFC 9649, 2.7), an APNG's acTL, a sequence of AVIF. */
    private static function moves(string $bytes): bool
    {
        return match (true) {
            str_starts_with($bytes, 'GIF8') => (new Gif())->frames(new Bytes($bytes)) > 1,
            str_starts_with($bytes, 'RIFF') && substr($bytes, 8, 8) === 'WEBPVP8X' => (ord($bytes[20] ?? "\0") & 2)
                !== 0,
            str_starts_with($bytes, "\x89PNG") => ($at = strpos($bytes, 'acTL')) !== false
                && $at < (strpos($bytes, 'IDAT') ?: 0),
            default => IsoBoxes::isSequence(new Bytes(substr($bytes, 0, 512))),
        };
    }
}
