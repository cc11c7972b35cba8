<?php

declare(strict_types=1);

use Ylema\Imaging\UploadCheck;
use Ylema\Imaging\UploadRefused;

/** A small picture of a type, as a camera or a program would write it. */
function pictureBytes(string $type, int $width = 40, int $height = 30): string
{
    $image = imagecreatetruecolor($width, $height);
    imagefilledrectangle($image, 3, 3, $width - 6, $height - 6, (int) imagecolorallocate($image, 200, 90, 30));
    ob_start();
    match ($type) {
        'jpg' => imagejpeg($image),
        'png' => imagepng($image),
        'gif' => imagegif($image),
        'webp' => imagewebp($image),
        'avif' => imageavif($image),
    };

    return (string) ob_get_clean();
}

it('knows a picture by its bytes, whatever its name', function (string $type, string $mime): void {
    $picture = (new UploadCheck())->judge(pictureBytes($type), 'holiday.doc');
    expect([$picture->extension, $picture->mime, (string) $picture->size])->toBe([$type, $mime, '40 × 30']);
})->with([
    ['jpg', 'image/jpeg'],
    ['png', 'image/png'],
    ['gif', 'image/gif'],
    ['webp', 'image/webp'],
    ['avif', 'image/avif'],
]);

it('refuses a picture whose end is missing', function (string $type): void {
    $bytes = pictureBytes($type, 300, 200);
    expect(fn () => (new UploadCheck())->judge(substr($bytes, 0, (int) (strlen($bytes) * 0.7)), 'x'))->toThrow(
        UploadRefused::class,
        'part of the file is missing',
    );
})->with(['jpg', 'png', 'gif', 'webp', 'avif']);

it('takes a photograph with something behind its end, as some cameras write it', function (): void {
    expect((new UploadCheck())->judge(pictureBytes('jpg').str_repeat("\0", 64), 'x')->extension)->toBe('jpg');
});

it('refuses more than it can take, and says how much that is', function (): void {
    $bytes = pictureBytes('png', 200, 100);
    expect(fn () => (new UploadCheck(maxPixels: 19_999))->judge($bytes, 'x.png'))
        ->toThrow(UploadRefused::class)
        ->and(fn () => (new UploadCheck(maxBytes: 100))->judge($bytes, 'x.png'))
        ->toThrow(UploadRefused::class, 'limit')
        ->and((new UploadCheck(maxPixels: 20_000))->judge($bytes, 'x.png')->size?->pixels())
        ->toBe(20_000);
});

it('refuses drawings that could run something at a visitor\'s', function (string $inside): void {
    $svg = preg_match('~<svg[ >]~', $inside) === 1
        ? $inside
        : "<svg xmlns=\"http://www.w3.org/2000/svg\">$inside</svg>";
    expect(fn () => (new UploadCheck())->judge($svg, 'x.svg'))->toThrow(
        UploadRefused::class,
        "would run on your visitors' machines",
    );
})->with([
    'a script' => ['<script>x()</script>'],
    'a script with a prefix' => ['<svg:script>x()</svg:script>'],
    'a script in capitals' => ['<SCRIPT>x()</SCRIPT>'],
    'a script behind character references' => ['&lt;script&gt;'],
    'code on an event' => ['<rect onclick="x()"/>'],
    'code on an event, without quotes' => ['<rect/onload=x()>'],
    'code on an event of the drawing itself' => ['<svg onload="x()"></svg>'],
    'a link that runs code' => ['<a href="javascript:x()"/>'],
    'a link that runs code, in disguise' => ["<a href=\"java\nscript:x()\"/>"],
    'a link that runs code, behind references' => ['<a href="&#106;avascript:x()"/>'],
    'a page in a link' => ['<use href="data:text/html,x"/>'],
    'an animation that sets such a link' => ['<animate attributeName="href" to="javascript:x()"/>'],
    'web content' => ['<foreignObject><p>x</p></foreignObject>'],
    'a frame' => ['<iframe src="/x"/>'],
    'a style sheet of elsewhere' => ['<?xml-stylesheet href="x.css"?><svg></svg>'],
    'entities' => ['<!DOCTYPE svg [<!ENTITY a "b">]><svg></svg>'],
]);

it('takes plain drawings', function (string $svg): void {
    expect((new UploadCheck())->judge($svg, 'x.svg')->mime)->toBe('image/svg+xml');
})->with([
    'the least' => ['<svg></svg>'],
    'with a declaration' => ["\u{FEFF}<?xml version=\"1.0\"?>\n<svg></svg>"],
    'with a comment before and behind' => ['<!-- drawn by hand --><svg></svg><!-- the end -->'],
    'with a document type' => ['<!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "x"><svg></svg>'],
    'with a picture' => ['<svg><image href="data:image/png;base64,AA=="/></svg>'],
    'with words that only sound so' => ['<svg><text>once = twice, description</text></svg>'],
]);
