<?php

declare(strict_types=1);

use Ylema\Change\Rewriter;
use Ylema\Reading\ElementRule;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;

/** @return list<string> */
function inFree(string $html, Notation $notation = Notation::Html): array
{
    return array_map(
        static fn (Reference $r): string => "{$r->role} {$r->value} {$r->fetch->value}",
        (new FieldReader())->read($html, $notation, new Rules(mediaFolders: ['/media/']))->references,
    );
}

it('reads attributes that a script or a form gives their meaning', function (string $html, array $found): void {
    expect(inFree($html))->toBe($found);
})->with([
    'an address' => ['<p data-wide="/media/a.jpg">', ['p[data-wide] /media/a.jpg on-condition']],
    'an address without quotes' => ['<p data-wide=/media/a.jpg>', ['p[data-wide] /media/a.jpg on-condition']],
    'an address with references' => [
        '<p data-wide="&#47;media/a&amp;b.jpg">',
        ['p[data-wide] /media/a&b.jpg on-condition'],
    ],
    'a file elsewhere' => ['<p data-wide="../pix/a.webp">', []],
    'a file of a host' => ['<p data-wide="//x.example/a.webp">', ['p[data-wide] //x.example/a.webp on-condition']],
    'a page of a host' => ['<p data-share="https://x.example/share">', []],
    'a list' => ['<p data-all="/media/a.jpg, /media/b.jpg">', [
        'p[data-all] /media/a.jpg on-condition',
        'p[data-all] /media/b.jpg on-condition',
    ]],
    'candidates' => ['<p data-all="/media/a.jpg 1x, /media/b.jpg 2x">', [
        'p[data-all] /media/a.jpg on-condition',
        'p[data-all] /media/b.jpg on-condition',
    ]],
    'json' => [
        '<div data-slides="[{&quot;u&quot;:&quot;/media/a.jpg&quot;}]">',
        ['div[data-slides] /media/a.jpg on-condition'],
    ],
    'json in single quotes' => [
        "<div data-slides='{\"u\":\"\\/media\\/a.jpg\"}'>",
        ['div[data-slides] /media/a.jpg on-condition'],
    ],
    'style' => ['<div data-style="background:url(a.jpg)">', ['css url a.jpg on-condition']],
    'markup' => ['<b data-note="&lt;img src=a.jpg&gt;">', ['img[src] a.jpg on-condition']],
    'beside what a browser takes' => ['<img src="/media/a.jpg" data-full-size="/media/b.jpg">', [
        'img[src] /media/a.jpg always',
        'img[data-full-size] /media/b.jpg on-condition',
    ]],
    'before what a browser takes' => ['<a data-film="/media/b.mp4" href="/media/a.jpg">', [
        'a[data-film] /media/b.mp4 on-condition',
        'a[href] /media/a.jpg when-followed',
    ]],
    'a value' => ['<option value="/media/a.jpg">', ['option[value] /media/a.jpg on-condition']],
    'a hidden value' => ['<input type="hidden" value="/media/a.jpg">', ['input[value] /media/a.jpg on-condition']],
    'a value that is a number' => ['<input value="1/2">', []],
    'words' => ['<p data-words="either/or (both)" value="and/or">', []],
    'an element of its own' => [
        '<tide-map wide="/media/a.jpg"></tide-map>',
        ['tide-map[wide] /media/a.jpg on-condition'],
    ],
    'an element of its own, by its name' => [
        '<tide-map src="pix/a.jpg"></tide-map>',
        ['tide-map[src] pix/a.jpg on-condition'],
    ],
    'json in an element of its own' => [
        '<tide-map layers=\'["/media/a.svg","/media/b.svg"]\'></tide-map>',
        ['tide-map[layers] /media/a.svg on-condition', 'tide-map[layers] /media/b.svg on-condition'],
    ],
    'style of an element of its own' => ['<tide-map style="background:url(a.jpg)">', ['css url a.jpg on-condition']],
    'in a comment' => ['<!-- <p data-wide="/media/a.jpg"> -->', []],
    'what is no attribute of a form' => ['<p class="/media/a.jpg" id="/media/b.jpg">', []],
]);

it('lets the field map say what an element of its own holds', function (): void {
    $rules = new Rules(elements: ['tide-map' => ['no' => new ElementRule(Notation::MediaId, 'map')]]);
    $found = (new FieldReader())->read('<tide-map no="12">', Notation::Html, $rules)->references;
    expect([$found[0]->value, $found[0]->role])->toBe(['12', 'map']);
});

it('writes into attributes that it only guessed at', function (string $html, string $after): void {
    $rules = new Rules(mediaFolders: ['/media/']);
    $reference = (new FieldReader())->read($html, Notation::Html, $rules)->references[0];
    $edits = (new Rewriter())->edits($html, Notation::Html, $rules, [[$reference, '/media/b&c.jpg']]);
    expect($edits->applyTo($html))->toBe($after);
})->with([
    ['<p data-a="/media/a.jpg">', '<p data-a="/media/b&amp;c.jpg">'],
    ['<p data-a=\'["/media/a.jpg"]\'>', '<p data-a=\'["/media/b&amp;c.jpg"]\'>'],
]);
