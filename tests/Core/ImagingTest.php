<?php

declare(strict_types=1);

use Ylema\Imaging\Crop;
use Ylema\Imaging\PictureFile;
use Ylema\Imaging\RenditionChoice;
use Ylema\Imaging\Size;
use Ylema\Imaging\UploadCheck;
use Ylema\Imaging\UploadRefused;

it('fills a box without stretching, near the focal point', function (float $x, int $left): void {
    $crop = Crop::toFill(new Size(1200, 800), new Size(400, 400), $x);
    expect([$crop->x, $crop->y, $crop->width, $crop->height])
        ->toBe([$left, 0, 800, 800])
        ->and(round($crop->loss(new Size(1200, 800)), 3))
        ->toBe(0.333);
})->with([[0.5, 200], [0.0, 0], [1.0, 400], [0.4, 80]]);

it('never enlarges to fit', function (): void {
    expect((string) (new Size(300, 200))->within(new Size(900, 900)))
        ->toBe('300 × 200')
        ->and((string) (new Size(3000, 10))->within(new Size(100, 100)))
        ->toBe('100 × 1');
    expect(fn () => new Size(0, 5))->toThrow(InvalidArgumentException::class);
});

it('chooses the smallest file that is large enough and has the shape', function (): void {
    $files = [
        new PictureFile('o', new Size(2000, 1000), true),
        new PictureFile('m', new Size(600, 300)),
        new PictureFile('s', new Size(300, 150)),
        new PictureFile('q', new Size(400, 400)),
    ];
    $for = static fn (?Size $size, bool $original = false): string => RenditionChoice::for(
        new PictureFile('x', $size, $original),
        $files,
    )->path;
    expect($for(new Size(300, 150)))
        ->toBe('s')
        ->and($for(new Size(301, 150)))
        ->toBe('m')
        ->and($for(new Size(900, 450)))
        ->toBe('o')
        ->and($for(new Size(200, 200)))
        ->toBe('q')
        ->and($for(new Size(500, 500)))
        ->toBe('m')
        ->and($for(new Size(9000, 9000)))
        ->toBe('o')
        ->and($for(null))
        ->toBe('o')
        ->and($for(new Size(10, 5), true))
        ->toBe('o');
});

it('judges uploads by their bytes', function (string $bytes, string $says): void {
    expect(fn () => (new UploadCheck(maxBytes: 1000))->judge($bytes, 'x.jpg'))->toThrow(UploadRefused::class, $says);
})->with([
    ['', '0 bytes'],
    [str_repeat('a', 1001), 'limit'],
    ['GIF89a', 'is not a picture'],
    ["GIF89a\x10\x00\x10\x00\x80\x00\x00", 'part of the file is missing'],
    ['<svg xmlns="http://www.w3.org/2000/svg"><foreignObject/></svg>', 'embedded web content'],
    ['<?xml version="1.0"?><!DOCTYPE svg [<!ENTITY a "b">]><svg></svg>', 'entity declarations'],
    ['<svg xmlns="http://www.w3.org/2000/svg"><circle r="1"/>', 'part of the file is missing'],
]);
