<?php

declare(strict_types=1);

use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;

/** @return list<array{string, string}> role and fetching of all that a piece of markup refers to */
function rolesIn(string $html, ?Rules $rules = null): array
{
    return array_map(
        static fn (Reference $r): array => [$r->role, $r->fetch->value],
        (new FieldReader())->read($html, Notation::Html, $rules ?? new Rules(mediaFolders: ['/media/']))->references,
    );
}

it('knows the role and the fetching of every place that html has', function (string $html, array $roles): void {
    expect(rolesIn($html))->toBe($roles);
})->with([
    'a picture' => ['<img src="/a.jpg">', [['img[src]', 'always']]],
    'a picture that waits' => ['<img src="/a.jpg" loading="lazy">', [['img[src]', 'on-condition']]],
    'a picture that waits, said before' => ['<img loading=lazy src=/a.jpg>', [['img[src]', 'on-condition']]],
    'a picture that does not wait' => ['<img src="/a.jpg" loading="eager">', [['img[src]', 'always']]],
    'candidates beside a source' => [
        '<img srcset="/a.jpg 1x, /b.jpg 2x" src="/a.jpg">',
        [['img[srcset]', 'on-condition'], ['img[srcset]', 'on-condition'], ['img[src]', 'on-condition']],
    ],
    'a description elsewhere' => ['<img longdesc="/a.html">', [['img[longdesc]', 'when-followed']]],
    'a source in a picture' => [
        '<picture><source srcset="/a.webp"><img src="/a.jpg"></picture><img src="/b.jpg">',
        [['source[srcset]', 'on-condition'], ['img[src]', 'on-condition'], ['img[src]', 'always']],
    ],
    'a source in a video' => ['<video><source src="/a.mp4"></video>', [['source[src]', 'on-condition']]],
    'a video' => [
        '<video src="/a.mp4" poster="/a.jpg"></video>',
        [['video[src]', 'always'], ['video[poster]', 'always']],
    ],
    'a video that is not loaded' => [
        '<video preload="none" src="/a.mp4" poster="/a.jpg"></video>',
        [['video[src]', 'on-condition'], ['video[poster]', 'always']],
    ],
    'a sound' => ['<audio src="/a.mp3"></audio>', [['audio[src]', 'always']]],
    'a sound that is not loaded' => ['<audio src="/a.mp3" preload="none"></audio>', [['audio[src]', 'on-condition']]],
    'a track' => ['<track src="/a.vtt">', [['track[src]', 'on-condition']]],
    'an object' => ['<object data="/a.pdf"></object>', [['object[data]', 'always']]],
    'an embedded file' => ['<embed src="/a.swf">', [['embed[src]', 'always']]],
    'a picture button' => ['<input type="image" src="/a.png">', [['input[src]', 'always']]],
    'a picture button in capitals' => ['<INPUT TYPE=IMAGE SRC=/a.png>', [['input[src]', 'always']]],
    'an input that shows no picture' => ['<input type="text" src="/a.png">', []],
    'a frame' => ['<iframe src="/a.html"></iframe>', [['iframe[src]', 'always']]],
    'a frame that waits' => ['<iframe src="/a.html" loading="lazy"></iframe>', [['iframe[src]', 'on-condition']]],
    'a script' => ['<script src="/a.js"></script>', [['script[src]', 'always']]],
    'an icon' => ['<link rel="icon" href="/a.png">', [['link[href]', 'always']]],
    'an icon by its old name' => ['<link rel="shortcut icon" href="/a.ico">', [['link[href]', 'always']]],
    'a touch icon' => ['<link rel="apple-touch-icon" href="/a.png">', [['link[href]', 'on-condition']]],
    'a mask icon' => ['<link rel="mask-icon" href="/a.svg">', [['link[href]', 'on-condition']]],
    'a style sheet' => ['<link rel="stylesheet" href="/a.css">', [['link[href]', 'always']]],
    'a style sheet for print' => [
        '<link rel="stylesheet" media="print" href="/a.css">',
        [['link[href]', 'on-condition']],
    ],
    'a preload' => ['<link rel="preload" as="image" href="/a.jpg">', [['link[href]', 'always']]],
    'a preload of candidates' => [
        '<link rel="preload" as="image" imagesrcset="/a.jpg 1x">',
        [['link[imagesrcset]', 'on-condition']],
    ],
    'a prefetch' => ['<link rel="prefetch" href="/a.jpg">', [['link[href]', 'on-condition']]],
    'a picture for sharers' => ['<link rel="image_src" href="/a.jpg">', [['link[href]', 'when-followed']]],
    'a feed' => ['<link rel="alternate" href="/a.xml">', [['link[href]', 'when-followed']]],
    'a manifest' => ['<link rel="manifest" href="/a.json">', [['link[href]', 'on-condition']]],
    'the page itself' => ['<link rel="canonical" href="/a">', [['link[href]', 'when-followed']]],
    'a picture by microdata' => ['<link itemprop="image" href="/a.jpg">', [['link[href]', 'when-followed']]],
    'a share picture' => ['<meta property="og:image" content="/a.jpg">', [['meta[content]', 'when-followed']]],
    'a share picture, the other way round' => [
        '<meta content="/a.jpg" property="og:image">',
        [['meta[content]', 'when-followed']],
    ],
    'a share picture of a second network' => [
        '<meta name="twitter:image" content="/a.jpg">',
        [['meta[content]', 'when-followed']],
    ],
    'a tile' => ['<meta name="msapplication-TileImage" content="/a.png">', [['meta[content]', 'when-followed']]],
    'a picture by itemprop' => ['<meta itemprop="image" content="/a.jpg">', [['meta[content]', 'when-followed']]],
    'a picture for two networks' => [
        "<meta property=\"og:image\n twitter:image\" content=\" /a.jpg \">",
        [['meta[content]', 'when-followed']],
    ],
    'a picture among other things' => [
        '<meta itemprop="name  Image" content="a.jpg">',
        [['meta[content]', 'when-followed']],
    ],
    'a picture by its second name' => [
        '<meta property="og:title" name="thumbnail" content="a.jpg">',
        [['meta[content]', 'when-followed']],
    ],
    'words' => ['<meta name="description" content="/a.jpg">', []],
    'a share title' => ['<meta property="og:title" content="/a.jpg">', []],
    'a link' => ['<a href="/a.pdf">x</a>', [['a[href]', 'when-followed']]],
    'a link to a place on the page' => ['<a href="#a">x</a>', []],
    'an area' => ['<map><area href="/a.jpg"></map>', [['area[href]', 'when-followed']]],
    'the background of a page' => ['<body background="/a.gif">', [['body[background]', 'always']]],
    'the background of a table' => [
        '<table background="/a.gif"><tr><td background="/b.gif"><th background="/c.gif">',
        [['table[background]', 'always'], ['td[background]', 'always'], ['th[background]', 'always']],
    ],
    'a picture in a drawing' => ['<svg><image href="/a.png"/></svg>', [['image[href]', 'always']]],
    'a picture in an old drawing' => ['<svg><image xlink:href="/a.png"/></svg>', [['image[xlink:href]', 'always']]],
    'a drawing of elsewhere' => ['<svg><use href="/a.svg#b"/></svg>', [['use[href]', 'always']]],
    'a drawing of the same page' => ['<svg><use href="#b"/></svg>', []],
    'a picture in a filter' => ['<svg><feImage href="/a.png"/></svg>', [['feimage[href]', 'always']]],
    'a link in a drawing' => ['<svg><a href="/a.pdf"></a></svg>', [['a[href]', 'when-followed']]],
    'style at an element' => ['<p style="background: url(/a.png)">', [['css url', 'on-condition']]],
    'style in a drawing' => ['<svg><rect style="fill: url(/a.svg#b)"/></svg>', [['css url', 'on-condition']]],
    'an imported sheet' => ['<style>@import "/a.css";</style>', [['css import', 'always']]],
    'a set of pictures in style' => [
        '<style>a { background: image-set("/a.png" 1x) }</style>',
        [['css image-set', 'on-condition']],
    ],
    'structured data' => [
        '<script type="application/ld+json">{"logo": "https://x.example/a.png"}</script>',
        [['json-ld', 'when-followed']],
    ],
    'relative structured data' => [
        '<script type="application/ld+json">[{"image": ["a.jpg", {"url": "../b.png"}], "name": "c.jpg"}]</script>',
        [['json-ld', 'when-followed'], ['json-ld', 'when-followed']],
    ],
    'a style sheet of another type' => [
        '<link rel="stylesheet" type="text/less" href="/a.less">',
        [['link[href]', 'on-condition']],
    ],
    'a style element of another type' => [
        '<style type="text/less">@import "/a";</style>',
        [['css import', 'on-condition']],
    ],
    'a film of a dead type' => ['<embed type="application/x-tides" src="/a.tid">', [['embed[src]', 'on-condition']]],
    'an object of a dead type' => ['<object type="application/x-tides" data="/a">', [['object[data]', 'on-condition']]],
    'an object of a living type' => ['<object type="image/svg+xml" data="/a">', [['object[data]', 'always']]],
    'a frame' => ['<frameset><frame src="/a.html"></frameset>', [['frame[src]', 'always']]],
    'a frame of no set' => ['<p><frame src="/a.html">', [['frame[src]', 'on-condition']]],
    'a frame in a body' => ['<body><frameset><frame src="/a.html"></frameset>', [['frame[src]', 'on-condition']]],
    'a string of a script' => ['<script>show("/media/a.jpg")</script>', [['script', 'on-condition']]],
    'markup in a string of a script' => ['<script>write("<img src=/a.jpg>")</script>', [['img[src]', 'on-condition']]],
    'what a browser without script sees' => ['<noscript><img src="/a.jpg"></noscript>', [['img[src]', 'on-condition']]],
    'a template' => [
        '<template><img src="/a.jpg"><style>@import "/a.css"</style></template>',
        [['img[src]', 'on-condition'], ['css import', 'on-condition']],
    ],
    'a document in a frame' => ['<iframe srcdoc="<img src=/a.jpg>"></iframe>', [['img[src]', 'always']]],
]);

