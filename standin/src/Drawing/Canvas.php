<?php

declare(strict_types=1);

namespace Standin\Drawing;

use GdImage;

/**
 * A picture drawn in units of its own height: x runs from 0 to the ratio, y from 0 (top) to 1.
 * It is drawn larger than it is kept, so that scaling down smooths the edges.
 */
final class Canvas
{
    public readonly GdImage $image;

    public readonly int $w;

    public readonly int $h;

    public function __construct(int $width, int $height, public readonly float $oversize = 1.6)
    {
        $this->w = (int) round($width * $oversize);
        $this->h = (int) round($height * $oversize);
        $image = imagecreatetruecolor(max(1, $this->w), max(1, $this->h));
        assert($image !== false);
        $this->image = $image;
        imagealphablending($image, true);
    }

    public function ratio(): float
    {
        return $this->w / $this->h;
    }

    /** @param  string  $hex `#rrggbb`; @param  float  $alpha 0 clear to 1 solid */
    public function ink(string $hex, float $alpha = 1): int
    {
        [$r, $g, $b] = self::rgb($hex);

        return (int) imagecolorallocatealpha(
            $this->image,
            $r,
            $g,
            $b,
            max(0, min(127, (int) round(127 * (1 - $alpha)))),
        );
    }

    /** @return array{int<0, 255>, int<0, 255>, int<0, 255>} */
    private static function rgb(string $hex): array
    {
        $n = (int) hexdec(ltrim($hex, '#'));

        return [($n >> 16) & 255, ($n >> 8) & 255, $n & 255];
    }

    public static function mix(string $a, string $b, float $t): string
    {
        [$r1, $g1, $b1] = self::rgb($a);
        [$r2, $g2, $b2] = self::rgb($b);

        return sprintf(
            '#%02x%02x%02x',
            (int) round($r1 + ($r2 - $r1) * $t),
            (int) round($g1 + ($g2 - $g1) * $t),
            (int) round($b1 + ($b2 - $b1) * $t),
        );
    }

    /** @param  list<string>  $stops colours from top to bottom */
    public function gradient(float $top, float $bottom, array $stops): void
    {
        $from = (int) round($top * $this->h);
        $to = (int) round($bottom * $this->h);
        $last = count($stops) - 1;
        for ($y = $from; $y < $to; $y++) {
            $t = (($y - $from) / max(1, $to - $from)) * $last;
            $i = min($last - 1, (int) $t);
            imageline(
                $this->image,
                0,
                $y,
                $this->w,
                $y,
                $this->ink($last === 0 ? $stops[0] : self::mix($stops[$i], $stops[$i + 1], $t - $i)),
            );
        }
    }

    public function fill(string $hex): void
    {
        imagefilledrectangle($this->image, 0, 0, $this->w, $this->h, $this->ink($hex));
    }

    public function disc(float $x, float $y, float $rx, string $hex, float $alpha = 1, ?float $ry = null): void
    {
        imagefilledellipse(
            $this->image,
            $this->px($x),
            $this->px($y),
            max(1, $this->px(2 * $rx)),
            max(1, $this->px(2 * ($ry ?? $rx))),
            $this->ink($hex, $alpha),
        );
    }

    public function ring(float $x, float $y, float $r, float $thickness, string $hex, string $inside): void
    {
        $this->disc($x, $y, $r, $hex);
        $this->disc($x, $y, $r - $thickness, $inside);
    }

    public function box(float $x, float $y, float $w, float $h, string $hex, float $alpha = 1): void
    {
        imagefilledrectangle(
            $this->image,
            $this->px($x),
            $this->px($y),
            $this->px($x + $w),
            $this->px($y + $h),
            $this->ink($hex, $alpha),
        );
    }

    /** @param  list<array{float, float}>  $points */
    public function shape(array $points, string $hex, float $alpha = 1): void
    {
        $flat = [];
        foreach ($points as [$x, $y]) {
            $flat[] = $this->px($x);
            $flat[] = $this->px($y);
        }
        imagefilledpolygon($this->image, $flat, $this->ink($hex, $alpha));
    }

    /** @param  list<array{float, float}>  $points */
    public function path(array $points, float $thickness, string $hex, float $alpha = 1): void
    {
        $r = $thickness / 2;
        foreach ($points as $i => [$x, $y]) {
            if ($i === 0) {
                continue;
            }
            [$x0, $y0] = $points[$i - 1];
            $length = hypot($x - $x0, $y - $y0);
            if ($length == 0.0) {
                continue;
            }
            $nx = (-($y - $y0) / $length) * $r;
            $ny = (($x - $x0) / $length) * $r;
            $this->shape(
                [[$x0 + $nx, $y0 + $ny], [$x + $nx, $y + $ny], [$x - $nx, $y - $ny], [$x0 - $nx, $y0 - $ny]],
                $hex,
                $alpha,
            );
            if ($alpha >= 1 && $this->px($thickness) > 2) {
                $this->disc($x, $y, $r, $hex);
            }
        }
    }

    /** @param  float  $size cap height, roughly, in units of the canvas height */
    public function text(
        string $text,
        float $x,
        float $y,
        float $size,
        string $hex,
        bool $bold = false,
        float $align = 0,
    ): void {
        $font = '/usr/share/fonts/truetype/dejavu/DejaVuSans'.($bold ? '-Bold' : '').'.ttf';
        $points = $size * $this->h * 0.75;
        $box = imagettfbbox($points, 0, $font, $text);
        $width = is_array($box) && is_int($box[2]) && is_int($box[0]) ? $box[2] - $box[0] : 0;
        imagettftext(
            $this->image,
            $points,
            0,
            (int) round($this->px($x) - $align * $width),
            $this->px($y),
            $this->ink($hex),
            $font,
            $text,
        );
    }

    public function px(float $units): int
    {
        return (int) round($units * $this->h);
    }
}
