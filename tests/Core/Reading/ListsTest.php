<?php

declare(strict_types=1);

use Ylema\Change\Rewriter;
use Ylema\Reading\CannotEncode;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;

/*
 * Several addresses where one is expected, and what stands in blocks of YAML: each is found, and written back alone.
 */

it('reads each of several addresses, and writes it without touching the others', function (
    string $text,
    Notation $notation,
    array $values,
): void {
    $rules = new Rules(mediaFolders: ['/media/']);
    $references = (new FieldReader())->read($text, $notation, $rules)->references;
    expect(array_map(static fn (Reference $r): string => $r->value, $references))->toBe($values);
    foreach ($references as $i => $reference) {
        $after = (new Rewriter())->edits($text, $notation, $rules, [[$reference, '/media/new.jpg']])->applyTo($text);
        $now = array_map(
            static fn (Reference $r): string => $r->value,
            (new FieldReader())->read($after, $notation, $rules)->references,
        );
        expect($now)->toBe(array_replace($values, [$i => '/media/new.jpg']));
    }
})->with([
    'by commas in json' => ['{"pics":"/media/a.jpg,/media/b.jpg"}', Notation::Json, ['/media/a.jpg', '/media/b.jpg']],
    'by bars in json' => ['["/media/a.jpg|/media/b.jpg"]', Notation::Json, ['/media/a.jpg', '/media/b.jpg']],
    'with a bar before and behind' => ['["|/media/a.jpg|/media/b.jpg|"]', Notation::Json, [
        '/media/a.jpg',
        '/media/b.jpg',
    ]],
    'one between bars' => ['["|/media/a.jpg|"]', Notation::Json, ['/media/a.jpg']],
    'candidates in json' => ['{"s":"/media/a.jpg 1x, /media/b.jpg 2x"}', Notation::Json, [
        '/media/a.jpg',
        '/media/b.jpg',
    ]],
    'by commas in script' => ["x='/media/a.jpg,/media/b.jpg'", Notation::JavaScript, ['/media/a.jpg', '/media/b.jpg']],
    'candidates in script' => ['x="/media/a.jpg 300w, /media/b.jpg 600w"', Notation::JavaScript, [
        '/media/a.jpg',
        '/media/b.jpg',
    ]],
    'in serialized text' => [serialize(['a' => '/media/a.jpg,/media/b.jpg']), Notation::PhpSerialized, [
        '/media/a.jpg',
        '/media/b.jpg',
    ]],
    'json with a mark of its byte order' => ["\xEF\xBB\xBF{\"a\":\"/media/a.jpg\"}", Notation::Json, ['/media/a.jpg']],
    'an address in a block' => ["---\ncover: |\n  /media/a.jpg\n---\n", Notation::Markdown, ['/media/a.jpg']],
    'an address in a folded block' => ["---\ncover: >-\n    /media/a.jpg\n\nt: x\n---\n", Notation::Markdown, [
        '/media/a.jpg',
    ]],
    'addresses in a block, line by line' => [
        "---\npictures: |\n  /media/a.jpg\n  /media/b.jpg\n---\n",
        Notation::Markdown,
        ['/media/a.jpg', '/media/b.jpg'],
    ],
    'Markdown in a block' => [
        "---\nintro: |\n    Words ![x](/media/a.jpg)\n\n    - item\n\n      ![y](/media/b.jpg)\n"
            ."after: /media/c.jpg\n---\n",
        Notation::Markdown,
        ['/media/a.jpg', '/media/b.jpg', '/media/c.jpg'],
    ],
    'markup in a block' => ["---\na:\n  b: |\n    <img src='/media/a.jpg'>\n---\n", Notation::Markdown, [
        '/media/a.jpg',
    ]],
    'one address that has a comma' => ['["/media/a,b.jpg"]', Notation::Json, ['/media/a,b.jpg']],
]);

it('writes one of an array of a database, and nothing that would end it', function (
    string $array,
    string $to,
    ?string $wanted,
): void {
    $reading = (new FieldReader())->read($array, Notation::Addresses, new Rules());
    expect(array_column($reading->references, 'value'))->toBe(['/media/a.jpg', '/media/b c.jpg']);
    $write = fn (int $which): string => (new Rewriter())
        ->edits($array, Notation::Addresses, new Rules(), [[$reading->references[$which], $to]])
        ->applyTo($array);
    $wanted === null ? expect(fn () => $write(0))->toThrow(CannotEncode::class) : expect($write(1))->toBe($wanted);
})->with([
    ['{/media/a.jpg,"/media/b c.jpg"}', '/media/z, y.jpg', '{/media/a.jpg,"/media/z, y.jpg"}'],
    [
        '{ /media/a.jpg , "/media/b c.jpg" , "odd\"one" }', '/media/z.jpg',
        '{ /media/a.jpg , "/media/z.jpg" , "odd\"one" }',
    ],
    'a bare one has no spaces' => ['{/media/a.jpg,"/media/b c.jpg"}', '/media/z y.jpg', null],
    'nor commas' => ['{/media/a.jpg,"/media/b c.jpg"}', '/media/z,y.jpg', null],
]);

it('reads keys in lists, whatever separates them', function (string $text, array $keys, Notation $notation): void {
    $rules = new Rules(target: 'page', idsAreWords: true);
    $references = (new FieldReader())->read($text, $notation, $rules)->references;
    expect(array_map(static fn (Reference $r): string => $r->value, $references))->toBe($keys);
})->with([
    'by bars' => ['|12|13|', ['12', '13'], Notation::RecordKey],
    'of json' => ['["a-1", "b-2"]', ['a-1', 'b-2'], Notation::RecordKey],
    'of json, of media' => ['["a-1","b-2"]', ['a-1', 'b-2'], Notation::MediaId],
    'UUIDs by slashes' => [
        '8ef56d57-0001-4001-8001-0000c9551787/17fc3ced-0002-4002-8002-0000505c463d',
        ['8ef56d57-0001-4001-8001-0000c9551787', '17fc3ced-0002-4002-8002-0000505c463d'],
        Notation::MediaId,
    ],
    'words with slashes in them' => ['pics/a, pics/b', ['pics/a', 'pics/b'], Notation::MediaId],
]);
