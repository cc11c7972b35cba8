<?php

declare(strict_types=1);

namespace App\Media;

use App\Models\MediaFile;
use App\Sites\OpenSite;
use GdImage;
use Ylema\Failure;
use Ylema\Imaging\Closely;
use Ylema\Imaging\Size;

/** Where two pictures of a site differ, for whoever has to tell them apart. */
final readonly class Differences
{
    public function __construct(private Thumbnails $thumbnails)
    {
    }

    /**
     * @return list<array{x: float, y: float, width: float, height: float}>|null in shares of the whole; null where they
     *     cannot be compared, as of another shape, or what cannot be opened
     */
    public function between(OpenSite $site, MediaFile $one, MediaFile $other): ?array
    {
        $first = $this->open($site, $one);
        $second = $this->open($site, $other);
        if ($first === null || $second === null) {
            return null;
        }
        $size = Closely::size(
            new Size(imagesx($first), imagesy($first)),
            new Size(imagesx($second), imagesy($second)),
        );

        return $size === null ? null : self::grid($first, $size)->differences(self::grid($second, $size));
    }

    private function open(OpenSite $site, MediaFile $file): ?GdImage
    {
        try {
            [$type, $bytes] = $this->thumbnails->of($site, $file, 1200);
        } catch (Failure) {
            return null;
        }
        $image = $type === 'image/webp' ? @imagecreatefromstring($bytes) : false;

        return $image === false ? null : $image;
    }

    private static function grid(GdImage $image, Size $size): Closely
    {
        $small = imagecreatetruecolor(max(1, $size->width), max(1, $size->height));
        // What is clear shows the page's ground, mostly white.
        imagefill($small, 0, 0, (int) imagecolorallocate($small, 255, 255, 255));
        [$width, $height] = [imagesx($image), imagesy($image)];
        imagecopyresampled($small, $image, 0, 0, 0, 0, $size->width, $size->height, $width, $height);
        $bright = $blue = $red = '';
        for ($y = 0; $y < $size->height; $y++) {
            for ($x = 0; $x < $size->width; $x++) {
                $rgb = (int) imagecolorat($small, $x, $y);
                [$r, $g, $b] = [($rgb >> 16) & 0xFF, ($rgb >> 8) & 0xFF, $rgb & 0xFF];
                $light = 0.299 * $r + 0.587 * $g + 0.114 * $b;
                $bright .= chr((int) round($light));
                $blue .= chr((int) max(0, min(255, round(128 + 0.564 * ($b - $light)))));
                $red .= chr((int) max(0, min(255, round(128 + 0.713 * ($r - $light)))));
            }
        }

        return new Closely($size->width, $size->height, $bright.$blue.$red);
    }
}
