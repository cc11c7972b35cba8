<?php

declare(strict_types=1);

use Ylema\Addresses\MediaPages;
use Ylema\Addresses\SiteAddresses;
use Ylema\Change\Rewriter;
use Ylema\Imaging\PictureFile;
use Ylema\Imaging\Size;
use Ylema\Plan\MediaFacts;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\PathRule;
use Ylema\Reading\Rules;
use Ylema\Swap\StandIn;

/** Plans to show item 2 where item 1 is shown in a text, and gives the text after it. */
function swappedText(string $text, Notation $notation = Notation::Html, ?MediaPages $pages = null): string
{
    $rules = new Rules(paths: [new PathRule('picture', Notation::MediaId)], mediaFolders: ['/media/']);
    $from = new MediaFacts('1', [
        new PictureFile('media/old.jpg', new Size(900, 600), true),
        new PictureFile('media/old-300x200.jpg', new Size(300, 200), false),
    ]);
    $to = new MediaFacts('2', [
        new PictureFile('media/new pier.jpg', new Size(900, 600), true),
        new PictureFile('media/new pier-300x200.jpg', new Size(300, 200), false),
    ]);
    $addresses = new SiteAddresses('https://korrinbay.example/', ['https://old.example/bay/']);
    $uses = [];
    foreach ((new FieldReader())->read($text, $notation, $rules)->references as $reference) {
        $place = $addresses->locate($reference->value);
        $file = $place === null ? null : $from->file((string) $place->path);
        if ($file !== null || $reference->value === '1' || ($place !== null && $pages?->idOf($place) === '1')) {
            $uses[] = [$reference, $file?->path];
        }
    }

    $standIn = new StandIn($addresses, $pages, $from, $to);
    $changes = array_map(static fn (array $use): array => [$use[0], (string) $standIn->value(...$use)], $uses);

    return (new Rewriter())->edits($text, $notation, $rules, $changes)->applyTo($text);
}

it('writes the new file in the manner of the old reference', function (string $before, string $after): void {
    expect(swappedText($before))->toBe($after);
})->with([
    'from the root' => ['<img src="/media/old.jpg">', '<img src="/media/new%20pier.jpg">'],
    'whole' => [
        '<img src="https://korrinbay.example/media/old.jpg">',
        '<img src="https://korrinbay.example/media/new%20pier.jpg">',
    ],
    'without a scheme' => [
        '<img src="//korrinbay.example/media/old.jpg">',
        '<img src="//korrinbay.example/media/new%20pier.jpg">',
    ],
    'at the former address' => [
        '<img src="https://old.example/bay/media/old.jpg">',
        '<img src="https://korrinbay.example/media/new%20pier.jpg">',
    ],
    'each size by the size that it was' => [
        '<img srcset="/media/old-300x200.jpg 300w, /media/old.jpg 900w">',
        '<img srcset="/media/new%20pier-300x200.jpg 300w, /media/new%20pier.jpg 900w">',
    ],
    'in style' => ['<p style="background:url(/media/old.jpg)">', '<p style="background:url(/media/new%20pier.jpg)">'],
    'and nothing else' => [
        '<IMG  src=/media/old.jpg alt=Old><img src=/media/other.jpg>',
        '<IMG  src=/media/new%20pier.jpg alt=Old><img src=/media/other.jpg>',
    ],
    'in quotes of either kind' => [
        "<img src='/media/old.jpg'><img src=\"/media/old.jpg\">",
        "<img src='/media/new%20pier.jpg'><img src=\"/media/new%20pier.jpg\">",
    ],
]);

it('writes ids as ids', function (string $before, string $after): void {
    expect(swappedText($before, Notation::Json))->toBe($after);
})->with([
    'a number' => ['{ "picture": 1, "n": 1 }', '{ "picture": 2, "n": 1 }'],
    'in quotes' => ['{ "picture": "1" }', '{ "picture": "2" }'],
]);

it('keeps a link to the page of an item a link to a page', function (string $before, string $after): void {
    expect(swappedText($before, pages: new MediaPages('picture/{id}/')))->toBe($after);
})->with([
    'from the root' => ['<a href="/picture/1/">', '<a href="/picture/2/">'],
    'whole, with more behind' => [
        '<a href="https://korrinbay.example/picture/1?full#top">',
        '<a href="https://korrinbay.example/picture/2?full#top">',
    ],
    'beside the picture' => [
        '<a href=/picture/1/><img src=/media/old.jpg></a>',
        '<a href=/picture/2/><img src=/media/new%20pier.jpg></a>',
    ],
    'not that of another' => [
        '<a href="/picture/11/"><img src=/media/old.jpg></a>',
        '<a href="/picture/11/"><img src=/media/new%20pier.jpg></a>',
    ],
]);
