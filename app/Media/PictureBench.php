<?php

declare(strict_types=1);

namespace App\Media;

use App\Bytes\Warnings;
use Imagick;
use ImagickException;
use Intervention\Image\Collection;
use Intervention\Image\Drivers\Gd\Driver as GdDriver;
use Intervention\Image\Drivers\Imagick\Core;
use Intervention\Image\Drivers\Imagick\Driver as ImagickDriver;
use Intervention\Image\Exceptions\RuntimeException;
use Intervention\Image\Image;
use Intervention\Image\ImageManager;
use Intervention\Image\Interfaces\ImageInterface;
use Throwable;
use Ylema\Imaging\Crop;
use Ylema\Imaging\Embedded;
use Ylema\Imaging\Size;
use Ylema\Imaging\UploadRefused;
use Ylema\Sites\WriteRefused;

/**
 * Decodes a picture and draws others from it, through Imagick, or through GD where a machine has no Imagick. It works
 * in a process of its own (see Pictures), where a picture that is made to do harm does it to nobody.
 *
 * What it draws is in the colours of the web: sRGB with eight bits, upright, without the notes of the original.
 */
final class PictureBench
{
    private const DAMAGE = '~premature end|truncat|corrupt|incomplete|bad huffman|IDAT~i';

    private const MEMORY = '~resources exhausted|memory allocation|not enough memory|unable to create new image|'
        .'unable to extend cache~i';

    /** Bytes of a decoded pixel, four channels of sixteen bits. */
    public const PIXEL = 8;

    private ImageInterface $image;

    /** @param  int  $memory bytes that pixels may take */
    public function __construct(private readonly int $memory)
    {
        if (extension_loaded('imagick')) {
            // Half as much again: what is drawn lies beside what it is drawn from. Where the machine's own policy
            // allows less memory, the rest is mapped from a file.
            foreach (['MEMORY', 'MAP', 'DISK'] as $resource) {
                Imagick::setResourceLimit(constant("Imagick::RESOURCETYPE_$resource"), $memory + intdiv($memory, 2));
            }
            Imagick::setResourceLimit(Imagick::RESOURCETYPE_THREAD, 1);
        }
    }

    /**
     * The picture as a person sees it: its first frame, turned as its EXIF says.
     *
     * @param  string  $extension by its content
     *
     * @throws UploadRefused when the bytes do not decode to the end
     * @throws WriteRefused where there is no room to open them
     */
    public function open(string $bytes, string $extension, string $name): Size
    {
        $file = (string) tempnam(sys_get_temp_dir(), 'ylema');
        // A disk that is full is no damaged picture.
        $warnings = new Warnings();
        if ($warnings->during(static fn (): int|false => file_put_contents($file, $bytes)) !== strlen($bytes)) {
            @unlink($file);
            throw new WriteRefused('The folder for passing files ('.sys_get_temp_dir().')', $warnings->advice());
        }
        // Both libraries draw what they can of a damaged file and only warn; for a swap that is not good enough.
        $warning = null;
        set_error_handler(static function (int $level, string $message) use (&$warning): bool {
            $warning = $message;

            return true;
        });
        $image = null;
        try {
            $lies = Embedded::in($bytes)->orientation;
            if ($extension !== 'jpg' || self::isWholeJpeg($file)) {
                $image = extension_loaded('imagick')
                    ? $this->byImagick($file, $extension, $lies)
                    : $this->byGd($bytes, $lies);
            }
        } catch (Throwable $e) {
            $warning = $e->getMessage();
        } finally {
            restore_error_handler();
            unlink($file);
        }
        // Imagick does not always say why it read nothing.
        $info = @getimagesizefromstring($bytes);
        $isLarge = $info !== false && $this->memory < $info[0] * $info[1] * self::PIXEL;
        if ($image === null && ($isLarge || ($warning !== null && preg_match(self::MEMORY, $warning) === 1))) {
            throw self::tooLarge($name);
        }
        if ($image === null || ($warning !== null && preg_match(self::DAMAGE, $warning) === 1)) {
            throw new UploadRefused("\"$name\" is damaged and cannot be opened to its end. Copy or export it again.");
        }
        $this->image = $image;

        return new Size($image->width(), $image->height());
    }

