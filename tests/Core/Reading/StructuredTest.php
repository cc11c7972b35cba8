<?php

declare(strict_types=1);

use Ylema\Change\EditConflict;
use Ylema\Change\Rewriter;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\PathRule;
use Ylema\Reading\Reading;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;
use Ylema\Reading\TokenPattern;

/** @param  list<PathRule>  $paths */
function structured(string $text, Notation $notation, array $paths = []): Reading
{
    return (new FieldReader())->read($text, $notation, new Rules(paths: $paths, mediaFolders: ['/media/']));
}

/** @return list<string> `path=value` */
function byPath(Reading $reading): array
{
    return array_map(static fn (Reference $r): string => $r->path.'='.$r->value, $reading->references);
}

it('names the path of each value, in json and in serialized text alike', function (mixed $data, array $found): void {
    expect(byPath(structured((string) json_encode($data), Notation::Json)))
        ->toBe($found)
        ->and(byPath(structured(serialize($data), Notation::PhpSerialized)))
        ->toBe($found);
})->with([
    'a list' => [['/media/a.jpg', '/media/b.jpg'], ['[0]=/media/a.jpg', '[1]=/media/b.jpg']],
    'by name' => [['hero' => '/media/a.jpg'], ['hero=/media/a.jpg']],
    'deeper' => [['hero' => ['picture' => '/media/a.jpg']], ['hero.picture=/media/a.jpg']],
    'lists of names' => [
        ['rows' => [['p' => '/media/a.jpg'], ['p' => '/media/b.jpg']]],
        ['rows[0].p=/media/a.jpg', 'rows[1].p=/media/b.jpg'],
    ],
    'lists of lists' => [[['/media/a.jpg'], [1, '/media/b.jpg']], ['[0][0]=/media/a.jpg', '[1][1]=/media/b.jpg']],
    'behind what is not read' => [
        ['n' => null, 't' => true, 'x' => 1.5, 'e' => [], 'p' => '/media/a.jpg'],
        ['p=/media/a.jpg'],
    ],
    'a name with letters beyond ASCII' => [['größe' => '/media/a.jpg'], ['größe=/media/a.jpg']],
    'an empty name' => [['' => '/media/a.jpg'], ['=/media/a.jpg']],
    'markup' => [
        ['html' => '<img src="/media/a.jpg"><a href=/media/b.pdf>'],
        ['html=/media/a.jpg', 'html=/media/b.pdf'],
    ],
    'style' => [['css' => 'background: url(/media/a.jpg)'], ['css=/media/a.jpg']],
    'words' => [['words' => 'Seen from the pier', 'path' => 'not/media/a.jpg'], []],
    'an address elsewhere' => [['p' => 'https://x.example/a.jpg'], ['p=https://x.example/a.jpg']],
    'json in it' => [['in' => '{"p": "/media/a.jpg"}'], ['in.p=/media/a.jpg']],
    'serialized text in it' => [['in' => 'a:1:{s:1:"p";s:12:"/media/a.jpg";}'], ['in.p=/media/a.jpg']],
    'what only begins like json' => [['in' => '{not json}'], []],
    'line breaks around' => [['p' => "\n  /media/a.jpg\r\n"], ['p=/media/a.jpg']],
    'one a line' => [['p' => "/media/a.jpg\n/media/b.jpg\r\n"], ['p=/media/a.jpg', 'p=/media/b.jpg']],
    'between semicolons' => [['p' => '/media/a.jpg;/media/b.jpg'], ['p=/media/a.jpg', 'p=/media/b.jpg']],
    'between blanks' => [['p' => '/media/a.jpg /media/b.jpg'], ['p=/media/a.jpg', 'p=/media/b.jpg']],
    'between tabs and commas' => [['p' => "/media/a.jpg,\t/media/b.jpg"], ['p=/media/a.jpg', 'p=/media/b.jpg']],
    'between colons' => [['p' => '/media/a.jpg::/media/b.jpg'], ['p=/media/a.jpg', 'p=/media/b.jpg']],
    'between waves' => [['p' => '/media/a.jpg~ /media/b.jpg'], ['p=/media/a.jpg', 'p=/media/b.jpg']],
    'between hashes, with a host' => [
        ['p' => 'https://x.example/media/a.jpg#https://x.example/media/b.jpg'],
        ['p=https://x.example/media/a.jpg', 'p=https://x.example/media/b.jpg'],
    ],
    'with a blank in it' => [['p' => '/media/a (1).jpg'], ['p=/media/a (1).jpg']],
    'with another in its query' => [['p' => '/media/a.jpg?or=/media/b.jpg'], ['p=/media/a.jpg?or=/media/b.jpg']],
    'in a sentence' => [['p' => 'The map (/media/a.jpg) is new.'], ['p=/media/a.jpg']],
    'before a sentence' => [['p' => '/media/a.jpg is new'], ['p=/media/a.jpg']],
    'a folder in a sentence' => [['p' => 'Put it into /media/, please'], []],
    'prose' => [['p' => "Seen\n\n![from here](/media/a.jpg)"], ['p=/media/a.jpg']],
    'prose with definitions' => [['p' => "Seen [from][1] here\n\n[1]: /media/a.jpg"], ['p=/media/a.jpg']],
    'a name' => [['/media/a.jpg' => ['alt' => 'Pier']], ['=/media/a.jpg']],
    'a name deeper' => [
        ['x' => ['/media/a.jpg' => 1], 'y' => ['/media/a.jpg' => 2]],
        ['x=/media/a.jpg', 'y=/media/a.jpg'],
    ],
]);

