<?php

declare(strict_types=1);

use Ylema\Change\EditConflict;
use Ylema\Change\Rewriter;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\PathRule;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;

/** What is left of a text once every reference to a file is taken out of it; and undone, it is as it was. */
function without(string $text, string $file, Notation $notation = Notation::Html, Rules $rules = new Rules()): string
{
    $reading = (new FieldReader())->read($text, $notation, $rules);
    $gone = array_values(array_filter(
        $reading->references,
        static fn (Reference $reference): bool => str_contains($reference->value, $file),
    ));
    expect($gone)->not->toBe([]);
    $edits = (new Rewriter())->edits($text, $notation, $rules, [], $reading, $gone);
    $after = $edits->applyTo($text);
    expect($edits->inverse()->applyTo($after))->toBe($text);

    return $after;
}

it('takes a picture out with all that would be empty without it', function (string $text, string $left): void {
    expect(without($text, 'gone'))->toBe($left);
})->with([
    'alone' => ['<p>a <img src="/gone.jpg" alt="x"> b</p>', '<p>a  b</p>'],
    'closed as in XML' => ['<p>a <img src="/gone.jpg" /> b</p>', '<p>a  b</p>'],
    'in an empty link' => ['<p>a <a href="/x" class="l"><img src=/gone.jpg></a> b</p>', '<p>a  b</p>'],
    'in a link with words' => ['<a href="/x"><img src=/gone.jpg> more</a>', '<a href="/x"> more</a>'],
    'in its paragraph' => ["<p>a</p>\n<p>\n<img src='/gone.jpg'>\n</p>\n<p>b</p>", "<p>a</p>\n\n<p>b</p>"],
    'in a figure' => [
        '<h2>x</h2><figure class="w"><a href="/b"><img src="/gone.jpg"></a><figcaption>The <em>old</em> pier'
            .'</figcaption></figure><p>y</p>',
        '<h2>x</h2><p>y</p>',
    ],
    'in a figure whose caption comes first' => [
        '<figure><figcaption>Pier</figcaption><img src="/gone.jpg"></figure>z',
        'z',
    ],
    'in a figure with another' => [
        '<figure><img src="/gone.jpg"><img src="/here.jpg"></figure>',
        '<figure><img src="/here.jpg"></figure>',
    ],
    'in a picture with its sources' => [
        'a<picture><source srcset="/here.webp"><img src="/gone.jpg"></picture>b',
        'ab',
    ],
    'in an entry of a list' => [
        '<ul><li><img src="/gone.jpg"></li><li><img src="/here.jpg"></li></ul>',
        '<ul><li><img src="/here.jpg"></li></ul>',
    ],
    'twice' => ['<img src="/gone.jpg">a<img src="/gone.jpg">', 'a'],
    'one source of several' => [
        '<picture><source srcset="/gone.webp"><img src="/here.jpg"></picture>',
        '<picture><img src="/here.jpg"></picture>',
    ],
    'one candidate' => [
        '<img src="/a.jpg" srcset="/gone.jpg 1x, /b.jpg 2x">',
        '<img src="/a.jpg" srcset="/b.jpg 2x">',
    ],
    'the last candidate' => [
        '<img src="/a.jpg" srcset="/b.jpg 480w, /gone.jpg 960w" alt="">',
        '<img src="/a.jpg" srcset="/b.jpg 480w" alt="">',
    ],
    'the only candidate' => ['<img src="/a.jpg" srcset="/gone.jpg 2x" alt="">', '<img src="/a.jpg" alt="">'],
    'a film' => ['a<video src="/gone.webm"><p>Sorry</p></video>b', 'ab'],
    'the still of a film' => ['<video src="/a.webm" poster="/gone.jpg" controls>', '<video src="/a.webm" controls>'],
    'a background' => ['<td background="/gone.gif" width=4>', '<td width=4>'],
]);

it('takes a link out of its words', function (string $text, string $left): void {
    expect(without($text, 'gone'))->toBe($left);
})->with([
    'with words' => ['See <a class="x" href="/gone" title="b">the <b>storm</b></a>.', 'See the <b>storm</b>.'],
    'with a picture' => ['<a href="/gone"><img src="/here.jpg"></a>', '<img src="/here.jpg">'],
    'never ended' => ['<a href="/gone">a <a href="/b">b</a>', 'a <a href="/b">b</a>'],
]);

it('does so in other notations and inside of layers', function (
    string $text,
    string $left,
    Notation $notation,
    Rules $rules,
): void {
    expect(without($text, 'gone', $notation, $rules))->toBe($left);
})->with([
    'markup in json' => [
        '[{"html":"<p>a<\/p><p><img src=\"\/gone.jpg\"><\/p>"}]',
        '[{"html":"<p>a<\/p>"}]',
        Notation::Json,
        new Rules(paths: [new PathRule('[].html', Notation::Html)]),
    ],
    'markup in serialized data' => [
        serialize(['html' => 'ä<img src="/gone.jpg"> b', 'n' => 1]),
        serialize(['html' => 'ä b', 'n' => 1]),
        Notation::PhpSerialized,
        new Rules(paths: [new PathRule('html', Notation::Html)]),
    ],
    'the first entry of a list' => [
        '[ {"picture": "/gone.jpg", "words": "a, ]"}, {"picture": "/here.jpg"} ]',
        '[ {"picture": "/here.jpg"} ]',
        Notation::Json,
        new Rules(paths: [new PathRule('[].picture', Notation::Url)]),
    ],
    'the last entry of a list' => [
        '{"items": [{"picture": "/here.jpg"}, {"picture": "/gone.jpg"}]}',
        '{"items": [{"picture": "/here.jpg"}]}',
        Notation::Json,
        new Rules(paths: [new PathRule('items[].picture', Notation::Url)]),
    ],
    'the only entry of a list' => [
        '{"items": ["/gone.jpg"], "n": 1}',
        '{"items": [], "n": 1}',
        Notation::Json,
        new Rules(paths: [new PathRule('items[]', Notation::Url)]),
    ],
    'an image of Markdown' => ["a ![x [y]](/gone.jpg \"t\") b\n", "a  b\n", Notation::Markdown, new Rules()],
    'one in an empty link' => ["a [![x](/gone.jpg)](/big) b\n", "a  b\n", Notation::Markdown, new Rules()],
    'a link of Markdown' => ["See [the *storm*](/gone 'x').\n", "See the *storm*.\n", Notation::Markdown, new Rules()],
]);

it('says where it cannot', function (): void {
    without('<p style="background: url(/gone.jpg)">', 'gone');
})->throws(EditConflict::class, 'cannot be taken out');

it('leaves the other references as they are, and changes them in the same edit', function (): void {
    $text = '<a href="/a.jpg"><img src="/gone.jpg"></a><img src="/b.jpg">';
    $reading = (new FieldReader())->read($text, Notation::Html, new Rules());
    [$link, $gone, $other] = $reading->references;
    $edits = (new Rewriter())->edits(
        $text,
        Notation::Html,
        new Rules(),
        [[$link, '/c.jpg'], [$other, '/d.jpg']],
        $reading,
        [$gone],
    );
    // The link goes with its picture.
    expect($edits->applyTo($text))->toBe('<img src="/d.jpg">');
});
