<?php

declare(strict_types=1);

use Ylema\Change\Rewriter;
use Ylema\Reading\CannotEncode;
use Ylema\Reading\CommentRule;
use Ylema\Reading\ElementRule;
use Ylema\Reading\FieldReader;
use Ylema\Reading\InvalidToken;
use Ylema\Reading\Notation;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;
use Ylema\Reading\TokenPattern;
use Ylema\Reading\TokenTag;

function builderRules(): Rules
{
    return new Rules(
        mediaFolders: ['/media/'],
        tags: [
            new TokenTag('photo', [
                'id' => new ElementRule(Notation::MediaId),
                'link' => new ElementRule(Notation::Url),
            ]),
            new TokenTag('album', ['ids' => new ElementRule(Notation::MediaId, 'album')]),
            new TokenTag('film', ['src' => new ElementRule(Notation::Url)], new ElementRule(Notation::Url)),
            new TokenTag('slot', ['key' => new ElementRule(Notation::RecordKey, null, 'slot')], null, '{{', '}}'),
            new TokenTag('box', ['text' => new ElementRule(Notation::Html)], new ElementRule(Notation::Html)),
        ],
        comments: [new CommentRule('^\s*block\s+(?<text>\{.*\})', Notation::Json)],
    );
}

/** @return list<string> */
function inBuilder(string $text, Notation $notation = Notation::Html): array
{
    return array_map(
        static fn (Reference $r): string => "$r->role={$r->value}",
        (new FieldReader())->read($text, $notation, builderRules())->references,
    );
}

it('reads what builders write', function (string $text, array $found): void {
    expect(inBuilder($text))->toBe($found);
})->with([
    'an id' => ['<p>[photo id=12 size=large]</p>', ['token photo[id]=12']],
    'an id in quotes' => ["[PHOTO size='large' id='12']", ['token photo[id]=12']],
    'ids' => ['[album ids="3,4,9"]', ['album=3', 'album=4', 'album=9']],
    'many ids' => [
        '[album ids="'.implode(', ', range(1, 300)).'"]',
        array_map(static fn (int $id): string => "album=$id", range(1, 300)),
    ],
    'an address' => ['[film src="/media/a.mp4" wide]', ['token film[src]=/media/a.mp4']],
    'an address with an end' => ['[film src="/media/a.mp4"][/film]', ['token film[src]=/media/a.mp4']],
    'an address between' => ['[film] /media/a.mp4 [/film] x', ['token film=/media/a.mp4']],
    'a key in other brackets' => [
        '{{slot key="top"}} {{ slot key=low }}',
        ['token slot[key]=top', 'token slot[key]=low'],
    ],
    'a text in a notation of its own' => [
        '[box text="x"]<img src="/media/a.jpg">[/box]',
        ['img[src]=/media/a.jpg'],
    ],
    'a bracket in quotes' => ['[photo title="a ] b" id=7]', ['token photo[id]=7']],
    'a longer name' => ['[photograph id=12] [photo-wall id=3]', []],
    'json in a comment' => [
        '<!-- block {"url":"\/media\/a.jpg"} --><img src="/media/b.jpg"><!-- /block -->',
        ['url=/media/a.jpg', 'img[src]=/media/b.jpg'],
    ],
    'a comment behind one that nothing ends' => [
        '<p title="<!--">x</p><!-- block {"url":"/media/a.jpg"} -->',
        ['url=/media/a.jpg'],
    ],
    'another comment' => ['<!-- {"url":"/media/a.jpg"} -->', []],
]);

it('reads them in Markdown and in json, too', function (): void {
    expect(inBuilder('Words [photo id=12] more', Notation::Markdown))
        ->toBe(['token photo[id]=12'])
        ->and(inBuilder('{"text":"[photo id=12]"}', Notation::Json))
        ->toBe(['token photo[id]=12']);
});

