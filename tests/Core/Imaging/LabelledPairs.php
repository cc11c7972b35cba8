<?php

declare(strict_types=1);

namespace Tests\Core\Imaging;

use GdImage;
use Standin\Drawing\Motifs;

/**
 * Pairs of drawn pictures of which is known whether they show the same: in another size, type or quality, a part of it,
 * with a translucent mark over it; or different by a label, a digit, a dot, a colour, a face, or as another drawing.
 */
final class LabelledPairs
{
    public const SCENES = 24;

    private const MOTIFS = [
        'species', 'sponsor', 'poster', 'chart', 'portrait', 'logo', 'boat', 'bird', 'harbour', 'map', 'shore',
        'lighthouse',
    ];

    private const WORDS = ['Cockle', 'Dulse', 'Tide 2018', 'Kelp & Co', 'Bay Run 3'];

    private const OTHERS = ['Dulse', 'Cockle', 'Tide 2019', 'Kelp & Son', 'Bay Run 8'];

    private const FONT = '/usr/share/fonts/truetype/dejavu/DejaVuSans-Bold.ttf';

    /**
     * @param  list<string>|null  $only how they differ; null for all
     * @return iterable<array{bool, string, GdImage, GdImage}> whether they are the same, how, and both pictures
     */
    public static function of(int $scene, ?array $only = null): iterable
    {
        $motif = self::MOTIFS[$scene % count(self::MOTIFS)];
        $word = self::WORDS[$scene % 5];
        $draw = static function (int $seed = 0) use ($motif, $word, $scene): GdImage {
            $image = Motifs::draw($motif, 100 + $scene + $seed, 900, 675, $word, 1.0)->image;

            // Every second one has the grain that photographs have.
            return $scene % 2 === 0 ? $image : self::grained($image, $scene);
        };
        $one = $draw();
        foreach (self::same($one) as $how => $pair) {
            if ($only === null || in_array($how, $only, true)) {
                yield [true, $how, ...$pair()];
            }
        }
        foreach (self::different($one, $draw, $word, self::OTHERS[$scene % 5]) as $how => $pair) {
            if ($only === null || in_array($how, $only, true)) {
                yield [false, $how, ...$pair()];
            }
        }
    }

    /** @return array<string, callable(): array{GdImage, GdImage}> */
    private static function same(GdImage $one): array
    {
        return [
            'half the size' => static fn (): array => [$one, self::sized($one, 450, IMG_BICUBIC)],
            'two thirds' => static fn (): array => [$one, self::sized($one, 600, IMG_BILINEAR_FIXED)],
            'another size and quality' => static fn (): array => [
                self::as($one, 'jpeg', 90),
                self::as(self::sized($one, 540, IMG_BICUBIC), 'jpeg', 65),
            ],
            'webp' => static fn (): array => [$one, self::as($one, 'webp', 70)],
            'avif' => static fn (): array => [$one, self::as($one, 'avif', 55)],
            'low quality' => static fn (): array => [self::as($one, 'jpeg', 92), self::as($one, 'jpeg', 45)],
            'the middle of it' => static fn (): array => [$one, self::cut($one, 0.1, 0.1, 0.8, 0.8)],
            'without one side' => static fn (): array => [
                $one,
                self::as(self::cut($one, 0.0, 0.0, 0.85, 1.0), 'jpeg', 80),
            ],
            'a smaller part' => static fn (): array => [
                $one,
                self::sized(self::cut($one, 0.2, 0.05, 0.7, 0.9), 420, IMG_BICUBIC),
            ],
            'marked in a corner' => static fn (): array => [$one, self::marked(self::copy($one), 22, 600, 650, 0.45)],
            'marked across' => static fn (): array => [
                $one,
                self::as(self::marked(self::copy($one), 54, 90, 360, 0.3), 'jpeg', 80),
            ],
        ];
    }

    /**
     * @param  callable(int=): GdImage  $draw
     * @return array<string, callable(): array{GdImage, GdImage}>
     */
    private static function different(GdImage $one, callable $draw, string $word, string $other): array
    {
        $labelled = static fn (string $words, int $size = 20): GdImage => self::labelled(
            self::copy($one),
            $words,
            $size,
        );

        return [
            'a label' => static fn (): array => [$labelled($word, 30), $labelled($other, 30)],
            'with and without a label' => static fn (): array => [$one, $labelled($word)],
            'a digit' => static fn (): array => [
                self::as($labelled('No. 2018'), 'jpeg', 80),
                self::as($labelled('No. 2013'), 'jpeg', 70),
            ],
            'a small digit' => static fn (): array => [$labelled('Nr 1786', 12), $labelled('Nr 1736', 12)],
            'a digit, in another size' => static fn (): array => [
                self::sized($labelled('7 March'), 600, IMG_BICUBIC),
                self::sized($labelled('1 March'), 450, IMG_BICUBIC),
            ],
            'a dot' => static fn (): array => [$one, self::dotted(self::copy($one))],
            'a colour' => static fn (): array => [$one, self::coloured(self::copy($one))],
            'a face' => static fn (): array => [self::faced(self::copy($one), 1), self::faced(self::copy($one), 2)],
            'another drawing' => static fn (): array => [$one, $draw(1000)],
            'a part of another' => static fn (): array => [$one, self::cut($draw(1000), 0.1, 0.1, 0.8, 0.8)],
        ];
    }

