<?php

declare(strict_types=1);

use Ylema\Change\Rewriter;
use Ylema\Reading\CannotEncode;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Rules;

/*
 * Addresses of scripts that show a file: known by the file, written around it again.
 */

const SHOWING = ['/thumb.php?src={path}' => '/uploads/', '/cache/*/{path}' => '/', '/r/{path}.webp' => '/media/'];

it('is known by the file that it shows, and written around another', function (
    string $address,
    string $value,
    string $to,
    string $wanted,
): void {
    $rules = new Rules(scripts: SHOWING);
    $reading = (new FieldReader())->read($address, Notation::Url, $rules);
    expect(array_column($reading->references, 'value'))->toBe([$value]);
    $edits = (new Rewriter())->edits($address, Notation::Url, $rules, [[$reading->references[0], $to]]);
    expect($edits->applyTo($address))->toBe($wanted);
})->with([
    ['/thumb.php?src=2019/a.jpg&w=300', '/uploads/2019/a.jpg', '/uploads/b%20c.jpg', '/thumb.php?src=b%20c.jpg&w=300'],
    ['/thumb.php?w=3&src=a.jpg#x', '/uploads/a.jpg', '/uploads/b.jpg', '/thumb.php?w=3&src=b.jpg#x'],
    'encoded' => [
        '/thumb.php?src=2019%2Fa%20b.jpg', '/uploads/2019/a%20b.jpg', '/uploads/x/c%26d.jpg',
        '/thumb.php?src=x%2Fc%26d.jpg',
    ],
    'from the root' => ['/thumb.php?src=/media/a.jpg', '/media/a.jpg', '/media/b.jpg', '/thumb.php?src=/media/b.jpg'],
    'of a host' => [
        'https://x.example/thumb.php?src=a.jpg', 'https://x.example/uploads/a.jpg', 'https://x.example/uploads/b.jpg',
        'https://x.example/thumb.php?src=b.jpg',
    ],
    'a size before' => ['/cache/300x200/pics/a.jpg', '/pics/a.jpg', '/media/b.jpg', '/cache/300x200/media/b.jpg'],
    'an ending behind' => ['/r/x/a.jpg.webp?v=1', '/media/x/a.jpg', '/media/b.jpg', '/r/b.jpg.webp?v=1'],
    'no script' => ['/thumbs.php?src=a.jpg', '/thumbs.php?src=a.jpg', '/b.jpg', '/b.jpg'],
    'a file of elsewhere' => [
        '/thumb.php?src=https://else.example/a.jpg', '/thumb.php?src=https://else.example/a.jpg', '/b.jpg', '/b.jpg',
    ],
]);

it('stands in markup, style and json', function (string $text, Notation $notation): void {
    $rules = new Rules(mediaFolders: ['/uploads/'], scripts: SHOWING);
    $reading = (new FieldReader())->read($text, $notation, $rules);
    expect(array_column($reading->references, 'value'))->toBe(['/uploads/a.jpg']);
    $edits = (new Rewriter())->edits($text, $notation, $rules, [[$reading->references[0], '/uploads/b.jpg']]);
    expect($edits->applyTo($text))->toBe(str_replace('a.jpg', 'b.jpg', $text));
})->with([
    ['<img src="/thumb.php?src=a.jpg&amp;w=300" alt="">', Notation::Html],
    ['.x { background: url(/thumb.php?src=a.jpg&w=300) }', Notation::Css],
    ['{"x":"\/thumb.php?src=a.jpg&w=300"}', Notation::Json],
    ['![x](/thumb.php?src=a.jpg)', Notation::Markdown],
]);

it('refuses what its script would not find', function (): void {
    $rules = new Rules(scripts: SHOWING);
    $reading = (new FieldReader())->read('/thumb.php?src=a.jpg', Notation::Url, $rules);
    (new Rewriter())->edits('/thumb.php?src=a.jpg', Notation::Url, $rules, [[$reading->references[0], '/media/b.jpg']]);
})->throws(CannotEncode::class, 'the site looks for what stands there in /uploads/');
