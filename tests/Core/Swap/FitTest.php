<?php

declare(strict_types=1);

use Ylema\Imaging\Size;
use Ylema\Plan\PlacedBox;
use Ylema\Swap\Fit;

function fitOf(?Size $before, ?Size $after, string $was = 'jpg', string $is = 'jpg', ?string $alt = null): Fit
{
    return new Fit($before, $after, $was, $is, false, false, $alt);
}

it('says nothing where nothing will look different', function (): void {
    $fit = fitOf(new Size(1200, 800), new Size(1500, 1000), alt: 'Boats');
    expect($fit->notes())
        ->toBe([])
        ->and($fit->inBox(new PlacedBox(1, 300, 200)))
        ->toBeNull()
        ->and($fit->inBox(new PlacedBox(1, null, null)))
        ->toBeNull()
        ->and($fit->inBox(new PlacedBox(1, null, null, new Size(600, 400), 'aside')))
        ->toBeNull();
});

it('says what is so at every place', function (Fit $fit, string $says): void {
    expect(implode("\n", $fit->notes()))->toContain($says);
})->with([
    'another shape' => [
        fitOf(new Size(1200, 240), new Size(800, 800)),
        'Another shape: 1,200 × 240 pixels now, 800 × 800',
    ],
    'fewer pixels' => [
        fitOf(new Size(1200, 800), new Size(600, 400)),
        'Fewer pixels: 600 across, where there were 1,200',
    ],
    'far too many' => [fitOf(new Size(1200, 800), new Size(6000, 4000)), 'Far too many pixels: 6,000 across'],
    'another type' => [
        fitOf(new Size(9, 9), new Size(9, 9), 'png', 'jpg'),
        'Another type: .png now, .jpg after. What is transparent',
    ],
    'no words' => [fitOf(new Size(9, 9), new Size(9, 9), alt: ' '), 'no alt text'],
    'it moved' => [new Fit(null, null, 'gif', 'gif', true, false), 'moves now; the new one stands still'],
    'it moves' => [new Fit(null, null, 'gif', 'gif', true, true), 'sizes that are drawn from it stand still'],
]);

it('says what becomes of a box', function (PlacedBox $box, ?string $says): void {
    expect(fitOf(new Size(1200, 240), new Size(500, 500))->inBox($box))->toBe($says);
})->with([
    'fixed' => [new PlacedBox(1, 240, 48), 'Stretched: the box is fixed at 240 × 48.'],
    'fixed and too large' => [new PlacedBox(1, 600, 600), 'Enlarged: the box is 600 wide, the picture 500.'],
    'of a slot' => [
        new PlacedBox(1, null, null, new Size(1200, 240), 'masthead'),
        '“masthead” is made for 1,200 × 240 and states no size here: it becomes 1,200 × 1,200.',
    ],
    'only a width' => [new PlacedBox(1, 600, null), 'Enlarged: the box is 600 wide, the picture 500.'],
    'none' => [
        new PlacedBox(1, null, null),
        'No height is stated here: the place becomes as tall as the new shape makes it.',
    ],
]);
