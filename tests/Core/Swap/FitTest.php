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

it('says each of it in full, and from which pixel on', function (Fit $fit, array $notes): void {
    expect($fit->notes())->toBe($notes);
})->with([
    'all at once' => [
        new Fit(new Size(1200, 800), new Size(3000, 1000), 'png', 'jpeg', true, false, ''),
        [
            'Another shape: 1,200 × 800 pixels now, 3,000 × 1,000 after.',
            'Far too many pixels: 3,000 across, where no page shows more than 2,600. Places that name the original '
                .'make every visitor load all of them.',
            'Another type: .png now, .jpeg after. What is transparent now will not be.',
            'The picture moves now; the new one stands still.',
            'The new item has no alt text: whoever cannot see it learns nothing of it.',
        ],
    ],
    'fewer' => [
        fitOf(new Size(2000, 1000), new Size(1000, 500)),
        [
            'Fewer pixels: 1,000 across, where there were 2,000. Places that show it large will show it blurred.',
        ],
    ],
    'as good as no fewer' => [fitOf(new Size(1020, 510), new Size(1000, 500)), []],
    'a little fewer' => [
        fitOf(new Size(1021, 510), new Size(1000, 500)),
        ['Fewer pixels: 1,000 across, where there were 1,021. Places that show it large will show it blurred.'],
    ],
    'just not too many' => [fitOf(new Size(2600, 1300), new Size(2600, 1300)), []],
    'a type without transparency' => [
        fitOf(new Size(9, 9), new Size(9, 9), 'gif', 'jpg'),
        ['Another type: .gif now, .jpg after.'],
    ],
    'a png stays transparent in webp' => [
        fitOf(new Size(9, 9), new Size(9, 9), 'png', 'webp'),
        ['Another type: .png now, .webp after.'],
    ],
    'the same type by another name' => [fitOf(new Size(9, 9), new Size(9, 9), 'jpg', 'jpeg'), []],
    'nothing known' => [fitOf(null, null), []],
    'only what comes is known' => [fitOf(null, new Size(9, 9)), []],
    'only what gives way is known' => [fitOf(new Size(9, 9), null), []],
    'it moves, and did' => [
        new Fit(null, null, 'gif', 'gif', true, true),
        ['The new picture moves; sizes that are drawn from it stand still.'],
    ],
    'it moves, and did not' => [
        new Fit(null, null, 'gif', 'gif', false, true),
        ['The new picture moves; sizes that are drawn from it stand still.'],
    ],
    'words of blanks' => [
        fitOf(null, null, alt: " \n"),
        ['The new item has no alt text: whoever cannot see it learns nothing of it.'],
    ],
    'nobody gives it words' => [fitOf(null, null, alt: null), []],
]);

it('takes shapes for alike up to three in a hundred', function (?Size $one, ?Size $other, bool $alike): void {
    expect([Fit::areAlike($one, $other), Fit::areAlike($other, $one)])->toBe([$alike, $alike]);
})->with([
    [new Size(1000, 1000), new Size(1030, 1000), true],
    [new Size(1000, 1000), new Size(1031, 1000), false],
    [new Size(1000, 1000), new Size(1000, 1031), false],
    [null, new Size(1, 9), true],
    [null, null, true],
]);

it('knows what becomes of each box of a picture that comes', function (PlacedBox $box, ?string $says): void {
    expect(fitOf(new Size(500, 500), new Size(500, 500))->inBox($box))->toBe($says);
})->with([
    'as wide as the picture' => [new PlacedBox(1, 500, 500), null],
    'a pixel wider' => [new PlacedBox(1, 501, 501), 'Enlarged: the box is 501 wide, the picture 500.'],
    'only a width, as wide' => [new PlacedBox(1, 500, null), null],
    'only a width, a pixel wider' => [new PlacedBox(1, 501, null), 'Enlarged: the box is 501 wide, the picture 500.'],
    'only a height' => [new PlacedBox(1, null, 90), null],
    'a width of nothing' => [new PlacedBox(1, 0, 90), null],
    'a height of nothing' => [new PlacedBox(1, 90, 0), null],
    'of one pixel, stretched' => [new PlacedBox(1, 1, 9), 'Stretched: the box is fixed at 1 × 9.'],
    'a carrier of its shape, wider' => [
        new PlacedBox(1, null, null, new Size(600, 600), 'aside'),
        'Enlarged: the box is 600 wide, the picture 500.',
    ],
    'a carrier of another shape' => [
        new PlacedBox(1, null, null, new Size(301, 100), 'aside'),
        '“aside” is made for 301 × 100 and states no size here: it becomes 301 × 301.',
    ],
]);

it('rounds what a box becomes to the nearer pixel, and never to nothing', function (Size $after, string $becomes): void {
    $says = fitOf(new Size(9, 9), $after)->inBox(new PlacedBox(1, null, null, new Size(100, 100), 'aside'));
    expect($says)->toEndWith("it becomes 100 × $becomes.");
})->with([
    [new Size(1000, 333), '33'],
    [new Size(1000, 337), '34'],
    [new Size(9000, 1), '1'],
]);

it('knows nothing of a box where nothing is known of the picture', function (): void {
    expect(fitOf(new Size(9, 9), null)->inBox(new PlacedBox(1, 5, 9)))->toBeNull();
});
