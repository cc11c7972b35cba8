<?php

declare(strict_types=1);

use Ylema\Change\Rewriter;
use Ylema\Reading\ElementRule;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Rules;

/** The text with what stands beside its first reference changed. */
function besideChanged(string $text, Notation $notation, string $attribute, string $value): string
{
    $rules = new Rules(mediaFolders: ['/media/']);
    $reading = (new FieldReader())->read($text, $notation, $rules);
    $beside = $reading->references[0]->beside($attribute) ?? throw new LogicException('Nothing stands beside it.');

    return (new Rewriter())->edits($text, $notation, $rules, [[$beside, $value]], $reading)->applyTo($text);
}

it('changes another attribute of the same tag, and nothing else', function (
    string $before,
    Notation $notation,
    string $after,
): void {
    expect(besideChanged($before, $notation, 'alt', 'a "b" & <c>'))->toBe($after);
})->with([
    'in its own quotes' => [
        '<img src=/media/a.jpg  ALT=\'old\'>',
        Notation::Html,
        '<img src=/media/a.jpg  ALT=\'a "b" & <c>\'>',
    ],
    'without quotes' => [
        '<img alt=old src=/media/a.jpg>',
        Notation::Html,
        '<img alt=a&#32;&quot;b&quot;&#32;&&#32;&lt;c&gt; src=/media/a.jpg>',
    ],
    'empty' => [
        '<img src="/media/a.jpg" alt="">',
        Notation::Html,
        '<img src="/media/a.jpg" alt="a &quot;b&quot; & <c>">',
    ],
    'not there' => [
        '<p><IMG src=/media/a.jpg></p>',
        Notation::Html,
        '<p><IMG alt="a &quot;b&quot; & <c>" src=/media/a.jpg></p>',
    ],
    'the first of two' => [
        '<img alt="x" alt="y" src="/media/a.jpg">',
        Notation::Html,
        '<img alt="a &quot;b&quot; & <c>" alt="y" src="/media/a.jpg">',
    ],
    'in a json string' => [
        '{"h":"<img src=\"\/media\/a.jpg\" alt=\"\u00fc\">"}',
        Notation::Json,
        '{"h":"<img src=\"\/media\/a.jpg\" alt=\"a &quot;b&quot; & <c>\">"}',
    ],
    'in serialized text, with its length' => [
        'a:1:{s:1:"h";s:24:"<img src=/media/abc.jpg>";}',
        Notation::PhpSerialized,
        'a:1:{s:1:"h";s:52:"<img alt="a &quot;b&quot; & <c>" src=/media/abc.jpg>";}',
    ],
]);

it('says what stands there', function (): void {
    $reading = (new FieldReader())->read(
        '<img src="/media/a.jpg" alt="a &amp; b" width=300>',
        Notation::Html,
        new Rules(),
    );
    expect($reading->references[0]->beside('ALT')?->value)
        ->toBe('a & b')
        ->and($reading->references[0]->beside('width')?->value)
        ->toBe('300')
        ->and($reading->references[0]->beside('height')?->length)
        ->toBe(0)
        ->and($reading->references[0]->beside('alt')?->role)
        ->toBe('img[alt]');
});

it('knows nothing beside a reference that stands in no tag', function (): void {
    expect((new FieldReader())->read('7', Notation::MediaId, new Rules())->references[0]->beside('alt'))
        ->toBeNull()
        ->and((new FieldReader())->read('a{b:url(/x.png)}', Notation::Css, new Rules())->references[0]->beside('alt'))
        ->toBeNull();
});

it('reads the attributes of a site\'s own elements, wherever markup stands', function (
    string $text,
    Notation $notation,
): void {
    $rules = new Rules(
        mediaFolders: ['/media/'],
        elements: [
            'site-photo' => [
                'picture' => new ElementRule(Notation::Url),
                'sizes-of' => new ElementRule(Notation::Srcset, 'wide'),
            ],
            'img' => ['zoom' => new ElementRule(Notation::Url)],
        ],
    );
    $found = array_map(
        static fn ($r): string => "$r->role $r->value",
        (new FieldReader())->read($text, $notation, $rules)->references,
    );
    expect($found)->toBe([
        'site-photo[picture] /media/a.jpg',
        'wide /media/b.jpg',
        'wide /media/c.jpg',
        'img[src] /media/e.jpg',
        'img[zoom] /media/d.jpg',
    ]);
})->with([
    'html' => [
        '<site-photo picture="/media/a.jpg" sizes-of="/media/b.jpg 1x, /media/c.jpg 2x"></site-photo><img '
            .'src=/media/e.jpg zoom=/media/d.jpg>',
        Notation::Html,
    ],
    'markdown' => [
        'Text <site-photo picture="/media/a.jpg" sizes-of="/media/b.jpg 1x, /media/c.jpg '
            ."2x\"></site-photo>\n\n<img src=/media/e.jpg zoom=/media/d.jpg>",
        Notation::Markdown,
    ],
]);

it('has one key for rules that read markup alike, and others for others', function (): void {
    $own = new Rules(elements: ['x-a' => ['b' => new ElementRule(Notation::Url)]]);
    expect((new Rules())->with(role: 'x', target: null, paths: [])->key)
        ->toBe((new Rules())->key)
        ->and($own->key)
        ->not->toBe((new Rules())->key)
        ->and($own->with(role: 'y')->key)
        ->toBe($own->key)
        ->and($own->with(tokens: [])->elements)
        ->toBe($own->elements);
});

it(
    'reads no more than the tag back where nothing else can have changed, and finds what would not be read back',
    function (): void {
        $rules = new Rules(mediaFolders: ['/media/']);
        $text = '<p>x</p><img src=/media/a.jpg alt=b><img src="/media/c.jpg">';
        $reading = (new FieldReader())->read($text, Notation::Html, $rules);
        $edits = (new Rewriter())->edits(
            $text,
            Notation::Html,
            $rules,
            [[$reading->references[0], '/media/much/longer.jpg'], [$reading->references[1], '/media/d.jpg']],
            $reading,
        );
        expect($edits->applyTo($text))
            ->toBe('<p>x</p><img src=/media/much/longer.jpg alt=b><img src="/media/d.jpg">')
            ->and($edits->edits[0]->reference)
            ->toBe($reading->references[0])
            ->and(
                fn () => (new Rewriter())->edits(
                    $text,
                    Notation::Html,
                    $rules,
                    [[$reading->references[0], '#top']],
                    $reading,
                ),
            )
            ->toThrow(Ylema\Change\EditConflict::class);
    },
);
