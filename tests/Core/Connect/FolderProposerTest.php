<?php

declare(strict_types=1);

use Ylema\Connect\FolderProposer;
use Ylema\Connect\FolderSamples;

/*
 * The map of a site that is a folder of files.
 */

/** @param  array<string, string>  $files path → text */
function folderOf(array $files): FolderSamples
{
    return new class($files) implements FolderSamples
    {
        public function __construct(private readonly array $files)
        {
        }

        public function paths(): iterable
        {
            return array_map(strval(...), array_keys($this->files));
        }

        public function text(string $path): string
        {
            return $this->files[$path] ?? '';
        }
    };
}

it('reads bare paths of front matter from the folder that most of them prove', function (
    array $articles,
    array $pictures,
    array $rules,
): void {
    $files = array_fill_keys($pictures, '');
    foreach ($articles as $n => $front) {
        $files["diary/$n.md"] = "---\n$front\n---\n# Day $n\n";
    }
    $map = (new FolderProposer(folderOf($files)))->propose()->map;
    expect($map['records']['article']['paths'] ?? [])->toBe($rules);
})->with([
    'from the root' => [
        ["title: A\ncover: pix/k1.jpg", "title: B\ncover: pix/k2.jpg"],
        ['pix/k1.jpg', 'pix/k2.jpg'],
        ['cover' => ['notation' => 'url', 'below' => '.']],
    ],
    'from a folder' => [
        ['cover: k1.jpg', 'cover: 2019/k2.jpg', 'cover: k3.jpg'],
        ['pix/k1.jpg', 'pix/2019/k2.jpg', 'pix/k3.jpg'],
        ['cover' => ['notation' => 'url', 'below' => 'pix']],
    ],
    'in lists and below a key' => [
        ["hero:\n  picture: a.jpg\nshots:\n  - b.jpg\n  - c.jpg"],
        ['pix/a.jpg', 'pix/b.jpg', 'pix/c.jpg'],
        [
            'hero.picture' => ['notation' => 'url', 'below' => 'pix'],
            'shots[]' => ['notation' => 'url', 'below' => 'pix'],
        ],
    ],
    'by most of them' => [
        ['cover: a.jpg', 'cover: b.jpg', 'cover: c.jpg', 'cover: d.jpg', 'cover: gone.jpg'],
        ['pix/a.jpg', 'pix/b.jpg', 'pix/c.jpg', 'pix/d.jpg'],
        ['cover' => ['notation' => 'url', 'below' => 'pix']],
    ],
    'of files that are nowhere' => [['cover: a.jpg', 'cover: b.jpg'], ['pix/c.jpg'], []],
    'of addresses' => [['cover: /pix/a.jpg', 'cover: https://x.example/b.jpg'], ['pix/a.jpg'], []],
    'of words' => [['title: boat.example', 'tags: [pier, boats]'], ['pix/a.jpg'], []],
]);

it('reads bare paths of data in the same way', function (string $path, string $text, array $rules): void {
    $files = [$path => $text, 'pix/a.jpg' => '', 'pix/b.jpg' => '', 'pix/c.jpg' => '', 'index.html' => ''];
    $records = (new FolderProposer(folderOf($files)))->propose()->map['records'];
    $isOwn = static fn (array $record): bool => str_ends_with($record['files'], substr($path, -4));
    $own = array_values(array_filter($records, $isOwn))[0];
    expect($own['paths'] ?? [])->toBe($rules);
})->with([
    'YAML' => [
        'data/team.yml',
        "- name: Ann\n  photo: a.jpg\n- name: Bo\n  photo: b.jpg\n",
        ['[].photo' => ['notation' => 'url', 'below' => 'pix']],
    ],
    'JSON' => [
        'data/team.json',
        '{"team":[{"name":"Ann","photos":["a.jpg","b.jpg"]},{"photos":["c.jpg"]}]}',
        ['team[].photos[]' => ['notation' => 'url', 'below' => 'pix']],
    ],
    'a table' => [
        'data/team.csv',
        "name;photo\nAnn;a.jpg\nBo;\"b.jpg\"\n",
        ['photo' => ['notation' => 'url', 'below' => 'pix']],
    ],
    'a table from the root' => [
        'data/team.csv',
        "name,photo\nAnn,pix/a.jpg\nBo,pix/b.jpg\n",
        ['photo' => ['notation' => 'url', 'below' => '.']],
    ],
]);

it('knows includes with parameters, and in other quotes', function (string $include): void {
    $map = (new FolderProposer(folderOf(['index.shtml' => "<p>$include</p>", 'parts/nav.html' => ''])))->propose()->map;
    expect(preg_match('~'.$map['tokens']['include']['pattern'].'~', $include, $m))
        ->toBe(1)
        ->and($m['key'])
        ->toBe('/parts/nav.html');
})->with([
    ['<!--#include virtual="/parts/nav.html" -->'],
    ['<!--#include virtual="/parts/nav.html?at=2&amp;x=y" -->'],
    ["<!--#include file='/parts/nav.html' wait='no'-->"],
    ['<!--#include virtual = /parts/nav.html -->'],
]);

it('asks in which encoding pages are that do not say it', function (array $pages, ?string $encoding): void {
    $proposal = (new FolderProposer(folderOf($pages)))->propose();
    expect($proposal->map['encoding'] ?? null)
        ->toBe($encoding)
        ->and(array_map(static fn (object $q): string => $q->id, $proposal->questions))
        ->toBe($encoding === null ? [] : ['encoding']);
})->with([
    'of the west' => [['a.html' => "<p>Caf\xE9</p>", 'b.html' => "<p>\xFCber</p>"], 'windows-1252'],
    'as others say' => [
        ['a.html' => '<meta charset=windows-1251><p>x</p>', 'b.html' => "<p>\xEC\xEE\xF0\xE5</p>"],
        'windows-1251',
    ],
    'UTF-8' => [['a.html' => '<p>Café</p>'], null],
    'UTF-8 that is cut within a letter' => [['a.html' => str_repeat('é', 2000)."\xC3"], null],
    'ASCII' => [['a.html' => '<p>Cafe</p>'], null],
    'a slip in one page of many' => [['a.html' => "<p>Caf\xE9</p>", 'b.html' => '<p>é</p>', 'c.html' => 'ü'], null],
    'said' => [['a.html' => "<meta charset=latin1><p>Caf\xE9</p>"], null],
]);

it('takes the answer', function (): void {
    $pages = folderOf(['a.html' => "<p>\xB1</p>"]);
    $answers = ['encoding' => 'iso-8859-2'];
    expect((new FolderProposer($pages, null, $answers))->propose()->map['encoding'])->toBe('iso-8859-2');
});
