<?php

declare(strict_types=1);

namespace Ylema\Imaging;

use Ylema\Imaging\Svg\DrawingCheck;
use Ylema\Imaging\Whole\Bytes;
use Ylema\Imaging\Whole\Format;
use Ylema\Imaging\Whole\Gif;
use Ylema\Imaging\Whole\IsoBoxes;
use Ylema\Imaging\Whole\Jpeg;
use Ylema\Imaging\Whole\Matroska;
use Ylema\Imaging\Whole\MpegAudio;
use Ylema\Imaging\Whole\Ogg;
use Ylema\Imaging\Whole\Pdf;
use Ylema\Imaging\Whole\Png;
use Ylema\Imaging\Whole\Riff;

/**
 * Judges uploaded bytes before anything decodes or stores them: what type they are (by their content,
 * never their name), how many pixels they declare, whether they are whole, and whether they are safe.
 */
final readonly class UploadCheck
{
    /** What a picture is called that getimagesize() knows. */
    private const TYPES = [
        IMAGETYPE_JPEG => ['jpg', 'image/jpeg'],
        IMAGETYPE_PNG => ['png', 'image/png'],
        IMAGETYPE_GIF => ['gif', 'image/gif'],
        IMAGETYPE_WEBP => ['webp', 'image/webp'],
        IMAGETYPE_AVIF => ['avif', 'image/avif'],
    ];

    /** Brands of the ISO base media file format (ISO/IEC 14496-12, 4.3): still pictures in HEVC (23008-12, 10) … */
    private const HEIF = ['heic', 'heix', 'heim', 'heis', 'hevc', 'hevx', 'hevm', 'hevs', 'mif1', 'mif2', 'msf1'];

    /** … in AV1, which may name those as well … */
    private const AVIF = ['avif', 'avis'];

    /** … and films. */
    private const FILM = ['isom', 'iso2', 'mp41', 'mp42', 'avc1'];

    /** What decoders take, in pixels. */
    private const LONGEST_SIDE = 16_000;

    /**
     * @param  int  $maxBytes largest file taken
     * @param  int  $maxPixels largest width × height taken; a decoder needs about eight bytes for each
     */
    public function __construct(public int $maxBytes = 40 * 1024 * 1024, public int $maxPixels = 40_000_000)
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
        self::expectNoHeif($bytes, $name);
        if (DrawingCheck::begins($bytes)) {
            return DrawingCheck::judge($bytes, $name);
        }
        $other = $this->judgeOther($bytes, $name);
        if ($other !== null) {
            return $other;
        }
        // getimagesizefromstring reads headers only; it never decodes pixels.
        $info = strlen($bytes) < 12 ? false : @getimagesizefromstring($bytes);
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
        if (max($width, $height) > self::LONGEST_SIDE) {
            throw new UploadRefused(
                sprintf(
                    '"%s" declares %s × %s pixels; no side may be longer than %s. Save it smaller and try again.',
                    $name,
                    number_format($width),
                    number_format($height),
                    number_format(self::LONGEST_SIDE),
                ),
            );
        }
        if ($width * $height > $this->maxPixels) {
            throw new UploadRefused(
                sprintf(
                    '"%s" declares %s × %s pixels, more than the limit of %d megapixels. Save it smaller and try '
                        .'again.',
                    $name,
                    number_format($width),
                    number_format($height),
                    intdiv($this->maxPixels, 1_000_000),
                ),
            );
        }
        self::expectWhole(self::format(self::TYPES[$type][0]), $bytes, $name);
        [$extension, $mime] = self::TYPES[$type];

        $embedded = Embedded::in($bytes);
        $size = $embedded->isSideways() ? new Size($height, $width) : new Size($width, $height);

        return new CheckedPicture($extension, $mime, $size, $embedded);
    }

    /** What is no picture, known by the bytes that its format begins with. */
    private function judgeOther(string $bytes, string $name): ?CheckedPicture
    {
        $brand = substr($bytes, 4, 8);
        [$extension, $mime] = match (true) {
            str_starts_with($bytes, '%PDF-') => ['pdf', 'application/pdf'],
            str_starts_with($brand, 'ftyp') && ! self::isAvif($bytes) => ['mp4', 'video/mp4'],
            str_starts_with($bytes, "\x1A\x45\xDF\xA3") => ['webm', 'video/webm'],
            str_starts_with($bytes, 'OggS') => ['ogg', 'audio/ogg'],
            str_starts_with($bytes, 'RIFF') && substr($bytes, 8, 4) === 'WAVE' => ['wav', 'audio/wav'],
            str_starts_with($bytes, 'ID3') || preg_match('~^\xFF[\xE2-\xE7\xF2-\xF7\xFA\xFB]~', $bytes) === 1 => [
                'mp3',
                'audio/mpeg',
            ],
            default => [null, ''],
        };
        if ($extension === null) {
            return null;
        }
        self::expectWhole(self::format($extension), $bytes, $name);
        $acts = $extension === 'pdf' ? PdfScripts::in($bytes) : null;
        if ($acts !== null) {
            throw new UploadRefused(
                "\"$name\" holds $acts, which could act on your visitors' machines. Print it into a new PDF and send "
                    .'that.',
            );
        }

        return new CheckedPicture($extension, $mime, null);
    }

    /**
     * A photo as phones take it. It begins as films do, and no common browser but one shows it.
     *
     * @throws UploadRefused
     */
    private static function expectNoHeif(string $bytes, string $name): void
    {
        $brands = IsoBoxes::brands(new Bytes(substr($bytes, 0, 512)));
        $isStill = in_array($brands[0] ?? '', self::HEIF, true)
            || (array_intersect($brands, self::HEIF) !== [] && array_intersect($brands, self::FILM) === []);
        if ($isStill && ! self::isAvif($bytes)) {
            throw new UploadRefused(
                "\"$name\" is a HEIC picture, as phones take them, and most browsers do not show these. Export it as "
                    .'JPEG and send that.',
            );
        }
    }

    private static function isAvif(string $bytes): bool
    {
        return array_intersect(IsoBoxes::brands(new Bytes(substr($bytes, 0, 512))), self::AVIF) !== [];
    }

    private static function format(string $extension): Format
    {
        return match ($extension) {
            'jpg' => new Jpeg(),
            'png' => new Png(),
            'gif' => new Gif(),
            'webp', 'wav' => new Riff(),
            'avif' => new IsoBoxes(['meta', 'mdat']),
            'mp4' => new IsoBoxes(['moov']),
            'webm' => new Matroska(),
            'ogg' => new Ogg(),
            'mp3' => new MpegAudio(),
            default => new Pdf(),
        };
    }

    /** @throws UploadRefused */
    private static function expectWhole(Format $format, string $bytes, string $name): void
    {
        if (! $format->isWhole(new Bytes($bytes))) {
            throw new UploadRefused(
                "\"$name\" ends in the middle: part of the file is missing. Copy or export it again.",
            );
        }
    }
}
