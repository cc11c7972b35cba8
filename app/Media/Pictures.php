<?php

declare(strict_types=1);

namespace App\Media;

use GdImage;
use Ylema\Imaging\Crop;
use Ylema\Imaging\Size;
use Ylema\Imaging\UploadRefused;

/** Decodes, scales, crops and writes pictures with GD; the geometry is core's. */
final class Pictures
{
    public const WRITABLE = ['jpg', 'jpeg', 'png', 'gif', 'webp', 'avif'];

    /** @throws UploadRefused when the bytes do not decode to the end */
    public static function decode(string $bytes, string $name): GdImage
    {
        // GD draws what it can of a damaged file and only warns; for a swap that is not good enough.
        $warning = null;
        set_error_handler(static function (int $level, string $message) use (&$warning): bool {
            $warning = $message;

            return true;
        });
        try {
            $image = str_starts_with($bytes, "\xFF\xD8") ? self::decodeJpeg($bytes) : imagecreatefromstring($bytes);
        } finally {
            restore_error_handler();
        }
        if ($image === false || ($warning !== null && preg_match('~premature end|truncat|corrupt|incomplete|bad huffman|IDAT~i', $warning) === 1)) {
            throw new UploadRefused("\"$name\" is damaged and cannot be opened to its end. Copy or export it again.");
        }
        imagepalettetotruecolor($image);

        return $image;
    }

    /** GD tells of damage inside a JPEG only when it reads from a file, and only when it is asked to. */
    private static function decodeJpeg(string $bytes): GdImage|false
    {
        $file = (string) tempnam(sys_get_temp_dir(), 'ylema');
        $before = ini_set('gd.jpeg_ignore_warning', '0');
        try {
            file_put_contents($file, $bytes);

            return imagecreatefromjpeg($file);
        } finally {
            ini_set('gd.jpeg_ignore_warning', (string) $before);
            unlink($file);
        }
    }

    /** Fills the target size, cropping around the focal point where the shapes differ. */
    public static function fill(GdImage $source, Size $target, float $focusX = 0.5, float $focusY = 0.5): GdImage
    {
        $size = new Size(imagesx($source), imagesy($source));
        $crop = Crop::toFill($size, $target, $focusX, $focusY);
        $out = imagecreatetruecolor(max(1, $target->width), max(1, $target->height));
        if ($out === false) {
            throw new \RuntimeException("There is not enough memory for a picture of $target pixels.");
        }
        imagealphablending($out, false);
        imagesavealpha($out, true);
        imagecopyresampled($out, $source, 0, 0, $crop->x, $crop->y, $target->width, $target->height, $crop->width, $crop->height);

        return $out;
    }

    /** @param  string  $extension one of WRITABLE */
    public static function encode(GdImage $image, string $extension): string
    {
        ob_start();
        try {
            imagesavealpha($image, true);
            match (strtolower($extension)) {
                'png' => imagepng($image, null, 7),
                'gif' => imagegif($image),
                'webp' => imagewebp($image, null, 84),
                'avif' => imageavif($image, null, 62),
                default => imagejpeg(self::onWhite($image), null, 86),
            };
        } finally {
            $bytes = (string) ob_get_clean();
        }

        return $bytes;
    }

    /** JPEG has no transparency; black would take its place. */
    private static function onWhite(GdImage $image): GdImage
    {
        $out = imagecreatetruecolor(imagesx($image), imagesy($image));
        if ($out === false) {
            return $image;
        }
        imagefill($out, 0, 0, (int) imagecolorallocate($out, 255, 255, 255));
        imagecopy($out, $image, 0, 0, 0, 0, imagesx($image), imagesy($image));

        return $out;
    }
}
