<?php

declare(strict_types=1);

use Ylema\Change\Rewriter;
use Ylema\Reading\CannotEncode;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Rules;
use Ylema\Sites\WrittenPath;

/*
 * Addresses in schemes of the site's own, wherever they stand, and paths as lists of media write them.
 */

const OWN_SCHEMES = ['vault' => '/uploads/', 'skin' => '/theme/pics/'];

it('reads them as the addresses that the site makes of them, in every notation', function (
    string $text,
    Notation $notation,
    array $values,
): void {
    $rules = new Rules(mediaFolders: ['/uploads/'], schemes: OWN_SCHEMES);
    $reading = (new FieldReader())->read($text, $notation, $rules);
    expect(array_column($reading->references, 'value'))->toBe($values);
})->with([
    'a field' => ['vault://2019/Größe 1.jpg', Notation::Url, ['/uploads/2019/Gr%C3%B6%C3%9Fe%201.jpg']],
    'one slash, none, three' => [
        "vault:/a.jpg\nvault:b.jpg\nVAULT:///c.jpg",
        Notation::Url,
        ['/uploads/a.jpg', '/uploads/b.jpg', '/uploads/c.jpg'],
    ],
    'encoded already' => ['vault://a%20b.jpg', Notation::Url, ['/uploads/a%20b.jpg']],
    'markup' => [
        '<img src="vault://a.jpg" srcset="vault://b.jpg 2x"><p style="background:url(skin://c.png)">',
        Notation::Html,
        ['/uploads/a.jpg', '/uploads/b.jpg', '/theme/pics/c.png'],
    ],
    'json' => ['{"a":"vault:\/\/x\/a.jpg","b":"note: vault"}', Notation::Json, ['/uploads/x/a.jpg']],
    'serialized' => ['a:1:{i:0;s:13:"vault://a.jpg";}', Notation::PhpSerialized, ['/uploads/a.jpg']],
    'words' => ['See vault://a.jpg, or myvault://b.jpg.', Notation::Text, ['/uploads/a.jpg']],
    'a scheme of the web' => ['mailto:a@b.example', Notation::Url, ['mailto:a@b.example']],
]);

it('writes them in their scheme again', function (
    string $text,
    Notation $notation,
    string $to,
    string $wanted,
): void {
    $rules = new Rules(mediaFolders: ['/uploads/'], schemes: OWN_SCHEMES);
    $reading = (new FieldReader())->read($text, $notation, $rules);
    $edits = (new Rewriter())->edits($text, $notation, $rules, [[$reading->references[0], $to]]);
    expect($edits->applyTo($text))->toBe($wanted);
})->with([
    ['vault://a.jpg', Notation::Url, '/uploads/x%20y.jpg', 'vault://x y.jpg'],
    ['vault:a%20b.jpg', Notation::Url, '/uploads/x%20y.jpg', 'vault:x%20y.jpg'],
    'a sign of its own' => ['vault://a.jpg', Notation::Url, '/uploads/50%25.jpg', 'vault://50%25.jpg'],
    'another folder of the site' => ['vault://a.jpg', Notation::Url, '/theme/pics/z.png', 'skin://z.png'],
    [
        '<p><img alt="x" src="vault://a.jpg"> vault</p>', Notation::Html, '/uploads/b.jpg',
        '<p><img alt="x" src="vault://b.jpg"> vault</p>',
    ],
    ['{"a":"vault:\/\/a.jpg"}', Notation::Json, '/uploads/x/b.jpg', '{"a":"vault:\/\/x\/b.jpg"}'],
    [
        'a:1:{i:0;s:13:"vault://a.jpg";}', Notation::PhpSerialized, '/uploads/long.jpg',
        'a:1:{i:0;s:16:"vault://long.jpg";}',
    ],
]);

it('refuses a file for which no scheme has a folder', function (): void {
    $rules = new Rules(schemes: OWN_SCHEMES);
    $reading = (new FieldReader())->read('vault://a.jpg', Notation::Url, $rules);
    (new Rewriter())->edits('vault://a.jpg', Notation::Url, $rules, [[$reading->references[0], '/else/b.jpg']]);
})->throws(CannotEncode::class, 'the site looks for what stands there in /uploads/ and /theme/pics/');

it('tells the path that a list of media writes, and writes another in the same way', function (
    string $written,
    string $path,
    string $to,
    string $wanted,
): void {
    $own = WrittenPath::of($written, ['vault' => 'uploads/']);
    expect($own->path)->toBe($path)->and($own->to($to))->toBe($wanted);
})->with([
    ['uploads/a.jpg', 'uploads/a.jpg', 'uploads/b c.jpg', 'uploads/b c.jpg'],
    ['/uploads//a.jpg', 'uploads/a.jpg', 'uploads/b.jpg', '/uploads/b.jpg'],
    ['//cdn.example/uploads/a.jpg', 'uploads/a.jpg', 'x/b.jpg', '//cdn.example/x/b.jpg'],
    ['https://mill.example/up/a%20b.jpg?v=2', 'up/a b.jpg', 'up/c d.jpg', 'https://mill.example/up/c%20d.jpg'],
    ['https://mill.example/up/a b.jpg', 'up/a b.jpg', 'up/c d.jpg', 'https://mill.example/up/c d.jpg'],
    ['vault://a b.jpg', 'uploads/a b.jpg', 'uploads/c d.jpg', 'vault://c d.jpg'],
    ['', '', 'uploads/c.jpg', 'uploads/c.jpg'],
]);
