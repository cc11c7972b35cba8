<?php

declare(strict_types=1);

use Ylema\Change\EditConflict;
use Ylema\Change\Rewriter;
use Ylema\Reading\CannotEncode;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layer;
use Ylema\Reading\Layers\HtmlAttribute;
use Ylema\Reading\Layers\Plain;
use Ylema\Reading\Notation;
use Ylema\Reading\Reading;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;
use Ylema\Reading\TokenPattern;

/*
 * What the rewriter must not get wrong: lengths inside of lengths, encodings, and what stands around the place.
 */

/** @param  array<int, string>  $values which reference, by its number → its new value */
function rewrittenText(string $text, Notation $notation, array $values, ?Rules $rules = null): string
{
    $rules ??= new Rules(mediaFolders: ['/media/']);
    $references = (new FieldReader())->read($text, $notation, $rules)->references;
    $changes = [];
    foreach ($values as $i => $value) {
        $changes[] = [$references[$i], $value];
    }

    return (new Rewriter())->edits($text, $notation, $rules, $changes)->applyTo($text);
}

/** @return array<string, mixed> a value, serialized inside of a serialized value, as often as said */
function nested(mixed $value, int $depth): string
{
    for ($i = 0; $i < $depth; $i++) {
        $value = ['before' => 'ü', 'in' => serialize($value), 'behind' => $i];
    }

    return serialize($value);
}

it('mends the lengths of every string around a place, however deep it lies', function (int $depth, string $new): void {
    $old = '/media/a.jpg';
    $text = nested(['src' => $old], $depth);
    expect(rewrittenText($text, Notation::PhpSerialized, [0 => $new]))->toBe(nested(['src' => $new], $depth));
})->with([0, 1, 2, 3])->with([
    // From 12 bytes to 9 and to 100: a length that loses or gains a digit changes the lengths around it, too.
    'shorter' => ['/media/a'],
    'one digit less' => ['/media/'],
    'as long' => ['/media/b.jpg'],
    'longer' => ['/media/bb.jpg'],
    'one digit more' => ['/media/'.str_repeat('b', 200).'.jpg'],
    'two digits more' => ['/media/'.str_repeat('b', 1200).'.jpg'],
    'of another script' => ['/media/'.str_repeat('ü', 60).'.jpg'],
]);

it('mends each length once where several places change', function (): void {
    $text = static fn (string $a, string $b, string $c): string => serialize([
        'outer' => $a,
        'deep' => serialize(['one' => "<img src=\"$b\"> <img src=\"$a\">", 'two' => serialize([$c, $b])]),
        'after' => $c,
    ]);
    $old = $text('/media/a.jpg', '/media/b.jpg', '/media/c.jpg');
    $long = '/media/'.str_repeat('z', 99).'.jpg';
    $of = ['/media/a.jpg' => '/media/aaaa.jpg', '/media/b.jpg' => $long, '/media/c.jpg' => '/media/c'];
    $references = (new FieldReader())->read($old, Notation::PhpSerialized, new Rules(mediaFolders: ['/media/']));
    $values = array_map(static fn ($reference): string => $of[$reference->value], $references->references);
    expect(count($values))
        ->toBe(6)
        ->and(rewrittenText($old, Notation::PhpSerialized, $values))
        ->toBe($text('/media/aaaa.jpg', $long, '/media/c'))
        ->and(rewrittenText($old, Notation::PhpSerialized, array_reverse($values, true)))
        ->toBe($text('/media/aaaa.jpg', $long, '/media/c'));
});

it('counts and writes the bytes of the encoding that the text is in', function (): void {
    // "é" is one byte here, so that the serialized length differs from that of UTF-8.
    $text = static fn (string $name): string => serialize(['caption' => "caf\xE9", 'src' => "/media/$name.jpg"]);
    $rules = new Rules(mediaFolders: ['/media/'], encoding: 'windows-1252');
    $references = (new FieldReader())->read($text('a'), Notation::PhpSerialized, $rules);
    expect($references->references)
        ->toHaveCount(1)
        ->and(rewrittenText($text('a'), Notation::PhpSerialized, [0 => '/media/été.jpg'], $rules))
        ->toBe($text("\xE9t\xE9"))
        ->and(rewrittenText("<p>caf\xE9</p><img src=\"/media/a.jpg\">", Notation::Html, ['/media/été.jpg'], $rules))
        ->toBe("<p>caf\xE9</p><img src=\"/media/\xE9t\xE9.jpg\">")
        ->and(rewrittenText("<p>caf\xE9</p><img src=\"/media/b\xE9.jpg\">", Notation::Html, ['/media/é.jpg'], $rules))
        ->toBe("<p>caf\xE9</p><img src=\"/media/\xE9.jpg\">");
});

it('goes by the reading that it was given', function (): void {
    $text = '<img src="a.jpg">';
    $rules = new Rules();
    $references = (new FieldReader())->read($text, Notation::Html, $rules)->references;
    $edits = static fn (Reading $reading) => (new Rewriter())->edits(
        $text,
        Notation::Html,
        $rules,
        [[$references[0], 'b.jpg']],
        $reading,
    );
    expect($edits(new Reading($references))->applyTo($text))
        ->toBe('<img src="b.jpg">')
        ->and(fn () => $edits(new Reading([])))
        ->toThrow(EditConflict::class, '"b.jpg" would not be read back');
});

