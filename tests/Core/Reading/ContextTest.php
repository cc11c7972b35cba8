<?php

declare(strict_types=1);

use Ylema\Reading\Around\Attributes;
use Ylema\Reading\Around\Document;
use Ylema\Reading\Around\Landmarks;
use Ylema\Reading\Context;
use Ylema\Reading\Excerpt;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Rules;

/** @return list<Context> */
function contexts(string $text, Notation $notation = Notation::Html): array
{
    $references = (new FieldReader())->read($text, $notation, new Rules(mediaFolders: ['/media/']))->references;

    return array_map(static fn ($reference): Context => $reference->context(), $references);
}

it('finds the heading before a place', function (string $html, ?string $heading): void {
    $contexts = contexts($html.'<img src="/a.jpg">');
    expect(end($contexts)->heading)->toBe($heading);
})->with([
    'none' => ['<p>Tides</p>', null],
    'one' => ['<h2>Tides</h2>', 'Tides'],
    'the nearest' => ['<h1>Site</h1><h2>Tides</h2>', 'Tides'],
    'not the one behind' => ['<h1>Site</h1>', 'Site'],
    'with an attribute that holds a ">"' => ['<h2 title="a > b">Tides</h2>', 'Tides'],
    'with elements inside' => ['<h2>Tides <em>and</em> boats</h2>', 'Tides and boats'],
    'with character references' => ['<h2>Tides &amp; boats&nbsp;</h2>', "Tides & boats\u{A0}"],
    'with white space' => ["<h2>\n  Tides\n  of today </h2>", 'Tides of today'],
    'an empty one' => ['<h2></h2>', null],
    'in capitals' => ['<H3>Tides</H3>', 'Tides'],
    'in a comment' => ['<h2>Tides</h2><!-- <h2>Boats</h2> -->', 'Tides'],
    'in a script' => ['<h2>Tides</h2><script>"<h2>Boats</h2>"</script>', 'Tides'],
    'in an older encoding' => ["<meta charset=latin1><h2>Gr\xFC\xDFe</h2>", 'Grüße'],
    'one that is never closed' => ['<h2>Tides<p>', 'Tides'],
    'a header is no heading' => ['<header>Tides</header><hr>', null],
]);

it('finds the caption of the figure around a place', function (string $html, ?string $caption): void {
    expect(contexts($html)[0]->caption)->toBe($caption);
})->with([
    'behind the picture' => ['<figure><img src=/a.jpg><figcaption>In April</figcaption></figure>', 'In April'],
    'before the picture' => ['<figure><figcaption>In April</figcaption><img src=/a.jpg></figure>', 'In April'],
    'with markup' => [
        '<figure><img src=/a.jpg><figcaption>In <b>April</b> &amp; May</figcaption></figure>',
        'In April & May',
    ],
    'of no figure' => ['<img src=/a.jpg><figcaption>In April</figcaption>', null],
    'of a figure without one' => [
        '<figure><img src=/a.jpg></figure><figure><figcaption>In May</figcaption></figure>',
        null,
    ],
    'of a figure that is over' => ['<figure><figcaption>In April</figcaption></figure><img src=/a.jpg>', null],
    'of a figure with attributes' => [
        '<figure class=a><a href="#"><img src=/a.jpg></a><figcaption class=b>In April</figcaption></figure>',
        'In April',
    ],
]);

it('finds the link around a place', function (string $html, ?string $link): void {
    $contexts = contexts($html);
    expect(end($contexts)->link)->toBe($link);
})->with([
    'one' => ['<a href="/large"><img src=/a.jpg></a>', '/large'],
    'with a decoded address' => ['<a href="/large?a&amp;b"><img src=/a.jpg></a>', '/large?a&b'],
    'with elements between' => ['<a href="/large"><span><img src=/a.jpg></span></a>', '/large'],
    'one that is over' => ['<a href="/large">x</a><img src=/a.jpg>', null],
    'one without an address' => ['<a name=x><img src=/a.jpg></a>', null],
    'the second of two' => ['<a href="/one">x</a><a href="/two"><img src=/a.jpg></a>', '/two'],
    'none around a link itself' => ['<a href="/large">x</a>', null],
    'an abbreviation is no link' => ['<abbr title=x><img src=/a.jpg></abbr>', null],
]);

