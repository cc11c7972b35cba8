<?php

declare(strict_types=1);

namespace Standin\Drawing;

use GdImage;

/**
 * A short film, made of whole pictures: a lossy WebP holds one key frame of VP8 (RFC 9649, 2.5), and a WebM file may be
 * a row of such frames (Matroska, RFC 9559).
 */
final class Film
{
    /** @param  callable(int): GdImage  $frame the picture of a number */
    public static function webm(callable $frame, int $frames, int $width, int $height, int $perSecond): string
    {
        $step = intdiv(1000, $perSecond);
        $blocks = '';
        for ($i = 0; $i < $frames; $i++) {
            // Track 1, time within the cluster, a key frame.
            $blocks .= self::element("\xA3", "\x81".pack('n', $i * $step)."\x80".self::keyFrame($frame($i)));
        }
        $head = self::element(
            "\x1A\x45\xDF\xA3",
            self::element("\x42\x86", "\x01")
                .self::element("\x42\xF7", "\x01")
                .self::element("\x42\xF2", "\x04")
                .self::element("\x42\xF3", "\x08")
                .self::element("\x42\x82", 'webm')
                .self::element("\x42\x87", "\x02")
                .self::element("\x42\x85", "\x02"),
        );
        $info = self::element(
            "\x15\x49\xA9\x66",
            self::element("\x2A\xD7\xB1", "\x0F\x42\x40")
                .self::element("\x44\x89", pack('E', (float) ($frames * $step)))
                .self::element("\x4D\x80", 'Ylema')
                .self::element("\x57\x41", 'Ylema'),
        );
        $track = self::element(
            "\x16\x54\xAE\x6B",
            self::element(
                "\xAE",
                self::element("\xD7", "\x01")
                    .self::element("\x73\xC5", "\x01")
                    .self::element("\x83", "\x01")
                    .self::element("\x86", 'V_VP8')
                    .self::element(
                        "\xE0",
                        self::element("\xB0", pack('n', $width)).self::element("\xBA", pack('n', $height)),
                    ),
            ),
        );
        $cluster = self::element("\x1F\x43\xB6\x75", self::element("\xE7", "\x00").$blocks);

        return $head.self::element("\x18\x53\x80\x67", $info.$track.$cluster);
    }

    private static function keyFrame(GdImage $image): string
    {
        ob_start();
        imagewebp($image, null, 70);
        $webp = (string) ob_get_clean();
        $at = (int) strpos($webp, 'VP8 ');
        $size = unpack('V', substr($webp, $at + 4, 4));

        return substr($webp, $at + 8, $size === false || ! is_int($size[1]) ? 0 : $size[1]);
    }

    /** An element's size is written in eight bytes, of which the first only says so. */
    private static function element(string $id, string $data): string
    {
        return $id."\x01".substr(pack('J', strlen($data)), 1).$data;
    }
}