it('reads values by the rules of their paths', function (mixed $data, array $paths, array $found): void {
    foreach (
        [
            structured((string) json_encode($data), Notation::Json, $paths),
            structured(serialize($data), Notation::PhpSerialized, $paths),
        ] as $reading
    ) {
        expect(
            array_map(
                static fn (Reference $r): array => [$r->path, $r->value, $r->names->value, $r->role],
                $reading->references,
            ),
        )->toBe($found);
    }
})->with([
    'a number' => [
        ['hero' => ['picture' => 17, 'width' => 300]],
        [new PathRule('hero.picture', Notation::MediaId, 'hero picture')],
        [['hero.picture', '17', 'media-item', 'hero picture']],
    ],
    'a number in quotes' => [
        ['picture' => '17'],
        [new PathRule('picture', Notation::MediaId)],
        [['picture', '17', 'media-item', 'media-id']],
    ],
    'any place of a list' => [
        ['items' => [['id' => 1], ['id' => 2]]],
        [new PathRule('items[].id', Notation::MediaId, 'gallery picture')],
        [['items[0].id', '1', 'media-item', 'gallery picture'], ['items[1].id', '2', 'media-item', 'gallery picture']],
    ],
    'any name' => [
        ['a' => ['id' => 1], 'b' => ['id' => 2]],
        [new PathRule('*.id', Notation::MediaId)],
        [['a.id', '1', 'media-item', 'media-id'], ['b.id', '2', 'media-item', 'media-id']],
    ],
    'a list of ids in one value' => [
        ['ids' => '3, 4,5'],
        [new PathRule('ids', Notation::MediaId)],
        [
            ['ids', '3', 'media-item', 'media-id'],
            ['ids', '4', 'media-item', 'media-id'],
            ['ids', '5', 'media-item', 'media-id'],
        ],
    ],
    'another record' => [
        ['banner' => 'quay'],
        [new PathRule('banner', Notation::RecordKey, 'in set', 'banner')],
        [['banner', 'quay', 'record', 'in set']],
    ],
    'nothing for zero' => [['picture' => 0], [new PathRule('picture', Notation::MediaId)], []],
    'nothing for a number without a rule' => [['picture' => 17], [new PathRule('other', Notation::MediaId)], []],
    'a word that a rule calls an address' => [
        ['file' => 'a.jpg'],
        [new PathRule('file', Notation::Url, 'file')],
        [['file', 'a.jpg', 'address', 'file']],
    ],
]);

it('decodes every escape of json', function (string $raw, string $value): void {
    $text = '["'.$raw.'"]';
    $reading = structured($text, Notation::Json);
    expect($reading->references[0]->value)
        ->toBe($value)
        ->and(substr($text, $reading->references[0]->start, $reading->references[0]->length))
        ->toBe($raw);
})->with([
    'slashes' => ['\/media\/a.jpg', '/media/a.jpg'],
    'a code point' => ['/media/\u00fc.jpg', '/media/ü.jpg'],
    'in capitals' => ['/media/\u00FC.jpg', '/media/ü.jpg'],
    'a pair' => ['/media/\ud83d\ude00.jpg', '/media/😀.jpg'],
    'half a pair' => ['/media/\ud83d.jpg', "/media/\u{FFFD}.jpg"],
    'a backslash' => ['/media/a\\\\b.jpg', '/media/a\\b.jpg'],
    'a tab' => ['/media/a\tb.jpg', "/media/a\tb.jpg"],
    'the digit zero' => ['/media/\u0030.jpg', '/media/0.jpg'],
    'none' => ['/media/ü.jpg', '/media/ü.jpg'],
]);

it('reports damage of json with its place, and keeps what came before', function (
    string $json,
    int $kept,
    int $offset,
): void {
    $reading = structured($json, Notation::Json);
    expect($reading->references)
        ->toHaveCount($kept)
        ->and($reading->problems)
        ->toHaveCount(1)
        ->and($reading->problems[0]->offset)
        ->toBe($offset);
})->with([
    'cut off in a list' => ['["/media/a.jpg",', 1, 16],
    'cut off in a string' => ['["/media/a.jpg","/med', 1, 16],
    'the wrong bracket' => ['["/media/a.jpg"}', 1, 15],
    'a bracket too many' => ['[]]', 0, 2],
    'something behind' => ['["/media/a.jpg"] and more', 1, 17],
    'no colon' => ['{"a" "/media/a.jpg"}', 0, 4],
    'a word that is none' => ['[yes]', 0, 1],
    'a line break in a string' => ["[\"a\nb\"]", 0, 1],
]);