it('knows the usual lazy-loading attributes on any element', function (string $name, Notation $notation): void {
    $value = $notation === Notation::Srcset ? '/a.jpg 1x' : '/a.jpg';
    foreach (['div', 'img', 'section', 'x-picture'] as $element) {
        expect(rolesIn("<$element $name=\"$value\">"))->toBe([["{$element}[$name]", 'on-condition']]);
    }
})->with(function (): Generator {
    foreach (Rules::LAZY as $name => $notation) {
        yield $name => [$name, $notation];
    }
});

it('knows the lazy-loading attributes of a site, in any notation', function (
    Notation $notation,
    string $value,
    array $roles,
): void {
    $rules = new Rules(lazyAttributes: ['data-own' => $notation], mediaFolders: ['/media/']);
    expect(rolesIn('<div data-own="'.htmlspecialchars($value).'" data-src="/no.jpg">', $rules))->toBe($roles);
})->with([
    'an address' => [Notation::Url, '/media/a.jpg', [['div[data-own]', 'on-condition']]],
    'candidates' => [
        Notation::Srcset,
        '/media/a.jpg 1x, /media/b.jpg 2x',
        [['div[data-own]', 'on-condition'], ['div[data-own]', 'on-condition']],
    ],
    'style' => [Notation::Css, 'background: url("/media/a.jpg")', [['css url', 'on-condition']]],
    'markup' => [Notation::Html, '<img src="/media/a.jpg">', [['img[src]', 'always']]],
    'json' => [Notation::Json, '{"picture": "/media/a.jpg", "n": 3}', [['url', 'on-condition']]],
]);
