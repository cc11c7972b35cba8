<?php

declare(strict_types=1);

namespace App\Media;

use Intervention\Image\Drivers\Gd\Driver as Gd;
use Intervention\Image\Drivers\Imagick\Driver as Imagick;
use Intervention\Image\Exceptions\RuntimeException;
use Intervention\Image\ImageManager;
use Intervention\Image\Interfaces\ImageInterface;
use Throwable;
use Ylema\Imaging\Crop;
use Ylema\Imaging\Size;
use Ylema\Imaging\UploadRefused;

/**
 * Decodes, scales, crops and writes pictures through Imagick, or through GD where a machine has no Imagick; the
 * geometry is core's.
 */
final class Pictures
{
    public const WRITABLE = ['jpg', 'jpeg', 'png', 'gif', 'webp', 'avif'];

    private const DAMAGE = '~premature end|truncat|corrupt|incomplete|bad huffman|IDAT~i';

    private static ?ImageManager $manager = null;

    /**
     * The picture as a person sees it: turned as its EXIF says.
     *
     * @throws UploadRefused when the bytes do not decode to the end
     */
    public static function decode(string $bytes, string $name): ImageInterface
    {
        // Both libraries draw what they can of a damaged file and only warn; for a swap that is not good enough.
        $warning = null;
        set_error_handler(static function (int $level, string $message) use (&$warning): bool {
            $warning = $message;

            return true;
        });
        try {
            $image =
                str_starts_with($bytes, "\xFF\xD8") && ! self::isWholeJpeg($bytes)
                    ? null
                    : self::manager()->read($bytes);
        } catch (Throwable) {
            $image = null;
        } finally {
            restore_error_handler();
        }
        if ($image === null || ($warning !== null && preg_match(self::DAMAGE, $warning) === 1)) {
            throw new UploadRefused("\"$name\" is damaged and cannot be opened to its end. Copy or export it again.");
        }

        return $image;
    }

    /** Imagick says nothing of damage inside a JPEG; GD does, when it reads from a file and is asked to. */
    private static function isWholeJpeg(string $bytes): bool
    {
        if (! function_exists('imagecreatefromjpeg')) {
            return true;
        }
        $file = (string) tempnam(sys_get_temp_dir(), 'ylema');
        $before = ini_set('gd.jpeg_ignore_warning', '0');
        try {
            file_put_contents($file, $bytes);

            return imagecreatefromjpeg($file) !== false;
        } finally {
            ini_set('gd.jpeg_ignore_warning', (string) $before);
            unlink($file);
        }
    }

    public static function size(ImageInterface $image): Size
    {
        return new Size($image->width(), $image->height());
    }

    /**
     * Fills the target size, cropping around the focal point where the shapes differ. The given picture stays as it is.
     */
    public static function fill(
        ImageInterface $source,
        Size $target,
        float $focusX = 0.5,
        float $focusY = 0.5,
    ): ImageInterface {
        $crop = Crop::toFill(self::size($source), $target, $focusX, $focusY);
        try {
            return (clone $source)
                ->crop($crop->width, $crop->height, $crop->x, $crop->y)
                ->resize($target->width, $target->height);
        } catch (RuntimeException $e) {
            throw new UploadRefused(
                "There is not enough memory for a picture of $target pixels. Choose a smaller one.",
                previous: $e,
            );
        }
    }

    /**
     * @param  string  $extension one of WRITABLE
     *
     * @throws UploadRefused when the library refuses to write it
     */
    public static function encode(ImageInterface $image, string $extension): string
    {
        try {
            return (string) match (strtolower($extension)) {
                'png' => $image->toPng(),
                'gif' => $image->toGif(),
                'webp' => $image->toWebp(84),
                'avif' => $image->toAvif(62),
                // A JPEG has no transparency; black would take its place.
                default => (clone $image)->blendTransparency('ffffff')->toJpeg(86),
            };
        } catch (RuntimeException $e) {
            throw new UploadRefused(
                "The picture could not be written as .$extension ({$e->getMessage()}). Save it as JPEG or PNG and try "
                    .'again.',
                previous: $e,
            );
        }
    }

    private static function manager(): ImageManager
    {
        return self::$manager ??= new ImageManager(
            extension_loaded('imagick') ? new Imagick() : new Gd(),
            decodeAnimation: false,
        );
    }
}
