<?php

declare(strict_types=1);

namespace Ylema\Imaging;

/**
 * Judges uploaded bytes before anything decodes or stores them: what type they are (by their content,
 * never their name), how many pixels they declare, whether they are whole, and whether they are safe.
 */
final readonly class UploadCheck
{
    private const TYPES = [
        IMAGETYPE_JPEG => ['jpg', 'image/jpeg'],
        IMAGETYPE_PNG => ['png', 'image/png'],
        IMAGETYPE_GIF => ['gif', 'image/gif'],
        IMAGETYPE_WEBP => ['webp', 'image/webp'],
        IMAGETYPE_AVIF => ['avif', 'image/avif'],
    ];

    /**
     * @param  int  $maxBytes largest file taken
     * @param  int  $maxPixels largest width × height taken; a decoder needs about four bytes for each
     */
    public function __construct(public int $maxBytes = 40 * 1024 * 1024, public int $maxPixels = 80_000_000)
    {
    }

    /** @throws UploadRefused with a sentence that says why and what to do */
    public function judge(string $bytes, string $name): CheckedPicture
    {
        if ($bytes === '') {
            throw new UploadRefused(
                "\"$name\" is empty (0 bytes). Choose the picture again; the copy may have failed.",
            );
        }
        if (strlen($bytes) > $this->maxBytes) {
            throw new UploadRefused(
                sprintf(
                    '"%s" weighs %.1f MB; the limit is %.0f MB. Save it smaller and try again.',
                    $name,
                    strlen($bytes) / 1048576,
                    $this->maxBytes / 1048576,
                ),
            );
        }
        if (
            preg_match('~^(?:\xEF\xBB\xBF)?\s*(?:<\?xml|<!--|<!DOCTYPE|<svg)~i', substr($bytes, 0, 512)) === 1
            && preg_match('~<svg[\s>]~i', $bytes) === 1
        ) {
            return $this->judgeSvg($bytes, $name);
        }
        $other = $this->judgeOther($bytes, $name);
        if ($other !== null) {
            return $other;
        }
        // getimagesizefromstring reads headers only; it never decodes pixels.
        $info = @getimagesizefromstring($bytes);
        if ($info === false || ! isset(self::TYPES[$info[2]])) {
            throw new UploadRefused(
                "\"$name\" is not a picture, document, film or sound that can be used here. Send a JPEG, PNG, GIF, "
                    .'WebP, AVIF, SVG, PDF, MP4, WebM, MP3, Ogg or WAV file.',
            );
        }
        [$width, $height, $type] = $info;
        if ($width < 1 || $height < 1) {
            throw new UploadRefused(
                "\"$name\" says that it is $width × $height pixels. It is damaged; export it again.",
            );
        }
        if ($width * $height > $this->maxPixels) {
            throw new UploadRefused(
                sprintf(
                    '"%s" declares %s × %s pixels, more than the limit of %d megapixels. Save it smaller and try again.',
                    $name,
                    number_format($width),
                    number_format($height),
                    intdiv($this->maxPixels, 1_000_000),
                ),
            );
        }
        if ($this->isTruncated($bytes, $type)) {
            throw new UploadRefused(
                "\"$name\" ends in the middle: part of the file is missing. Copy or export it again.",
            );
        }
        [$extension, $mime] = self::TYPES[$type];

        $embedded = Embedded::in($bytes);
        $size = $embedded->isSideways() ? new Size($height, $width) : new Size($width, $height);

        return new CheckedPicture($extension, $mime, $size, $embedded);
    }

    /** What is no picture, known by the bytes that its format begins with. */
    private function judgeOther(string $bytes, string $name): ?CheckedPicture
    {
        $brand = substr($bytes, 4, 8);
        [$extension, $mime, $whole] = match (true) {
            // ISO 32000-1, 7.5.5: the last line says where the file ends.
            str_starts_with($bytes, '%PDF-') => [
                'pdf',
                'application/pdf',
                str_contains(substr($bytes, -1024), '%%EOF'),
            ],
            str_starts_with($brand, 'ftyp') && ! str_starts_with($brand, 'ftypavi') => [
                'mp4',
                'video/mp4',
                ! $this->boxesOverrun($bytes),
            ],
            str_starts_with($bytes, "\x1A\x45\xDF\xA3") => ['webm', 'video/webm', true],
            str_starts_with($bytes, 'OggS') => ['ogg', 'audio/ogg', true],
            str_starts_with($bytes, 'RIFF') && substr($bytes, 8, 4) === 'WAVE' => [
                'wav',
                'audio/wav',
                ($size = unpack('V', substr($bytes, 4, 4))) !== false
                && is_int($size[1])
                && strlen($bytes) >= $size[1] + 8,
            ],
            str_starts_with($bytes, 'ID3') || preg_match('~^\xFF[\xE2-\xE7\xF2-\xF7\xFA\xFB]~', $bytes) === 1 => [
                'mp3',
                'audio/mpeg',
                true,
            ],
            default => [null, '', true],
        };
        if ($extension === null) {
            return null;
        }
        if (! $whole) {
            throw new UploadRefused(
                "\"$name\" ends in the middle: part of the file is missing. Copy or export it again.",
            );
        }

        return new CheckedPicture($extension, $mime, null);
    }

    private function isTruncated(string $bytes, int $type): bool
    {
        return match ($type) {
            // ITU T.81 B.1.1.3: an image ends with the EOI marker; some cameras append data after it.
            IMAGETYPE_JPEG => strrpos($bytes, "\xFF\xD9") === false || ! $this->jpegScanEnds($bytes),
            // PNG (W3C), 5.6: IEND is the last chunk.
            IMAGETYPE_PNG => ! str_contains(substr($bytes, -64), 'IEND'),
            // GIF89a, 27: the trailer.
            IMAGETYPE_GIF => ! str_contains(substr($bytes, -16), "\x3B"),
            // RFC 9649, 2.5: the RIFF header states the size.
            IMAGETYPE_WEBP => ($size = unpack('V', substr($bytes, 4, 4))) === false
                || (is_int($size[1]) ? $size[1] : 0) + 8 > strlen($bytes),
            IMAGETYPE_AVIF => $this->boxesOverrun($bytes),
            default => false,
        };
    }

    /**
     * The end marker must come after the last start of scan; a thumbnail inside the metadata has markers of its own.
     */
    private function jpegScanEnds(string $bytes): bool
    {
        return (int) strrpos($bytes, "\xFF\xD9") > (int) strrpos($bytes, "\xFF\xDA");
    }

    /** ISO/IEC 14496-12, 4.2: every box states its size. */
    private function boxesOverrun(string $bytes): bool
    {
        $at = 0;
        $length = strlen($bytes);
        while ($at + 8 <= $length) {
            $head = unpack('N', substr($bytes, $at, 4));
            $size = $head === false || ! is_int($head[1]) ? 0 : $head[1];
            if ($size === 0) {
                return false;
            }
            if ($size === 1) {
                $large = unpack('J', substr($bytes, $at + 8, 8));
                $size = $large === false || ! is_int($large[1]) ? 0 : $large[1];
            }
            if ($size < 8) {
                return true;
            }
            $at += $size;
        }

        return $at !== $length;
    }

    private function judgeSvg(string $bytes, string $name): CheckedPicture
    {
        $plain = html_entity_decode($bytes, ENT_QUOTES | ENT_HTML5);
        $danger = match (true) {
            preg_match('~<\s*(?:[\w-]+:)?script\b~i', $plain) === 1 => 'a script',
            preg_match('~[\s"\'/]on[a-z]+\s*=~i', $plain) === 1 => 'code that runs on an event',
            preg_match(
                '~(?:href|src|from|to|values)\s*=\s*["\']?[\s\x00-\x1F]*(?:javascript|data:text/html)~i',
                preg_replace('~[\x00-\x20]+(?=[a-z]*\s*:)~i', '', $plain) ?? $plain,
            ) === 1 => 'a link that runs code',
            preg_match('~<\s*(?:[\w-]+:)?(?:foreignObject|iframe|embed|object|handler|listener)\b~i', $plain) === 1 => 'embedded web content',
            preg_match('~<!ENTITY|<!DOCTYPE[^>]*\[~i', $bytes) === 1 => 'entity declarations',
            preg_match('~<\?xml-stylesheet~i', $bytes) === 1 => 'a style sheet from elsewhere',
            default => null,
        };
        if ($danger !== null) {
            throw new UploadRefused(
                "\"$name\" contains $danger, which would run on your visitors' machines. Export it as a plain drawing "
                    .'and try again.',
            );
        }
        if (preg_match('~</(?:[\w-]+:)?svg\s*>\s*(?:<!--.*?-->\s*)*$~is', $bytes) !== 1) {
            throw new UploadRefused(
                "\"$name\" ends in the middle: part of the file is missing. Copy or export it again.",
            );
        }

        return new CheckedPicture('svg', 'image/svg+xml', $this->svgSize($bytes));
    }

    /** SVG 2, 8.2: width and height in user units, or else the shape of the viewBox. */
    private function svgSize(string $bytes): ?Size
    {
        if (preg_match('~<svg\b[^>]*>~i', $bytes, $tag) !== 1) {
            return null;
        }
        if (
            preg_match('~\bwidth\s*=\s*["\']([\d.]+)(?:px)?["\']~i', $tag[0], $w) === 1
            && preg_match('~\bheight\s*=\s*["\']([\d.]+)(?:px)?["\']~i', $tag[0], $h) === 1
            && (float) $w[1] >= 1
            && (float) $h[1] >= 1
        ) {
            return new Size((int) round((float) $w[1]), (int) round((float) $h[1]));
        }
        if (
            preg_match('~\bviewBox\s*=\s*["\'][\d.+-]+[\s,]+[\d.+-]+[\s,]+([\d.]+)[\s,]+([\d.]+)~i', $tag[0], $m)
                === 1
            && (float) $m[1] >= 1
            && (float) $m[2] >= 1
        ) {
            return new Size((int) round((float) $m[1]), (int) round((float) $m[2]));
        }

        return null;
    }
}