it('writes back just the value, as its place can say it', function (
    string $text,
    int $which,
    string $to,
    string $after,
): void {
    $references = (new FieldReader())->read($text, Notation::Html, builderRules())->references;
    expect(
        (new Rewriter())->edits($text, Notation::Html, builderRules(), [[$references[$which], $to]])->applyTo($text),
    )->toBe($after);
})->with([
    ['<p>[photo id=12 size=large]</p>', 0, '7', '<p>[photo id=7 size=large]</p>'],
    ['[album ids="3, 4,9"]', 1, '44', '[album ids="3, 44,9"]'],
    ['[film]/media/a.mp4[/film]', 0, '/media/b.mp4', '[film]/media/b.mp4[/film]'],
    [
        '<!-- block {"url":"\/media\/a.jpg"} -->',
        0,
        '/media/b.jpg',
        '<!-- block {"url":"\/media\/b.jpg"} -->',
    ],
]);

it('refuses what would end a token or a comment early', function (string $text, string $to): void {
    $references = (new FieldReader())->read($text, Notation::Html, builderRules())->references;
    expect(fn () => (new Rewriter())->edits($text, Notation::Html, builderRules(), [[$references[0], $to]]))->toThrow(
        CannotEncode::class,
        'early',
    );
})->with([
    ['[photo link="/media/a.jpg"]', '/media/".jpg'],
    ['[photo link=/media/a.jpg]', '/media/a b.jpg'],
    ['[photo link=/media/a.jpg]', '/media/].jpg'],
    ['[film]/media/a.mp4[/film]', '/media/[x].mp4'],
    ['<!-- block {"url":"/media/a.jpg"} -->', '/media/-->.jpg'],
]);

it('takes no pattern for comments that says nothing', function (string $pattern): void {
    expect(fn () => new CommentRule($pattern, Notation::Json))->toThrow(InvalidToken::class);
})->with(['block (.*)']);

it('takes what only shows how something is written for no use', function (
    string $text,
    array $found,
    Notation $notation = Notation::Html,
): void {
    expect(inBuilder($text, $notation))->toBe($found);
})->with([
    'in code' => ['<code>[photo id=1]</code> [photo id=2]', ['token photo[id]=2']],
    'in preformatted text' => ["<pre class=x>\n[photo id=1] <code>[photo id=3]</code> [photo id=4]</pre>", []],
    'in code in code' => ['<code>a <code>b</code> [photo id=1]</code>[photo id=2]', ['token photo[id]=2']],
    'in a comment' => ['<!-- [photo id=1] -->[photo id=2]', ['token photo[id]=2']],
    'in a comment that is written out' => ['&lt;!-- [photo id=1] --&gt;[photo id=2]', ['token photo[id]=2']],
    'behind a backslash' => ['\[photo id=1] \\\\[photo id=2]', ['token photo[id]=2']],
    'not where code is not closed' => ['<code>[photo id=1]', ['token photo[id]=1']],
    'not where a comment is not closed' => ['<!-- [photo id=1]', ['token photo[id]=1']],
    'in a code span' => ['`[photo id=1]` ``a ` [photo id=3]`` [photo id=2]', ['token photo[id]=2'], Notation::Markdown],
    'in a fence' => ["```\n[photo id=1]\n```\n[photo id=2]", ['token photo[id]=2'], Notation::Markdown],
    'in a fence of a list' => [
        "- ~~~\n  [photo id=1]\n  ~~~\n- [photo id=2]",
        ['token photo[id]=2'],
        Notation::Markdown,
    ],
    'in indented code' => ["Words\n\n    [photo id=1]\n\n[photo id=2]", ['token photo[id]=2'], Notation::Markdown],
    'not behind a single backtick' => ["a ` b\n\n[photo id=1]", ['token photo[id]=1'], Notation::Markdown],
    'not in markup that looks like a fence' => [
        "<div>\n```\n[photo id=1]\n</div>",
        ['token photo[id]=1'],
        Notation::Markdown,
    ],
]);

it('reads a builder\'s comment that is a token itself', function (): void {
    $rules = new Rules(tokens: [TokenPattern::of('pic', '<!--pic:(?<id>\d+)-->', null)]);
    $read = (new FieldReader())->read('<p><!--pic:7--></p><code><!--pic:8--></code>', Notation::Html, $rules);
    expect(array_column($read->references, 'value'))->toBe(['7']);
});