it('knows the element and its attributes as a browser sees them', function (): void {
    [$context] = contexts('<IMG Alt="Tides &amp; boats" src=/a.jpg WIDTH=300 hidden alt="second" style="float: left">');
    expect($context->element)
        ->toBe('img')
        ->and($context->attributes)
        ->toBe([
            'alt' => 'Tides & boats',
            'src' => '/a.jpg',
            'width' => '300',
            'hidden' => '',
            'style' => 'float: left',
        ]);
});

it('gives the candidates of one list the same surroundings and each its descriptor', function (): void {
    $contexts = contexts(
        '<h2>Tides</h2><a href="/large"><img srcset="/a.jpg 1x, /b.jpg 2x, /c.jpg 640w" src="/a.jpg" alt="Low '
            .'water"></a>',
    );
    // The link comes first.
    array_shift($contexts);
    expect(array_column($contexts, 'descriptor'))->toBe(['1x', '2x', '640w', null]);
    foreach ($contexts as $context) {
        expect([$context->heading, $context->link, $context->attributes['alt']])->toBe([
            'Tides',
            '/large',
            'Low water',
        ]);
    }
});

it('gives the same context in whatever order it is asked', function (): void {
    $html = '';
    for ($i = 1; $i <= 40; $i++) {
        $html .= "<h2>Part $i</h2>\n<figure><a href=\"/large-$i\"><img src=\"/$i.jpg\"></a>\n<figcaption>Picture "
            ."$i</figcaption></figure>\n";
    }
    $references = (new FieldReader())->read($html, Notation::Html, new Rules())->references;
    $forward = array_map(static fn ($r): Context => $r->context(), $references);
    $backward = array_reverse(array_map(static fn ($r): Context => $r->context(), array_reverse($references)));
    $order = array_keys($references);
    mt_srand(1);
    shuffle($order);
    foreach ($order as $i) {
        expect($references[$i]->context())->toEqual($forward[$i]);
    }
    expect($backward)
        ->toEqual($forward)
        ->and($forward[77])
        ->toMatchObject(['heading' => 'Part 39', 'caption' => 'Picture 39', 'link' => '/large-39']);
});

it('names selector and property around an address in style', function (string $css, ?string $within): void {
    $contexts = contexts($css, Notation::Css);
    expect(end($contexts)->within)->toBe($within);
})->with([
    'a rule' => ['.band { background: url(/a.png) }', '.band · background'],
    'the second declaration' => ['.band { color: red; background-image: url(/a.png) }', '.band · background-image'],
    'the second rule' => ['a { b: c } .band { background: url(/a.png) }', '.band · background'],
    'a rule in a rule' => ['@media print { .band { background: url(/a.png) } }', '.band · background'],
    'a rule behind a rule in a rule' => [
        '@media print { a { b: c } .band { background: url(/a.png) } }',
        '.band · background',
    ],
    'a list of selectors' => ['.a, .b > c:hover { background: url(/a.png) }', '.a, .b > c:hover · background'],
    'a comment before' => ['/* the old one */ .band { background: url(/a.png) }', '.band · background'],
    'a comment in between' => ['.band { /* x: y; */ background: url(/a.png) }', '.band · background'],
    'the second address of one property' => ['.band { background: url(/a.png), url(/b.png) }', '.band · background'],
    'a custom property' => [':root { --paper: url(/a.png) }', ':root · --paper'],
    'a font' => ['@font-face { font-family: x; src: url(/a.woff) }', '@font-face · src'],
    'an import' => ['@import url(/a.css);', '@import'],
    'declarations alone' => ['color: red; background: url(/a.png)', 'background'],
    'an address alone' => ['url(/a.png)', null],
]);

it('keeps the element around style in an attribute', function (): void {
    [$context] = contexts('<h2>Tides</h2><div class="band" style="color: red; background: url(/a.png)">');
    expect($context)
        ->toMatchObject(['element' => 'div', 'heading' => 'Tides', 'within' => 'background'])
        ->and($context->attributes['class'])
        ->toBe('band');
});