    private static function copy(GdImage $of): GdImage
    {
        $copy = imagecreatetruecolor(imagesx($of), imagesy($of));
        imagecopy($copy, $of, 0, 0, 0, 0, imagesx($of), imagesy($of));

        return $copy;
    }

    private static function sized(GdImage $of, int $width, int $mode): GdImage
    {
        $sized = imagescale($of, $width, (int) round($width * imagesy($of) / imagesx($of)), $mode);
        assert($sized !== false);

        return $sized;
    }

    private static function as(GdImage $of, string $type, int $quality): GdImage
    {
        ob_start();
        match ($type) {
            'jpeg' => imagejpeg($of, null, $quality),
            'webp' => imagewebp($of, null, $quality),
            default => imageavif($of, null, $quality, 8),
        };
        $as = imagecreatefromstring((string) ob_get_clean());
        assert($as !== false);

        return $as;
    }

    private static function cut(GdImage $of, float $left, float $top, float $width, float $height): GdImage
    {
        [$w, $h] = [imagesx($of), imagesy($of)];
        $cut = imagecrop($of, [
            'x' => (int) ($left * $w),
            'y' => (int) ($top * $h),
            'width' => (int) ($width * $w),
            'height' => (int) ($height * $h),
        ]);
        assert($cut !== false);

        return $cut;
    }

    private static function grained(GdImage $image, int $seed): GdImage
    {
        mt_srand($seed);
        for ($y = 0, $h = imagesy($image); $y < $h; $y++) {
            for ($x = 0, $w = imagesx($image); $x < $w; $x++) {
                $rgb = imagecolorat($image, $x, $y);
                $grain = mt_rand(-7, 7);
                $rgb = max(0, min(255, (($rgb >> 16) & 255) + $grain)) << 16
                    | max(0, min(255, (($rgb >> 8) & 255) + $grain)) << 8
                    | max(0, min(255, ($rgb & 255) + $grain));
                imagesetpixel($image, $x, $y, $rgb);
            }
        }

        return $image;
    }

    private static function marked(GdImage $image, int $size, int $x, int $y, float $strength): GdImage
    {
        $white = (int) imagecolorallocatealpha($image, 255, 255, 255, (int) round(127 * (1 - $strength)));
        imagettftext($image, $size, $size > 30 ? 12 : 0, $x, $y, $white, self::FONT, '© korrinbay.example');

        return $image;
    }

    private static function labelled(GdImage $image, string $words, int $size): GdImage
    {
        $paper = (int) imagecolorallocate($image, 250, 248, 240);
        $ink = (int) imagecolorallocate($image, 30, 30, 40);
        imagefilledrectangle($image, 560, 500, 560 + (int) ($size * 9), 500 + 2 * $size, $paper);
        imagettftext($image, $size, 0, 566, 500 + (int) ($size * 1.5), $ink, self::FONT, $words);

        return $image;
    }

    private static function dotted(GdImage $image): GdImage
    {
        imagefilledellipse($image, 200, 180, 16, 16, (int) imagecolorallocate($image, 208, 32, 32));

        return $image;
    }

    /** One thing in it is of another colour, and as bright as before. */
    private static function coloured(GdImage $image): GdImage
    {
        for ($y = 260; $y < 380; $y++) {
            for ($x = 380; $x < 520; $x++) {
                $rgb = imagecolorat($image, $x, $y);
                [$r, $g, $b] = [($rgb >> 16) & 255, ($rgb >> 8) & 255, $rgb & 255];
                $bounded = static fn (int $value): int => max(0, min(255, $value));
                imagesetpixel(
                    $image,
                    $x,
                    $y,
                    $bounded($r + 60) << 16 | $bounded($g - 24) << 8 | $bounded($b - 40),
                );
            }
        }

        return $image;
    }

    private static function faced(GdImage $image, int $who): GdImage
    {
        $skin = (int) imagecolorallocate($image, 214, 170, 140);
        $dark = (int) imagecolorallocate($image, 60, 40, 34);
        imagefilledellipse($image, 450, 300, 90, 116, $skin);
        imagefilledellipse($image, 430, $who === 1 ? 286 : 294, 11, 8, $dark);
        imagefilledellipse($image, 470, $who === 1 ? 286 : 294, 11, 8, $dark);
        $who === 1
            ? imagefilledarc($image, 450, 326, 44, 26, 0, 180, $dark, IMG_ARC_PIE)
            : imagefilledrectangle($image, 434, 330, 466, 336, $dark);
        imagefilledarc($image, 450, 268, 96, 70, 180, 360, $who === 1 ? $dark : 0xC8B060, IMG_ARC_PIE);

        return $image;
    }
}
