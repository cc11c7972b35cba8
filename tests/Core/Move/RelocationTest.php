<?php

declare(strict_types=1);

use Ylema\Addresses\Url;
use Ylema\Move\AddressMove;
use Ylema\Move\Relocation;

it('leads every path of a folder to the other one, and no other path', function (): void {
    $move = Relocation::ofFolder('media/2014/', 'media/old/14/');
    expect($move->of('media/2014/a/b.jpg'))
        ->toBe('media/old/14/a/b.jpg')
        ->and($move->of('media/20145/b.jpg'))
        ->toBeNull()
        ->and($move->of('media/2014'))
        ->toBeNull();
});

it('takes renditions along, under names that follow', function (): void {
    $move = Relocation::ofFile('media/a/boat.jpg', 'media/b/ship.jpg', [
        'media/a/boat.w480.jpg',
        'media/a/boat.w480.webp',
        'cache/boat_small.jpg',
        'media/a/cover.jpg',
    ]);
    expect(array_map($move->of(...), [
        'media/a/boat.jpg',
        'media/a/boat.w480.jpg',
        'media/a/boat.w480.webp',
        'cache/boat_small.jpg',
        'media/a/cover.jpg',
        'media/a/boat2.jpg',
    ]))->toBe([
        'media/b/ship.jpg',
        'media/b/ship.w480.jpg',
        'media/b/ship.w480.webp',
        'cache/ship_small.jpg',
        'media/b/cover.jpg',
        null,
    ]);
});

it('writes what lies below an address below another one, in the same way', function (
    string $value,
    string $after,
    bool $isOwn = false,
    string $to = 'https://new.example/x/',
): void {
    $from = Url::parse('https://www.old.example/bay/');
    expect(AddressMove::written($value, $from, Url::parse($to), $isOwn))->toBe($after);
})->with([
    'in full' => ['https://www.old.example/bay/a%20b.jpg?v=2#c', 'https://new.example/x/a%20b.jpg?v=2#c'],
    'over plain http, without www' => ['http://old.example/bay/a.jpg', 'https://new.example/x/a.jpg'],
    'in capitals' => ['HTTPS://WWW.Old.Example/bay/A.jpg', 'https://new.example/x/A.jpg'],
    'with its port' => ['https://www.old.example:443/bay/a', 'https://new.example/x/a'],
    'without a scheme' => ['//www.old.example/bay/a.jpg', '//new.example/x/a.jpg'],
    'the address itself' => ['https://www.old.example/bay/', 'https://new.example/x/'],
    'another folder' => ['https://www.old.example/bays/a.jpg', 'https://www.old.example/bays/a.jpg'],
    'another host' => ['https://www.old.example.org/bay/a', 'https://www.old.example.org/bay/a'],
    'without an address, of another site' => ['/bay/a.jpg', '/bay/a.jpg'],
    'without an address, of the site' => ['/bay/a.jpg', '/x/a.jpg', true],
    'without an address, in the same folder' => ['/bay/a.jpg', '/bay/a.jpg', true, 'https://new.example/bay/'],
    'relative' => ['a.jpg', 'a.jpg', true],
]);
