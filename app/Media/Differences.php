<?php

declare(strict_types=1);

namespace App\Media;

use App\Models\MediaFile;
use App\Sites\OpenSite;
use GdImage;
use Ylema\Failure;
use Ylema\Imaging\Closely;
use Ylema\Imaging\Compared;
use Ylema\Imaging\Cutting;

/** Where two pictures of a site differ: as this program draws them, so that no format makes a difference. */
final readonly class Differences
{
    /** Pixels across: letters of pictures up to a few thousand pixels live there. */
    private const WIDTH = 1200;

    /** The pictures of lists, which are there anyway. */
    private const SMALL = 160;

    public function __construct(private Thumbnails $thumbnails)
    {
    }

    /** @return Compared|null null where they cannot be compared, as of another shape, or what cannot be opened */
    public function between(OpenSite $site, MediaFile $one, MediaFile $other): ?Compared
    {
        return $this->compared($site, $one, $other, self::WIDTH, SideBySide::wholes(...));
    }

    /** @return Compared|null null where the second is no part of the first, or cannot be opened */
    public function ofPart(OpenSite $site, MediaFile $whole, MediaFile $part): ?Compared
    {
        return $this->compared($site, $whole, $part, self::WIDTH, SideBySide::part(...));
    }

    /**
     * The same where many pairs are asked about: what is another picture already at a glance, at the smallest pictures
     * that there are, is looked at no more.
     *
     * @param  Cutting|null  $near where the second likely lies in the first; null where it may be the whole
     */
    public function likely(OpenSite $site, MediaFile $one, MediaFile $other, ?Cutting $near): ?Compared
    {
        foreach ([[self::SMALL, Closely::GLANCE], [self::WIDTH, Closely::ACROSS]] as [$width, $across]) {
            $compare = static fn (GdImage $first, GdImage $second): ?Compared => $near === null
                ? SideBySide::wholes($first, $second, $across)
                : SideBySide::part($first, $second, $near, $across);
            $found = $this->compared($site, $one, $other, $width, $compare);
            if ($found === null || $found->isOther) {
                break;
            }
        }

        return $found;
    }

    /** @param  callable(GdImage, GdImage): (Compared|null)  $compare */
    private function compared(
        OpenSite $site,
        MediaFile $one,
        MediaFile $other,
        int $width,
        callable $compare,
    ): ?Compared {
        $first = $this->open($site, $one, $width);
        $second = $this->open($site, $other, $width);

        return $first === null || $second === null ? null : $compare($first, $second);
    }

    private function open(OpenSite $site, MediaFile $file, int $width): ?GdImage
    {
        try {
            [$type, $bytes] = $this->thumbnails->of($site, $file, $width);
        } catch (Failure) {
            return null;
        }
        $image = $type === 'image/webp' ? @imagecreatefromstring($bytes) : false;

        return $image === false ? null : $image;
    }
}
