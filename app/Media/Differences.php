<?php

declare(strict_types=1);

namespace App\Media;

use App\Models\MediaFile;
use App\Sites\OpenSite;
use GdImage;
use Ylema\Failure;
use Ylema\Imaging\Compared;
use Ylema\Imaging\Cutting;

/** Where two pictures of a site differ: as this program draws them, so that no format makes a difference. */
final readonly class Differences
{
    /** Pixels across: letters of pictures up to a few thousand pixels live there. */
    private const WIDTH = 1200;

    public function __construct(private Thumbnails $thumbnails)
    {
    }

    /** @return Compared|null null where they cannot be compared, as of another shape, or what cannot be opened */
    public function between(OpenSite $site, MediaFile $one, MediaFile $other): ?Compared
    {
        return $this->compared($site, $one, $other, SideBySide::wholes(...));
    }

    /**
     * @param  Cutting|null  $near where it likely lies
     * @return Compared|null null where the second is no part of the first, or cannot be opened
     */
    public function ofPart(OpenSite $site, MediaFile $whole, MediaFile $part, ?Cutting $near = null): ?Compared
    {
        $compare = static fn (GdImage $of, GdImage $cut): ?Compared => SideBySide::part($of, $cut, $near);

        return $this->compared($site, $whole, $part, $compare);
    }

    /** @param  callable(GdImage, GdImage): (Compared|null)  $compare */
    private function compared(OpenSite $site, MediaFile $one, MediaFile $other, callable $compare): ?Compared
    {
        $first = $this->open($site, $one);
        $second = $this->open($site, $other);

        return $first === null || $second === null ? null : $compare($first, $second);
    }

    private function open(OpenSite $site, MediaFile $file): ?GdImage
    {
        try {
            [$type, $bytes] = $this->thumbnails->of($site, $file, self::WIDTH);
        } catch (Failure) {
            return null;
        }
        $image = $type === 'image/webp' ? @imagecreatefromstring($bytes) : false;

        return $image === false ? null : $image;
    }
}