it('reads the whole text back where the new value could change what stands elsewhere', function (): void {
    $rules = new Rules(tokens: [TokenPattern::of('frame', '\{frame (?<id>\d+)\}[^{]*\{/frame\}', null)]);
    $text = '<img src="/media/a.jpg" alt="x"> <p>{/frame}</p>';
    expect(fn () => rewrittenText($text, Notation::Html, [0 => '/media/{frame_7}.jpg'], $rules))
        ->not->toThrow(EditConflict::class)
        ->and(fn () => rewrittenText($text, Notation::Html, [0 => '/media/{frame 7}.jpg'], $rules))
        ->toThrow(EditConflict::class);
});

it('says its new value in attributes with layers of their own, and reads that back', function (
    string $before,
    int $which,
    string $value,
    string $after,
): void {
    expect(rewrittenText($before, Notation::Html, [$which => $value]))->toBe($after);
})->with([
    'a style' => [
        '<p style="background: url(/media/a.jpg)">x</p>',
        0,
        '/media/b (1).jpg',
        '<p style="background: url(/media/b\20 \(1\).jpg)">x</p>',
    ],
    'a candidate with a blank' => [
        '<img srcset="a.jpg 1x, b.jpg 2x">',
        1,
        'c d.jpg',
        '<img srcset="a.jpg 1x, c%20d.jpg 2x">',
    ],
    'the first of two alike' => [
        '<img src="a.jpg" srcset="a.jpg 1x">',
        0,
        'b.jpg',
        '<img src="b.jpg" srcset="a.jpg 1x">',
    ],
    'the second of two alike' => [
        '<img src="a.jpg" srcset="a.jpg 1x">',
        1,
        'b.jpg',
        '<img src="a.jpg" srcset="b.jpg 1x">',
    ],
    'without quotes' => ['<img src=a.jpg alt=x>', 0, 'b.jpg', '<img src=b.jpg alt=x>'],
    'a blank without quotes' => ['<img src=a.jpg alt=x>', 0, 'b c.jpg', '<img src=b&#32;c.jpg alt=x>'],
    'nothing' => ['<img src="a.jpg">', 0, 'a.jpg', '<img src="a.jpg">'],
]);

it('refuses what would be read as more than one', function (): void {
    expect(
        fn () => rewrittenText(
            'see https://x.example/media/a.jpg now',
            Notation::Text,
            [0 => 'https://x.example/media/a.jpg https://x.example/media/b.jpg'],
        ),
    )->toThrow(CannotEncode::class);
});

/** A reference as the reader gave it, but for layers that write it wrongly: what a faulty layer would do. */
function writtenWrongly(Reference $reference, Layer ...$layers): Reference
{
    $parts = (array) $reference;
    $surroundings = $parts["\0".Reference::class."\0surroundings"];
    $anchor = $parts["\0".Reference::class."\0anchor"];

    return new Reference(
        $reference->start,
        $reference->length,
        $reference->value,
        $reference->role,
        $reference->fetch,
        array_values($layers),
        $surroundings,
        $anchor,
    );
}

it('writes nothing that is not read back as meant, whatever a layer does', function (
    string $text,
    Notation $notation,
    int $which,
    array $layers,
    string $value,
): void {
    $rules = new Rules(mediaFolders: ['/media/']);
    $references = (new FieldReader())->read($text, $notation, $rules)->references;
    $change = [writtenWrongly($references[$which], ...$layers), $value];
    // Alone, and behind a change of the first place that is right.
    foreach ($which === 0 ? [[$change]] : [[$change], [[$references[0], '/media/right.jpg'], $change]] as $changes) {
        expect(fn () => (new Rewriter())->edits($text, $notation, $rules, $changes))->toThrow(
            EditConflict::class,
            'would not be read back',
        );
    }
})->with([
    'a quote left in a tag' => ["<img src='a.jpg' alt='x'>", Notation::Html, 0, [new HtmlAttribute('"')], "it's.jpg"],
    'a tag that ends early' => ["<img src='a.jpg'>", Notation::Html, 0, [new HtmlAttribute('"')], "a'>b.jpg"],
    'a tag that does not end' => ["<img src='a.jpg'>", Notation::Html, 0, [new HtmlAttribute('"')], "a'b"],
    'in the second of two tags' => [
        "<img src=a.jpg><img src='b.jpg' alt='x'><img src=c.jpg>",
        Notation::Html,
        1,
        [new HtmlAttribute('"')],
        "it's.jpg",
    ],
    'in the last of three' => [
        "<img src=a.jpg><img src=c.jpg><img src='b.jpg' alt='x'>",
        Notation::Html,
        2,
        [new HtmlAttribute('"')],
        "it's.jpg",
    ],
    'one more candidate' => ['<img srcset="a.jpg 1x">', Notation::Html, 0, [new HtmlAttribute('"')], 'b.jpg 2x, c.jpg'],
    'an element that opens' => ['<p>/media/a.jpg', Notation::Text, 0, [new Plain(Notation::Text)], '/media/a b'],
    'a string of json that ends early' => [
        '["/media/a.jpg"]',
        Notation::Json,
        0,
        [new Plain(Notation::Text)],
        '/media/"',
    ],
    'one more string' => [
        '["/media/a.jpg"]',
        Notation::Json,
        0,
        [new Plain(Notation::Text)],
        '/media/a.jpg", "/media/b.jpg',
    ],
    'a value that vanishes' => [
        '["/media/a.jpg", "/media/b.jpg"]',
        Notation::Json,
        1,
        [new Plain(Notation::Text)],
        'x',
    ],
    'a length that does not fit' => [
        's:12:"/media/a.jpg";',
        Notation::PhpSerialized,
        0,
        [new Plain(Notation::PhpSerialized)],
        '/media/longer.jpg',
    ],
]);