it('takes empty json for what it is', function (string $json): void {
    $reading = structured($json, Notation::Json);
    expect([$reading->references, $reading->problems])->toBe([[], []]);
})->with(['', ' ', '[]', '{}', ' { } ', 'null', '17', '"words"', '[[],{}]']);

it('reads all kinds of values in serialized text', function (): void {
    $object = new class
    {
        public string $open = '/media/a.jpg';

        protected string $kept = '/media/b.jpg';

        private string $own = '/media/c.jpg';

        /** @return array<string, string> so that PHP lets it be serialized though it has no name */
        public function all(): array
        {
            return get_object_vars($this);
        }
    };
    // As serialize() writes an object: what is protected or private has its marks before the name.
    $text =
        'a:2:{i:0;O:4:"Card":3:{s:4:"open";s:12:"'
        .$object->open
        ."\";s:7:\"\0*\0kept\";s:12:\"/media/b.jpg\";s:9:\"\0Card\0own\";s:12:\"/media/c.jpg\";}i:1;s:12:\"/media/d.jpg\";}";
    expect(byPath(structured($text, Notation::PhpSerialized)))
        ->toBe(['[0].open=/media/a.jpg', '[0].kept=/media/b.jpg', '[0].own=/media/c.jpg', '[1]=/media/d.jpg'])
        ->and($object->all())
        ->toHaveCount(3);
});

it('never guesses in damaged serialized text', function (string $text, int $kept, string $says): void {
    $reading = structured($text, Notation::PhpSerialized);
    expect($reading->references)->toHaveCount($kept)->and($reading->problems[0]->message)->toContain($says);
})->with([
    'a length too short' => ['a:2:{i:0;s:12:"/media/a.jpg";i:1;s:5:"/media/b.jpg";}', 1, 'does not fit its text'],
    'a length too long' => ['a:1:{i:0;s:99:"/media/a.jpg";}', 0, 'does not fit its text'],
    'an array that ends late' => ['a:1:{i:0;i:1;i:1;i:2;}', 0, 'does not end its array'],
    'an array that ends early' => ['a:3:{i:0;s:12:"/media/a.jpg";}', 1, 'damaged here'],
    'cut off' => ['a:2:{i:0;s:12:"/media/a.jpg";', 1, 'cut off'],
    'something behind' => ['i:1;i:2;', 0, 'followed by something else'],
    'no serialized text at all' => ['hello', 0, 'damaged here'],
    'an object of its own, with a wrong length' => ['C:3:"Foo":9:{x}', 0, 'does not fit its object'],
    'a type that there is not' => ['x:1;', 0, 'damaged here'],
]);

it('expands tokens wherever the site would', function (string $text, Notation $notation, array $found): void {
    $rules = new Rules(
        tokens: [
            TokenPattern::of('slot', '%slot:(?<key>[a-z-]+)%', 'slot'),
            TokenPattern::of('picture', '\[\[(?<id>\d+)\]\]', null),
        ],
        mediaFolders: ['/media/'],
    );
    $references = (new FieldReader())->read($text, $notation, $rules)->references;
    expect(
        array_map(static fn (Reference $r): array => [$r->value, $r->names->value, $r->role, $r->start], $references),
    )->toBe($found);
})->with([
    'in markup' => ['<p>%slot:top%</p>', Notation::Html, [['top', 'record', 'token slot', 9]]],
    'in Markdown' => [
        "# Tides\n\n%slot:top% [[17]]",
        Notation::Markdown,
        [['top', 'record', 'token slot', 15], ['17', 'media-item', 'token picture', 22]],
    ],
    'in plain text' => ['see [[17]]', Notation::Text, [['17', 'media-item', 'token picture', 6]]],
    'in a string of json' => ['["%slot:top%"]', Notation::Json, [['top', 'record', 'token slot', 8]]],
    'beside a picture' => [
        '<img src="/a.jpg">%slot:top%',
        Notation::Html,
        [['/a.jpg', 'address', 'img[src]', 10], ['top', 'record', 'token slot', 24]],
    ],
    'not in style' => ['a{b:"%slot:top%"}', Notation::Css, []],
]);

it('writes names of objects, but none that is there already', function (): void {
    $json = '{"/media/a.jpg": 1, "/media/b.jpg": 2}';
    $rules = new Rules(mediaFolders: ['/media/']);
    $reference = structured($json, Notation::Json)->references[0];
    $rewriter = new Rewriter();
    expect($rewriter->edits($json, Notation::Json, $rules, [[$reference, '/media/c.jpg']])->applyTo($json))
        ->toBe('{"/media/c.jpg": 1, "/media/b.jpg": 2}')
        ->and(fn () => $rewriter->edits($json, Notation::Json, $rules, [[$reference, '/media/b.jpg']]))
        ->toThrow(EditConflict::class);
});