it('counts lines and columns', function (): void {
    $document = new Document("ab\ncü\n\nd");
    expect($document->place(0))
        ->toBe([1, 1])
        ->and($document->place(2))
        ->toBe([1, 3])
        ->and($document->place(3))
        ->toBe([2, 1])
        ->and($document->place(7))
        ->toBe([3, 1])
        ->and($document->place(8))
        ->toBe([4, 1])
        ->and($document->place(9))
        ->toBe([4, 2])
        // Back again: the count follows.
        ->and($document->place(4))
        ->toBe([2, 2])
        ->and($document->place(0))
        ->toBe([1, 1]);
});

it('looks landmarks up forward and backward', function (): void {
    // Start tags at 10 and 30, an end tag at 20.
    $landmarks = new Landmarks([10, 20, 30], [20 => true]);
    $answers = [0 => -1, 10 => -1, 11 => 10, 20 => 10, 21 => -1, 30 => -1, 31 => 30, 99 => 30];
    foreach ([$answers, array_reverse($answers, true)] as $order) {
        foreach ($order as $place => $answer) {
            expect($landmarks->lastBefore($place))->toBe($answer, "at $place");
        }
    }
    expect((new Landmarks([], []))->lastBefore(5))->toBe(-1);
});

it('reads the attributes of one tag, wherever it stands', function (string $tag, array $attributes): void {
    $text = "<p>before</p>$tag and behind";
    expect(Attributes::of($text, strpos($text, $tag) + 2))->toBe($attributes);
})->with([
    'none' => ['<b>', []],
    'three spellings' => ['<b x="1" y=\'2\' z=3>', ['x' => '1', 'y' => '2', 'z' => '3']],
    'without a value' => ['<b x y="">', ['x' => '', 'y' => '']],
    'spaces around the sign' => ["<b x = 1\n\ty= '2'>", ['x' => '1', 'y' => '2']],
    'the first of two' => ['<b x=1 X=2>', ['x' => '1']],
    'a ">" in quotes' => ['<b x="a>b" y=1>', ['x' => 'a>b', 'y' => '1']],
    'a "/" between' => ['<b/x=1/y="2"/>', ['x' => '1/y="2"/']],
    'decoded' => ['<b x="a&amp;b" y=&#65;>', ['x' => 'a&b', 'y' => 'A']],
    'in an older encoding' => ["<b x=\xE9>", ['x' => "\u{FFFD}"]],
]);

it('cuts an excerpt between characters', function (
    string $text,
    int $start,
    int $length,
    int $around,
    array $excerpt,
): void {
    expect(array_values((array) Excerpt::of($text, $start, $length, $around)))->toBe($excerpt);
})->with([
    'in the middle' => ['abcdefghij', 4, 2, 2, ['cd', 'ef', 'gh', true, true]],
    'at the beginning' => ['abcdef', 0, 2, 3, ['', 'ab', 'cde', false, true]],
    'at the end' => ['abcdef', 4, 2, 3, ['bcd', 'ef', '', true, false]],
    'of all there is' => ['abc', 1, 1, 9, ['a', 'b', 'c', false, false]],
    'through a character before' => ['üabc', 2, 1, 1, ['', 'a', 'b', true, true]],
    'through a character behind' => ['abü', 1, 1, 1, ['a', 'b', '', false, true]],
    'of no bytes' => ['abc', 1, 0, 1, ['a', '', 'b', false, true]],
    'from a whole word to a whole word' => ['the old tower stands', 8, 5, 6, ['old ', 'tower', ' ', true, true]],
    'from a word that stands right there' => ['the old tower stands', 8, 5, 4, ['old ', 'tower', ' ', true, true]],
    'behind a tag' => ['<p>old tower, stands', 7, 5, 4, ['old ', 'tower', ', ', true, true]],
    'from a tag to a tag' => ['one<b>old</b> tower', 6, 3, 5, ['<b>', 'old', '</b> ', true, true]],
    'from inside a long run' => [str_repeat('x', 99).' a b', 100, 1, 60, [
        str_repeat('x', 59).' ',
        'a',
        ' b',
        true,
        false,
    ]],
    'bytes that are no text' => ["a\xFFb", 1, 1, 1, ['a', '?', 'b', false, false]],
]);
