<?php

declare(strict_types=1);

use Ylema\Change\Rewriter;
use Ylema\Reading\CannotEncode;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\PathRule;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;

/*
 * Files of data: tables in text (RFC 4180) and YAML, each value where it stands, and written back in its own way.
 */

function ofData(): Rules
{
    return new Rules(
        paths: array_map(
            static fn (string $path): PathRule => new PathRule($path, Notation::Url, 'photo', below: '/pix/'),
            ['photo', '[].photo', 'team[].photo', '2'],
        ),
        mediaFolders: ['/pix/'],
    );
}

/** @return list<string> path=value */
function inData(string $text, Notation $notation): array
{
    return array_map(
        static fn (Reference $r): string => "$r->path={$r->value}",
        (new FieldReader())->read($text, $notation, ofData())->references,
    );
}

it('reads cells by the names of their columns, and writes them', function (
    string $text,
    array $found,
    ?string $after,
): void {
    expect(inData($text, Notation::Csv))->toBe($found);
    $reading = (new FieldReader())->read($text, Notation::Csv, ofData());
    $write = static fn (): string => (new Rewriter())
        ->edits($text, Notation::Csv, ofData(), [[$reading->references[0], '/pix/new%20%222%22.jpg']])
        ->applyTo($text);
    $after === null ? expect($write)->toThrow(CannotEncode::class) : expect($write())->toBe($after);
})->with([
    'commas' => ["name,photo\nAnn,a.jpg\nBo, b.jpg \n", ['photo=/pix/a.jpg', 'photo=/pix/b.jpg'], null],
    'quotes' => [
        "name;photo\r\n\"Ann; \"\"A\"\"\r\nof it\";\"a \"\"1\"\".jpg\"\r\nBo;\r\n",
        ['photo=/pix/a%20%221%22.jpg'],
        "name;photo\r\n\"Ann; \"\"A\"\"\r\nof it\";\"new \"\"2\"\".jpg\"\r\nBo;\r\n",
    ],
    'tabs, and a mark' => ["\xEF\xBB\xBFname\tphoto\nAnn\ta.jpg", ['photo=/pix/a.jpg'], null],
    'no names' => ["Ann|a.jpg|1\nBo|b.jpg|2", ['2=/pix/a.jpg', '2=/pix/b.jpg'], null],
    'markup in a cell' => [
        "name,words\nAnn,\"<img src=\"\"/pix/a.jpg\"\" alt=\"\"A, B\"\">\"\n",
        ['words=/pix/a.jpg'],
        "name,words\nAnn,\"<img src=\"\"/pix/new%20%222%22.jpg\"\" alt=\"\"A, B\"\">\"\n",
    ],
    'several in a cell' => [
        "name,more\nAnn,\"/pix/a.jpg, /pix/b.jpg\"\n",
        ['more=/pix/a.jpg', 'more=/pix/b.jpg'],
        "name,more\nAnn,\"/pix/new%20%222%22.jpg, /pix/b.jpg\"\n",
    ],
]);

it('says nothing of tables without files, and hangs on none that is damaged', function (string $text): void {
    expect(inData($text, Notation::Csv))->toBe([]);
})->with([[''], ["\n\n"], ["a,b\n1,2\n"], ['"'], ["a,b\n\"never closed,2\n"], [",,,\n,,,"], ["a,b\n\"x\"y,z"]]);

it('reads a whole file of YAML', function (): void {
    $text = "# people\r\n- name: Ann\r\n  photo: a.jpg # hers\r\n- {name: Bo, photo: 'b.jpg'}\r\n---\nteam:\n"
        ."  - photo: \"c.jpg\"\n    words: |\n      See <img src=\"/pix/d.jpg\">.\nlogo: /pix/e.jpg\n";
    expect(inData($text, Notation::Yaml))->toBe([
        '[0].photo=/pix/a.jpg',
        '[1].photo=/pix/b.jpg',
        'team[0].photo=/pix/c.jpg',
        'team[0].words=/pix/d.jpg',
        'logo=/pix/e.jpg',
    ]);
    $references = (new FieldReader())->read($text, Notation::Yaml, ofData())->references;
    $after = (new Rewriter())->edits($text, Notation::Yaml, ofData(), [
        [$references[0], '/pix/new.jpg'],
        [$references[1], '/pix/it%27s.jpg'],
    ])->applyTo($text);
    expect($after)->toContain('photo: new.jpg # hers')->toContain("photo: 'it''s.jpg'");
});
