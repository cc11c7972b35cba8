<?php

declare(strict_types=1);

use Ylema\Change\Rewriter;
use Ylema\Reading\CannotEncode;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\PathRule;
use Ylema\Reading\Rules;

/** The first reference of a text given a new value. */
function writtenBelow(string $text, Notation $notation, Rules $rules, string $to): string
{
    $reading = (new FieldReader())->read($text, $notation, $rules);

    return (new Rewriter())->edits($text, $notation, $rules, [[$reading->references[0], $to]])->applyTo($text);
}

it('reads a bare path as the address that the site makes of it', function (string $text, string $value): void {
    $reading = (new FieldReader())->read($text, Notation::Url, new Rules(below: '/files/'));
    expect(array_column($reading->references, 'value'))->toBe([$value]);
})->with([
    ['2019/pier.jpg', '/files/2019/pier.jpg'],
    ['a b/größe.jpg', '/files/a%20b/gr%C3%B6%C3%9Fe.jpg'],
    'an address already' => ['https://hollinmill.example/a.jpg', 'https://hollinmill.example/a.jpg'],
    'from the root already' => ['/media/a.jpg', '/media/a.jpg'],
    'encoded already' => ['a%20b.jpg', '/files/a%20b.jpg'],
]);

it('writes it bare again, as it stood there', function (string $text, string $to, string $wanted): void {
    expect(writtenBelow($text, Notation::Url, new Rules(below: '/files/'), $to))->toBe($wanted);
})->with([
    ['2019/pier.jpg', '/files/2020/new%20pier.jpg', '2020/new pier.jpg'],
    ['a%20b.jpg', '/files/c%20d.jpg', 'c%20d.jpg'],
    ['/media/a.jpg', '/media/b.jpg', '/media/b.jpg'],
]);

it('writes it in a list and in json', function (): void {
    $below = new Rules(below: '/files/');
    expect(writtenBelow('a.jpg|b.jpg', Notation::Addresses, $below, '/files/z.jpg'))->toBe('z.jpg|b.jpg');
    $rules = new Rules(paths: [new PathRule('pics[]', Notation::Url, below: '/files/')]);
    $list = '{"pics":["x\/a.jpg"]}';
    expect(writtenBelow($list, Notation::Json, $rules, '/files/x/b.jpg'))->toBe('{"pics":["x\/b.jpg"]}');
});

it('refuses a file that lies elsewhere, for the site would look for it below', function (): void {
    writtenBelow('2019/pier.jpg', Notation::Url, new Rules(below: '/files/'), '/media/pier.jpg');
})->throws(CannotEncode::class, 'the site puts /files/ before what stands there');
