<?php

declare(strict_types=1);

use Tests\Core\Plan\KnownFacts;
use Ylema\Imaging\PictureFile;
use Ylema\Imaging\Size;
use Ylema\Plan\KeptFile;
use Ylema\Plan\MediaFacts;
use Ylema\Sites\FileState;
use Ylema\Swap\NewItem;

/** @param  list<array{int, int}|null>  $sizes of the renditions that the old item has */
function itemBeside(KeptFile $file, array $sizes = [], string $path = 'media/old.jpg', ?KnownFacts $facts = null): NewItem
{
    $files = [new PictureFile($path, new Size(1200, 800), true)];
    foreach ($sizes as $n => $size) {
        $files[] = new PictureFile("media/old.$n.jpg", $size === null ? null : new Size(...$size));
    }

    return NewItem::beside(new MediaFacts('7', $files, 1, 'Old', $path), $file, $facts ?? new KnownFacts());
}

/** @return array<string, string> */
function drawnOf(NewItem $item): array
{
    return array_map(strval(...), $item->renditions);
}

it('is drawn in the sizes of the old one, in its own shape, and never enlarged', function (
    ?Size $pixels,
    bool $isDrawable,
    array $sizes,
    array $drawn,
): void {
    $file = new KeptFile('x', 9, 'new.jpg', 'jpg', $pixels, $isDrawable);
    expect(drawnOf(itemBeside($file, $sizes)))->toBe($drawn);
})->with([
    'in its own shape' => [new Size(1000, 500), true, [[480, 320]], ['media/new.w480.jpg' => '480 × 240']],
    'square cuts stay square' => [new Size(1000, 500), true, [[150, 150]], ['media/new.w150.jpg' => '150 × 150']],
    'to the nearer pixel, below' => [new Size(1000, 333), true, [[100, 50]], ['media/new.w100.jpg' => '100 × 33']],
    'to the nearer pixel, above' => [new Size(1000, 337), true, [[100, 50]], ['media/new.w100.jpg' => '100 × 34']],
    'never to nothing' => [new Size(9000, 1), true, [[100, 50]], ['media/new.w100.jpg' => '100 × 1']],
    'not as wide as itself' => [new Size(480, 240), true, [[480, 320]], []],
    'a pixel narrower' => [new Size(481, 240), true, [[480, 320]], ['media/new.w480.jpg' => '480 × 240']],
    'a square as high as it is' => [new Size(300, 150), true, [[150, 150]], ['media/new.w150.jpg' => '150 × 150']],
    'a square higher than it is' => [new Size(300, 149), true, [[150, 150]], []],
    'each size once' => [
        new Size(1000, 500),
        true,
        [[480, 320], [480, 300], [200, 100]],
        ['media/new.w480.jpg' => '480 × 240', 'media/new.w200.jpg' => '200 × 100'],
    ],
    'without a size' => [new Size(1000, 500), true, [null, [200, 100]], ['media/new.w200.jpg' => '200 × 100']],
    // Of two sizes that get one name, the first: nothing is written over.
    'two of one name' => [
        new Size(1000, 500),
        true,
        [[150, 100], [150, 150]],
        ['media/new.w150.jpg' => '150 × 75'],
    ],
    'not drawable' => [new Size(1000, 500), false, [[480, 320]], []],
    'of no known size' => [null, true, [[480, 320]], []],
]);

it('lies beside the old one, under a name that is free in all its files', function (
    string $name,
    string $old,
    array $taken,
    string $path,
): void {
    $facts = new KnownFacts(files: array_fill_keys($taken, new FileState('x', 1)));
    $file = new KeptFile('x', 9, $name, 'jpg', new Size(1000, 500), true);
    $item = itemBeside($file, [[480, 320]], $old, $facts);
    expect($item->path)->toBe($path)->and($item->paths())->toHaveCount(2);
})->with([
    'in its folder' => ['Low Water.jpg', 'media/2014/old.jpg', [], 'media/2014/low-water.jpg'],
    'at the root' => ['Low Water.jpg', 'old.jpg', [], 'low-water.jpg'],
    'a name that is taken' => ['a.jpg', 'media/old.jpg', ['media/a.jpg'], 'media/a-2.jpg'],
    'a size that is taken' => ['a.jpg', 'media/old.jpg', ['media/a.w480.jpg'], 'media/a-2.jpg'],
    'a gap' => ['a.jpg', 'media/old.jpg', ['media/a.jpg', 'media/a-3.jpg'], 'media/a-2.jpg'],
    'twenty that are taken' => [
        'a.jpg',
        'media/old.jpg',
        ['media/a.jpg', ...array_map(static fn (int $n): string => "media/a-$n.jpg", range(2, 20))],
        'media/a-21.jpg',
    ],
    'fifty that are taken' => [
        'a.jpg',
        'media/old.jpg',
        ['media/a.jpg', ...array_map(static fn (int $n): string => "media/a-$n.jpg", range(2, 50))],
        'media/a-51.jpg',
    ],
    'a name of numbers' => ['2024.jpg', '1.jpg', [], '2024.jpg'],
]);

it('has its own words, or those of its file name', function (string $name, string $title, string $shown): void {
    $item = itemBeside(new KeptFile('x', 9, $name, 'jpg', new Size(1000, 500), true), [[480, 320]]);
    $media = $item->media($title, 'an alt', 'a caption', 'a credit');
    $facts = $item->facts($title);
    expect([$media->title, $media->alt, $media->caption, $media->credit, $media->width, $media->height])
        ->toBe([$shown, 'an alt', 'a caption', 'a credit', 1000, 500])
        ->and($media->renditions)
        ->toBe([['path' => array_key_first($item->renditions), 'width' => 480, 'height' => 240]])
        ->and([$facts->id, $facts->title, $facts->path])
        ->toBe(['', $shown, $item->path])
        ->and(array_column($facts->files, 'isOriginal'))
        ->toBe([true, false]);
})->with([
    'its own' => ['a.jpg', 'Ebb', 'Ebb'],
    'of its file' => ['low_water--at dusk.jpg', '', 'Low Water At Dusk'],
    'of a file with marks around' => ['-low-.jpg', '', 'Low'],
    'with letters that stay' => ['ÉTÉ à la mer.jpg', '', 'Été À La Mer'],
]);

it('has no pixels where none are known', function (): void {
    $media = itemBeside(new KeptFile('x', 9, 'paper.pdf', 'pdf', null, false))->media('', '');
    expect([$media->width, $media->height, $media->renditions])->toBe([null, null, []]);
});
