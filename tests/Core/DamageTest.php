<?php

declare(strict_types=1);

use Tests\Core\Generators\Laws;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Rules;

it('never hangs or throws on damage, whatever it is', function (int $from): void {
    $laws = new Laws();
    $found = 0;
    for ($seed = $from; $seed < $from + 3000; $seed++) {
        $found += $laws->damage($seed);
    }
    expect($found)->toBeGreaterThan(3000);
})->with([100_000]);

it('finds what is there or says that PCRE gave up, whatever it looked for', function (
    string $text,
    Notation $notation,
): void {
    // Few steps, so that a short text is as tangled as a very long one.
    [$steps, $jit] = [ini_get('pcre.backtrack_limit'), ini_get('pcre.jit')];
    ini_set('pcre.jit', '0');
    $said = 0;
    try {
        foreach ([2, 3, 5, 10, 20, 40, 60, 100, 150, 250, 400] as $limit) {
            ini_set('pcre.backtrack_limit', (string) $limit);
            $reading = (new FieldReader())->read($text, $notation, new Rules(mediaFolders: ['/media/']));
            $isSaid = $reading->problems !== [];
            $said += $isSaid ? 1 : 0;
            $values = implode(' ', array_column($reading->references, 'value'));
            expect($isSaid || str_contains($values, '/media/'))
                ->toBeTrue("with $limit steps nothing was found, and nothing said");
        }
    } finally {
        ini_set('pcre.backtrack_limit', (string) $steps);
        ini_set('pcre.jit', (string) $jit);
    }
    expect($said)->toBeGreaterThan(0);
})->with([
    'markup' => [str_repeat('<p>x</p>', 50).'<img src="/media/a.jpg">', Notation::Html],
    'style' => [str_repeat('a { b: c } ', 50).'d { e: url(/media/a.jpg) }', Notation::Css],
    'script' => [str_repeat('a = "b"; ', 50).'d = "/media/a.jpg"', Notation::JavaScript],
    'xml' => [
        '<a>'.str_repeat('x ', 50).str_repeat('<b c="d" e="f" g="h"/>', 20).'<loc>/media/a.jpg</loc></a>',
        Notation::Xml,
    ],
    'Markdown' => ['![x](/media/'.str_repeat('(a)', 60).'.jpg)', Notation::Markdown],
    'front matter' => ["---\n".str_repeat('a', 200).": \"/media/a.jpg\"\n---\n", Notation::Markdown],
    'escapes' => ['<img src="/media/'.str_repeat('&#x61;', 60).str_repeat('a', 100).'&unknown.jpg">', Notation::Html],
]);