    /**
     * Fills the target size, cropping around the focal point where the shapes differ.
     *
     * @throws UploadRefused when the library cannot write it
     */
    public function fill(Size $target, float $focusX, float $focusY, string $extension): string
    {
        $size = new Size($this->image->width(), $this->image->height());
        $crop = Crop::toFill($size, $target, $focusX, $focusY);
        try {
            $drawn = clone $this->image;
            $scale = $target->width / $crop->width;
            if ($scale < 1) {
                // Smaller first: a cut of the whole would lie in memory beside it.
                $drawn->resize(
                    max($target->width, (int) round($size->width * $scale)),
                    max($target->height, (int) round($size->height * $scale)),
                );
                $drawn->crop(
                    $target->width,
                    $target->height,
                    min((int) round($crop->x * $scale), $drawn->width() - $target->width),
                    min((int) round($crop->y * $scale), $drawn->height() - $target->height),
                );
            } else {
                $drawn->crop($crop->width, $crop->height, $crop->x, $crop->y)->resize($target->width, $target->height);
            }

            return $this->encode($drawn, $extension);
        } catch (RuntimeException|ImagickException $e) {
            if (preg_match(self::MEMORY, $e->getMessage()) === 1) {
                throw self::tooLarge("A picture of $target pixels");
            }
            throw new UploadRefused(
                "The picture could not be written as .$extension ({$e->getMessage()}). Save it as JPEG or PNG and try "
                    .'again.',
                previous: $e,
            );
        }
    }

    private function encode(ImageInterface $image, string $extension): string
    {
        return (string) match (strtolower($extension)) {
            'png' => $image->toPng(),
            'gif' => $image->toGif(),
            'webp' => $image->toWebp(84),
            'avif' => $image->toAvif(62),
            // A JPEG has no transparency; black would take its place.
            default => $image->blendTransparency('ffffff')->toJpeg(86),
        };
    }

    /** Imagick says nothing of damage inside a JPEG; GD does, when it reads from a file and is asked to. */
    private static function isWholeJpeg(string $file): bool
    {
        if (! function_exists('imagecreatefromjpeg')) {
            return true;
        }
        ini_set('gd.jpeg_ignore_warning', '0');

        return imagecreatefromjpeg($file) !== false;
    }

    /**
     * The type is named, so that no other of the library's many readers gets to see the bytes.
     *
     * @param  int<1, 8>  $lies as Embedded::$orientation says it
     */
    private function byImagick(string $file, string $extension, int $lies): ImageInterface
    {
        $picture = new Imagick();
        $picture->readImage(($extension === 'jpg' ? 'jpeg' : $extension).":{$file}[0]");
        $picture->setImagePage($picture->getImageWidth(), $picture->getImageHeight(), 0, 0);
        // The library would turn what browsers leave, and leave what they turn.
        $picture->setImageOrientation($lies);
        $picture->autoOrient();
        $this->toScreenColours($picture);
        $picture->setImageDepth(8);
        $picture->stripImage();

        return new Image(new ImagickDriver(), new Core($picture));
    }

    private function byGd(string $bytes, int $lies): ImageInterface
    {
        $manager = new ImageManager(new GdDriver(), autoOrientation: false, decodeAnimation: false);

        return $manager->read($bytes)->setExif(new Collection(['IFD0' => ['Orientation' => $lies]]))->orient();
    }

    /** By the profile that came with it, where one did; what has none means the web's own colours, or inks. */
    private function toScreenColours(Imagick $picture): void
    {
        try {
            if ($picture->getImageProfiles('icc', false) !== []) {
                $picture->profileImage('icc', ScreenProfile::bytes());
            }
        } catch (ImagickException) {
            // A profile that cannot be read is as good as none.
        }
        if ($picture->getImageColorspace() !== Imagick::COLORSPACE_SRGB) {
            $picture->transformImageColorspace(Imagick::COLORSPACE_SRGB);
        }
    }

    private static function tooLarge(string $name): UploadRefused
    {
        return new UploadRefused(
            "\"$name\" needs more memory than one picture may take here. Save it with fewer pixels and try again.",
        );
    }
}
