<?php

declare(strict_types=1);

use Ylema\Imaging\Crop;
use Ylema\Imaging\Size;

it('stays inside, has the shape, and takes as much as there is', function (array $source, array $target): void {
    $source = new Size(...$source);
    $target = new Size(...$target);
    foreach ([0.0, 0.2, 0.5, 0.9, 1.0] as $x) {
        foreach ([0.0, 0.5, 1.0] as $y) {
            $crop = Crop::toFill($source, $target, $x, $y);
            expect($crop->x)
                ->toBeGreaterThanOrEqual(0)
                ->and($crop->y)
                ->toBeGreaterThanOrEqual(0)
                ->and($crop->x + $crop->width)
                ->toBeLessThanOrEqual($source->width)
                ->and($crop->y + $crop->height)
                ->toBeLessThanOrEqual($source->height)
                // One side is taken whole, to the pixel that rounding leaves.
                ->and(min($source->width - $crop->width, $source->height - $crop->height))
                ->toBeLessThanOrEqual(1)
                ->and(abs($crop->width - $crop->height * $target->ratio()))
                ->toBeLessThanOrEqual(max(1.0, $target->ratio()))
                ->and($crop->loss($source))
                ->toBeGreaterThanOrEqual(0.0)
                ->toBeLessThan(1.0);
        }
    }
})->with([
    'wide to square' => [[1200, 800], [400, 400]],
    'tall to wide' => [[600, 1800], [1600, 900]],
    'the same shape' => [[1200, 800], [300, 200]],
    'a little one to a large one' => [[30, 20], [3000, 1000]],
    'one pixel' => [[1, 1], [16, 9]],
    'odd sizes' => [[1013, 677], [333, 250]],
]);

it('loses nothing where the shape is the same', function (): void {
    expect(Crop::toFill(new Size(1200, 800), new Size(300, 200))->loss(new Size(1200, 800)))->toBe(0.0);
});

it('keeps the focal point in sight', function (float $x, float $y): void {
    $crop = Crop::toFill(new Size(1000, 1000), new Size(500, 100), $x, $y);
    expect($crop->y)
        ->toBeLessThanOrEqual((int) ($y * 1000))
        ->and($crop->y + $crop->height)
        ->toBeGreaterThanOrEqual((int) ($y * 1000))
        ->and($crop->x)
        ->toBe(0)
        ->and($x)
        ->toBeBetween(0, 1);
})->with([[0.5, 0.1], [0.5, 0.5], [0.1, 0.93], [0.0, 0.0], [1.0, 1.0]]);

it('fits into a box and keeps its shape', function (array $size, array $box, string $fitted): void {
    expect((string) (new Size(...$size))->within(new Size(...$box)))->toBe($fitted);
})->with([
    'by its width' => [[1200, 600], [300, 300], '300 × 150'],
    'by its height' => [[600, 1200], [300, 300], '150 × 300'],
    'as it is' => [[200, 100], [300, 300], '200 × 100'],
    'exactly' => [[300, 300], [300, 300], '300 × 300'],
    'never to nothing' => [[5000, 2], [100, 100], '100 × 1'],
]);
