<?php

declare(strict_types=1);

use Ylema\Imaging\Crop;
use Ylema\Imaging\InvalidSize;
use Ylema\Imaging\PictureFile;
use Ylema\Imaging\RenditionChoice;
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

it('cuts to the very pixel', function (array $source, array $target, array $focus, array $cut): void {
    $crop = Crop::toFill(new Size(...$source), new Size(...$target), ...$focus);
    expect([$crop->x, $crop->y, $crop->width, $crop->height])->toBe($cut);
})->with([
    // 1000 × 5/3 ÷ … : where rounding up, down and to the nearest differ.
    'to the nearer pixel below' => [[1000, 1000], [300, 130], [0.5, 0.5], [0, 284, 1000, 433]],
    'to the nearer pixel above' => [[1000, 1000], [300, 125], [0.5, 0.5], [0, 292, 1000, 417]],
    'a width to the nearer below' => [[1000, 1000], [130, 300], [0.5, 0.5], [284, 0, 433, 1000]],
    'a width to the nearer above' => [[1000, 1000], [125, 300], [0.5, 0.5], [292, 0, 417, 1000]],
    'a focus between two pixels, lower' => [[1000, 100], [100, 100], [0.3333, 0.5], [283, 0, 100, 100]],
    'a focus between two pixels, higher' => [[1000, 100], [100, 100], [0.3337, 0.5], [284, 0, 100, 100]],
    'down, a focus between two pixels' => [[100, 1000], [100, 100], [0.5, 0.3333], [0, 283, 100, 100]],
    'down, a focus nearer to the next' => [[100, 1000], [100, 100], [0.5, 0.3337], [0, 284, 100, 100]],
    'never to nothing' => [[1000, 1], [1, 1000], [0.5, 0.5], [500, 0, 1, 1]],
    'never to nothing, down' => [[1, 1000], [1000, 1], [0.5, 0.5], [0, 500, 1, 1]],
]);

it('fits to the nearer pixel', function (array $size, array $box, string $fitted): void {
    expect((string) (new Size(...$size))->within(new Size(...$box)))->toBe($fitted);
})->with([
    [[1000, 333], [100, 100], '100 × 33'],
    [[1000, 337], [100, 100], '100 × 34'],
    [[333, 1000], [100, 100], '33 × 100'],
    [[337, 1000], [100, 100], '34 × 100'],
    [[1, 5000], [100, 100], '1 × 100'],
]);

it('has no side of nothing, and says which was meant', function (int $width, int $height): void {
    try {
        new Size($width, $height);
    } catch (InvalidSize $invalid) {
        expect([$invalid->width, $invalid->height])->toBe([$width, $height])->and($invalid->getMessage())->toContain(
            "$width",
        )->toContain("$height");
    }
    expect(isset($invalid))->toBeTrue();
})->with([[0, 1], [1, 0], [-1, 5]]);

it('takes the smallest of nearly the same shape, whatever the order', function (array $sizes, string $best): void {
    $files = [new PictureFile('original', new Size(3000, 1000), true)];
    foreach ($sizes as $name => $size) {
        $files[] = new PictureFile($name, $size === null ? null : new Size(...$size));
    }
    $wanted = new PictureFile('x', new Size(300, 100));
    foreach ([$files, array_reverse($files)] as $order) {
        expect(RenditionChoice::for($wanted, $order)->path)->toBe($best);
    }
})->with([
    'one just as wide' => [['a' => [300, 100]], 'a'],
    'one a pixel too narrow' => [['a' => [299, 100]], 'original'],
    // Shapes count as the same up to three in a hundred.
    'nearly the same shape' => [['a' => [308, 100]], 'a'],
    'another shape, though smaller' => [['a' => [310, 100], 'b' => [600, 200]], 'b'],
    'flatter, though smaller' => [['a' => [300, 90], 'b' => [600, 200]], 'b'],
    'without a size' => [['a' => null, 'b' => [600, 200]], 'b'],
    'behind one that is too narrow' => [['a' => [100, 33], 'b' => [600, 200], 'c' => [900, 300]], 'b'],
]);

it('takes the first file where there is no original', function (): void {
    $files = [new PictureFile('a', new Size(10, 10)), new PictureFile('b', new Size(20, 20))];
    expect(RenditionChoice::for(new PictureFile('x', null), $files)->path)->toBe('a');
});
