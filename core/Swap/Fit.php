<?php

declare(strict_types=1);

namespace Ylema\Swap;

use Ylema\Imaging\MediaType;
use Ylema\Imaging\Size;
use Ylema\Plan\PlacedBox;

/** What will look different once one picture stands in for another: better said before than seen after. */
final readonly class Fit
{
    /** Shapes that differ by less than this look alike; rounding to whole pixels makes more than nothing. */
    private const ALIKE = 0.03;

    /** More pixels across than a page of today shows, on a screen of twice the density. */
    private const FAR_TOO_WIDE = 2600;

    /**
     * @param  Size|null  $before of the original that gives way; null where it has none
     * @param  Size|null  $after of the picture that comes
     * @param  string  $typeBefore file extension
     * @param  string  $typeAfter file extension
     * @param  string|null  $alt the words that the new item will have; null where nobody gives it any
     */
    public function __construct(
        private ?Size $before,
        private ?Size $after,
        private string $typeBefore,
        private string $typeAfter,
        private bool $wasAnimated = false,
        private bool $isAnimated = false,
        private ?string $alt = null,
    ) {
    }

    public static function areAlike(?Size $one, ?Size $other): bool
    {
        return $one === null || $other === null || abs(log($one->ratio() / $other->ratio())) < self::ALIKE;
    }

    /** @return list<string> what is so at every place */
    public function notes(): array
    {
        $notes = [];
        if (! self::areAlike($this->before, $this->after)) {
            $notes[] = 'Another shape: '.self::say($this->before).' pixels now, '.self::say($this->after).' after.';
        }
        if ($this->before !== null && $this->after !== null && $this->after->width * 1.02 < $this->before->width) {
            $notes[] =
                'Fewer pixels: '
                .number_format($this->after->width)
                .' across, where there were '
                .number_format($this->before->width)
                .'. '
                .'Places that show it large will show it blurred.';
        }
        if ($this->after !== null && $this->after->width > self::FAR_TOO_WIDE) {
            $notes[] =
                'Far too many pixels: '
                .number_format($this->after->width)
                .' across, where no page shows more than '
                .number_format(self::FAR_TOO_WIDE)
                .'. Places that name the original make every visitor load all of them.';
        }
        if (! MediaType::isSame($this->typeBefore, $this->typeAfter)) {
            $notes[] =
                "Another type: .{$this->typeBefore} now, .{$this->typeAfter} after."
                .($this->typeBefore === 'png' && MediaType::isSame($this->typeAfter, 'jpg')
                    ? ' What is transparent now will not be.'
                    : '');
        }
        if ($this->wasAnimated && ! $this->isAnimated) {
            $notes[] = 'The picture moves now; the new one stands still.';
        }
        if ($this->isAnimated) {
            $notes[] = 'The new picture moves; sizes that are drawn from it stand still.';
        }
        if ($this->alt !== null && trim($this->alt) === '') {
            $notes[] = 'The new item has no alt text: whoever cannot see it learns nothing of it.';
        }

        return $notes;
    }

    /** What will look different in one box; null where nothing will. */
    public function inBox(PlacedBox $box): ?string
    {
        $after = $this->after;
        if ($after === null) {
            return null;
        }
        if ($box->width !== null && $box->height !== null && $box->width > 0 && $box->height > 0) {
            $stated = new Size($box->width, $box->height);

            return match (true) {
                ! self::areAlike($stated, $after) => 'Stretched: the box is fixed at '.self::say($stated).'.',
                $after->width < $box->width => self::enlarged($box->width, $after->width),
                default => null,
            };
        }
        if ($box->carrier !== null && ! self::areAlike($box->carrier, $after)) {
            $height = (int) round($box->carrier->width / $after->ratio());

            return "“{$box->carrierName}” is made for "
                .self::say($box->carrier)
                .' and states no size here: it becomes '
                .self::say(new Size($box->carrier->width, max(1, $height)))
                .'.';
        }
        $width = $box->width ?? $box->carrier?->width;
        if ($width !== null && $after->width < $width) {
            return self::enlarged($width, $after->width);
        }

        return ! self::areAlike($this->before, $after)
            ? 'No height is stated here: the place becomes as tall as the new shape makes it.'
            : null;
    }

    private static function enlarged(int $box, int $picture): string
    {
        return 'Enlarged: the box is '.number_format($box).' wide, the picture '.number_format($picture).'.';
    }

    private static function say(?Size $size): string
    {
        return $size === null ? 'no' : number_format($size->width).' × '.number_format($size->height);
    }
}
