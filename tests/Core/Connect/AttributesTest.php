<?php

declare(strict_types=1);

use Ylema\Addresses\SiteAddresses;
use Ylema\Connect\Attributes;
use Ylema\Connect\FileLookup;
use Ylema\Connect\Looker;
use Ylema\Connect\OwnAddresses;

/*
 * Attributes that name files of the site and that no reading knows by itself.
 */

/** @param  list<string>  $texts */
function attributes(array $texts): array
{
    $files = new FileLookup(['media/a.jpg', 'media/b.jpg', 'media/c.jpg']);

    $addresses = new SiteAddresses('https://site.example/');
    $own = new OwnAddresses($files, $addresses, []);

    return (new Attributes(new Looker($addresses, $files, $own)))->in($texts);
}

it('finds those of elements of the site\'s own, and those of its scripts', function (
    string $text,
    array $wanted,
): void {
    expect(attributes([$text]))->toBe([...['lazy' => [], 'elements' => []], ...$wanted]);
})->with([
    'an element' => [
        '<site-photo picture="/media/a.jpg" size="large"></site-photo>',
        ['elements' => ['site-photo' => ['picture' => 'url']]],
    ],
    'sizes' => [
        '<x-pic wide="/media/a.jpg 1x, /media/b.jpg 2x">', ['elements' => ['x-pic' => ['wide' => 'srcset']]],
    ],
    'a script' => ['<div data-bay="/media/a.jpg">', ['lazy' => ['data-bay' => 'url']]],
    'a list' => ['<ul data-all="/media/a.jpg,/media/b.jpg">', ['lazy' => ['data-all' => 'addresses']]],
    'json' => [
        '<div data-set="{&quot;pics&quot;:[&quot;/media/a.jpg&quot;]}">', ['lazy' => ['data-set' => 'json']],
    ],
    'in json' => [
        (string) json_encode(['html' => '<i data-bay="/media/c.jpg">']), ['lazy' => ['data-bay' => 'url']],
    ],
    'what is read anyway' => [
        '<img src="/media/a.jpg" data-src="/media/b.jpg" style="background:url(/media/c.jpg)">',
        [],
    ],
    'no file' => ['<site-photo picture="/media/none.jpg">', []],
    'words' => ['<x-pic title="about a.b and c.d">', []],
    'damage' => ['<site-photo picture="/media/a.jpg', []],
]);

it('needs most of the values to name files', function (): void {
    expect(attributes(['<p data-say="/media/a.jpg">', '<p data-say="/x/y.html">', '<p data-say="/x/z.html">'])['lazy'])
        ->toBe([]);
});
