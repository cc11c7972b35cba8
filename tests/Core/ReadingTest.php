<?php

declare(strict_types=1);

use Ylema\Change\Rewriter;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Names;
use Ylema\Reading\Notation;
use Ylema\Reading\PathRule;
use Ylema\Reading\Reading;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;
use Ylema\Reading\TokenPattern;

function readField(string $text, Notation $notation = Notation::Html, ?Rules $rules = null): Reading
{
    return (new FieldReader())->read($text, $notation, $rules ?? new Rules(mediaFolders: ['/media/']));
}

/** @return list<string> `role=value` */
function found(string $text, Notation $notation = Notation::Html, ?Rules $rules = null): array
{
    return array_map(
        static fn (Reference $r): string => "{$r->role}={$r->value}",
        readField($text, $notation, $rules)->references,
    );
}

describe('html', function (): void {
    it('reads as a browser tokenises', function (string $html, array $found): void {
        expect(found($html))->toBe($found);
    })->with([
        'double quotes' => ['<img src="/a.jpg">', ['img[src]=/a.jpg']],
        'single quotes, capitals' => ["<IMG SRC='/a.jpg'>", ['img[src]=/a.jpg']],
        'no quotes' => ['<img src=/a.jpg alt=x>', ['img[src]=/a.jpg']],
        'an unquoted value takes the slash' => ['<img src=/a.jpg/>', ['img[src]=/a.jpg/']],
        'spaces around the equals sign' => ["<img src \n = \t '/a.jpg' >", ['img[src]=/a.jpg']],
        'the first of two attributes wins' => ['<img src="/a.jpg" src="/b.jpg">', ['img[src]=/a.jpg']],
        'character references' => ['<img src="/a&amp;b&#46;jpg">', ['img[src]=/a&b.jpg']],
        'a bare reference before = stays' => ['<a href="/m/x.pdf?a=1&copy=2">', ['a[href]=/m/x.pdf?a=1&copy=2']],
        'a bare reference elsewhere does not' => ['<img src="/a&copy .jpg">', ['img[src]=/a© .jpg']],
        'spaces at the ends of an address' => ['<img src=" /a.jpg ">', ['img[src]=/a.jpg']],
        'comments hide' => ['<!-- <img src="/no.jpg"> --><img src="/a.jpg">', ['img[src]=/a.jpg']],
        'a comment that ends early' => ['<!--> <img src="/a.jpg"> -->', ['img[src]=/a.jpg']],
        'a comment without end hides the rest' => ['<!-- <img src="/no.jpg">', []],
        'scripts hide what is no string of theirs' => [
            '<script>if (a <img src=/no.jpg>) b</script><img src="/a.jpg">',
            ['img[src]=/a.jpg'],
        ],
        'a script ends only at its own end tag' => [
            '<script></scripty><img src=/no.jpg></script><img src="/a.jpg">',
            ['img[src]=/a.jpg'],
        ],
        'text areas hide' => ['<textarea><img src="/no.jpg"></textarea>', []],
        'a tag without end is none' => ['<p>x</p><img src="/no.jpg"', []],
        'an unclosed quote swallows the rest' => ['<img src="/no.jpg><img src=/also-no.jpg>', []],
        'a lone < is text' => ['1 < 2 <img src="/a.jpg">', ['img[src]=/a.jpg']],
        'an end tag has no attributes that count' => ['</img src="/no.jpg"><img src="/a.jpg">', ['img[src]=/a.jpg']],
        'an attribute name may begin with =' => ['<img =src="/no.jpg" src="/a.jpg">', ['img[src]=/a.jpg']],
        'an empty value is no reference' => ['<img src=""><img src><img src= >', []],
        'a fragment leads nowhere else' => ['<a href="#top">x</a>', []],
        'a candidate list' => ['<img srcset="/a.jpg 1x, /b.jpg 2x">', ['img[srcset]=/a.jpg', 'img[srcset]=/b.jpg']],
        'inline style' => ['<p style="background: url(&quot;/a.jpg&quot;)">', ['css url=/a.jpg']],
        'a style element' => ['<style>p{background:url(/a.jpg)}</style>', ['css url=/a.jpg']],
        'media elements' => [
            '<video src=/v.mp4 poster=/p.jpg><track src=/t.vtt></video><audio src=/a.mp3></audio>',
            ['video[src]=/v.mp4', 'video[poster]=/p.jpg', 'track[src]=/t.vtt', 'audio[src]=/a.mp3'],
        ],
        'icons and the page itself' => [
            '<link rel="shortcut icon" href="/i.png"><link rel=canonical href=/x><link rel=unknown href=/y>',
            ['link[href]=/i.png', 'link[href]=/x'],
        ],
        'share pictures but not descriptions' => [
            '<meta property="og:image" content="/s.jpg"><meta name=description content="/no.jpg">',
            ['meta[content]=/s.jpg'],
        ],
        'input only as a picture' => [
            '<input type=image src=/i.png><input type=text src=/no.png>',
            ['input[src]=/i.png'],
        ],
        'drawings' => [
            '<svg><image href="/a.png"/><use xlink:href="/s.svg#x"/></svg>',
            ['image[href]=/a.png', 'use[xlink:href]=/s.svg#x'],
        ],
        'lazy loading' => ['<img data-src="/a.jpg" src="data:,">', ['img[data-src]=/a.jpg', 'img[src]=data:,']],
        'json-ld' => [
            '<script type="application/ld+json">{"image":"https://x.example/a.jpg"}</script>',
            ['json-ld=https://x.example/a.jpg'],
        ],
        'a drawing\'s CDATA hides' => [
            '<svg><![CDATA[<img src=/no.jpg>]]><image href=/a.png /></svg>',
            ['image[href]=/a.png'],
        ],
        'elsewhere CDATA is a comment up to the next >' => [
            '<![CDATA[<img src=/no.jpg>]]><img src=/a.jpg>',
            ['img[src]=/a.jpg'],
        ],
        'html begins again in a drawing' => [
            '<svg><foreignObject><video poster=/p.jpg></video></foreignObject><video poster=/no.jpg /></svg>',
            ['video[poster]=/p.jpg'],
        ],
        'style in a drawing is text like any other' => [
            '<svg><style>a{background:url(/a-&lt;.png)}</style><image href=/a.png /></svg>',
            ['css url=/a-<.png', 'image[href]=/a.png'],
        ],
        'an image outside of a drawing is an img' => [
            '<image src=/a.jpg><svg><image src=/no.jpg /></svg>',
            ['img[src]=/a.jpg'],
        ],
        'a script in a script\'s comment' => [
            '<script><!-- <script></script> <img src=/no.jpg> --></script><img src=/a.jpg>',
            ['img[src]=/a.jpg'],
        ],
        'a script with an empty comment' => ['<script><!--><script></script><img src=/a.jpg>', ['img[src]=/a.jpg']],
        'templates of libraries are markup' => [
            '<script type="text/x-template"><img src=/a.jpg></script>',
            ['img[src]=/a.jpg'],
        ],
        'an attribute that means nothing there' => [
            '<a src="/no.jpg"><img href=/no.jpg><img src=/a.jpg href=/no.jpg>',
            ['img[src]=/a.jpg'],
        ],
        'two telling attributes, doubled' => ['<img srcset="/a.jpg 1x" srcset="/no.jpg 2x">', ['img[srcset]=/a.jpg']],
        'style spelt with character references' => ['<p style="background:url&#40;/a.jpg)">', ['css url=/a.jpg']],
        'presentational backgrounds' => [
            '<body background=/a.gif><table background="/b.gif"><td background=/c.gif>',
            ['body[background]=/a.gif', 'table[background]=/b.gif', 'td[background]=/c.gif'],
        ],
        'preloaded candidates' => [
            '<link rel=preload as=image imagesrcset="/a.jpg 1x, /b.jpg 2x">',
            ['link[imagesrcset]=/a.jpg', 'link[imagesrcset]=/b.jpg'],
        ],
        'a frame\'s own document' => [
            '<iframe srcdoc="&lt;img src=&quot;/a.jpg&quot;&gt;"></iframe>',
            ['img[src]=/a.jpg'],
        ],
        'a byte order mark' => ["\u{FEFF}<img src=/a.jpg>", ['img[src]=/a.jpg']],
        'NUL and CRLF' => ["<img\r\nsrc=\"/a\0b.jpg\">", ["img[src]=/a\u{FFFD}b.jpg"]],
    ]);

    it('keeps the context of a place', function (): void {
        $html =
            "<h2>Tides &amp; <em>boats</em></h2>\n<figure><a href='/large'><img src=/a.jpg class=\"align-left\" "
                ."width=300 alt='A boat'></a><figcaption>In <b>April</b></figcaption></figure><img src=/b.jpg>";
        [, $a, $b] = readField($html)->references;
        expect($a->context())
            ->toMatchObject([
                'line' => 2,
                'element' => 'img',
                'link' => '/large',
                'caption' => 'In April',
                'heading' => 'Tides & boats',
            ])
            ->and($a->context()->attributes)
            ->toMatchArray(['class' => 'align-left', 'width' => '300', 'alt' => 'A boat'])
            ->and($b->context()->caption)
            ->toBeNull()
            ->and($b->context()->link)
            ->toBeNull();
    });

    it('shows the raw text around a place', function (): void {
        $excerpt = readField('<p>ü<img src="/a&amp;b.jpg">ü</p>')->references[0];
        expect((array) $excerpt->excerpt(12))
            ->toBe([
                'lead' => 'ü<img src="',
                'marked' => '/a&amp;b.jpg',
                'tail' => '">ü</p>',
                'cutBefore' => true,
                'cutAfter' => false,
            ])
            // A character that does not fit whole is not shown at all.
            ->and((array) $excerpt->excerpt(11))
            ->toMatchArray(['lead' => '<img src="', 'tail' => '">ü</p>'])
            ->and((array) $excerpt->excerpt(3))
            ->toMatchArray(['lead' => 'c="', 'tail' => '">', 'cutAfter' => true]);
    });

    it('loses nothing behind a stretch that is too long for one match', function (string $filler, int $times): void {
        $html =
            '<h2>Long</h2>'
            .str_repeat($filler, $times)
            .'<img src="/a.jpg">'
            .str_repeat($filler, 5)
            .'<img src="/b.jpg" alt="'
            .str_repeat('x > y ', 40_000)
            .'"><img src="/c.jpg">';
        $reading = readField($html);
        expect(array_column($reading->references, 'value'))
            ->toBe(['/a.jpg', '/b.jpg', '/c.jpg'])
            ->and($reading->problems)
            ->toBe([])
            ->and(substr($html, $reading->references[2]->start, 6))
            ->toBe('/c.jpg')
            ->and($reading->references[2]->context()->heading)
            ->toBe('Long');
    })->with([
        ['<b>x</b> ', 300_000],
        ['<p title="a>b" class=c>', 60_000],
        ['<', 400_000],
        ["<!-- a -- b -->\n", 90_000],
        ['<script>"</p>"</script>', 40_000],
        ['&amp;', 500_000],
    ]);

    it('says whether a browser fetches it', function (string $html, string $fetch): void {
        expect(readField($html)->references[0]->fetch->value)->toBe($fetch);
    })->with([
        ['<img src=/a.jpg>', 'always'],
        ['<img loading=lazy src=/a.jpg>', 'on-condition'],
        ['<template><img src=/a.jpg></template>', 'on-condition'],
        ['<a href=/a.pdf>', 'when-followed'],
        ['<script type="application/ld+json">{"image":"https://x.example/a.jpg"}</script>', 'when-followed'],
        ['<noscript><img src=/a.jpg></noscript>', 'on-condition'],
        ['<template></noscript><img src=/a.jpg>', 'on-condition'],
        ['<template></template><img src=/a.jpg>', 'always'],
        ['</template><img src=/a.jpg>', 'always'],
        ['<iframe loading=LAZY src=/a.html>', 'on-condition'],
        ['<video preload=none src=/a.mp4>', 'on-condition'],
        ['<img src=/a.jpg srcset="/b.jpg 2x">', 'on-condition'],
        ['<div data-bg=/a.jpg>', 'on-condition'],
        ['<style>a{b:url(/a.jpg)}</style>', 'on-condition'],
        ['<style>@import "/a.css"</style>', 'always'],
        ['<meta property=og:image content=/a.jpg>', 'when-followed'],
        ['<link rel=icon href=/a.png>', 'always'],
        ['<link rel=alternate href=/a.xml>', 'when-followed'],
        ['<script>x = "/media/a.jpg"</script>', 'on-condition'],
        ['<img srcset="/a.jpg 2x">', 'on-condition'],
        ['<link rel=stylesheet media=print href=/p.css>', 'on-condition'],
    ]);
});

it('reads candidate lists by the steps of the standard', function (string $list, array $urls): void {
    expect(
        array_map(static fn (Reference $r): string => $r->value, readField($list, Notation::Srcset)->references),
    )->toBe($urls);
})->with([
    ['/a.jpg', ['/a.jpg']],
    ['/a.jpg,', ['/a.jpg']],
    [',,/a.jpg 2x', ['/a.jpg']],
    ['/a,b.jpg 1x, /c.jpg', ['/a,b.jpg', '/c.jpg']],
    ['/a.jpg 100w, /b.jpg 200w', ['/a.jpg', '/b.jpg']],
    ['/a.jpg 1x 2x, /b.jpg', ['/b.jpg']],
    ['/a.jpg 0w', []],
    ['/a.jpg -1x', []],
    ['/a.jpg 50h', []],
    ['/a.jpg 100w 50h', ['/a.jpg']],
    ['/a.jpg f(x, y), /b.jpg', ['/b.jpg']],
    ['data:,x 1x, /b.jpg 2x', ['data:,x', '/b.jpg']],
    ['', []],
    [' , ', []],
]);

it('reads style as css is tokenised', function (string $css, array $found): void {
    expect(found($css, Notation::Css))->toBe($found);
})->with([
    ['a{background:url(/a.jpg)}', ['css url=/a.jpg']],
    ['a{background:URL( "/a.jpg" )}', ['css url=/a.jpg']],
    ["a{background:url('/a(1).jpg')}", ['css url=/a(1).jpg']],
    ['a{background:url(/a\(1\).jpg)}', ['css url=/a(1).jpg']],
    ['a{background:url(/\62 oat.jpg)}', ['css url=/boat.jpg']],
    ['/* url(/no.jpg) */ a{content:"url(/no.jpg)"}', []],
    ['@import "/x.css"; @import url(/y.css);', ['css import=/x.css', 'css import=/y.css']],
    ['a{background:image-set("/a.png" 1x, url(/b.png) 2x)}', ['css image-set=/a.png', 'css image-set=/b.png']],
    ['a{--picture: url(/a.jpg)}', ['css url=/a.jpg']],
    ['a{background:linear-gradient(red, blue), url(/a.jpg)}', ['css url=/a.jpg']],
    ['a{background:url(/a b.jpg)}', []],
    ['a{b:curl(/no.jpg)}', []],
]);

describe('structured text', function (): void {
    it('reads json strings in every escape, with their paths', function (): void {
        $reading = readField(
            '{"a":["\/media\/x.jpg",{"html":"<img src=\"\/media\/\u00e9.jpg\">"}],"n":12,"words":"a \ud83d\ude00 <b>"}',
            Notation::Json,
            new Rules(paths: [new PathRule('n', Notation::MediaId)], mediaFolders: ['/media/']),
        );
        expect(
            array_map(
                static fn (Reference $r): array => [$r->value, $r->context()->path, $r->layerPath()],
                $reading->references,
            ),
        )
            ->toBe([
                ['/media/x.jpg', 'a[0]', 'json>url'],
                ['/media/é.jpg', 'a[1].html', 'json>html'],
                ['12', 'n', 'json>media-id'],
            ])
            ->and($reading->problems)
            ->toBe([])
            ->and($reading->references[2]->names)
            ->toBe(Names::MediaItem);
    });

    it('reports damaged json and keeps what came before', function (string $json, int $references): void {
        $reading = readField($json, Notation::Json);
        expect($reading->problems)->toHaveCount(1)->and($reading->references)->toHaveCount($references);
    })->with([
        ['["/media/a.jpg", ', 1],
        ['{"a":"/media/a.jpg"]', 1],
        ['{"a" "/media/a.jpg"}', 0],
        ['["/media/a.jpg"] x', 1],
        [str_repeat('[', 600), 0],
    ]);

    it('reads serialized text inside serialized text', function (): void {
        $text = serialize([
            'pic' => '/media/a.jpg',
            'in' => serialize(['<img src="/media/ü.jpg">', 'x' => 7]),
            'ids' => [4, 5],
        ]);
        $reading = readField(
            $text,
            Notation::PhpSerialized,
            new Rules(paths: [new PathRule('ids[]', Notation::MediaId)], mediaFolders: ['/media/']),
        );
        expect(array_map(static fn (Reference $r): array => [$r->value, $r->context()->path], $reading->references))
            ->toBe([['/media/a.jpg', 'pic'], ['/media/ü.jpg', 'in[0]'], ['4', 'ids[0]'], ['5', 'ids[1]']])
            ->and($reading->problems)
            ->toBe([]);
    });

    it('never repairs serialized text, but says what is wrong', function (string $text): void {
        expect(readField($text, Notation::PhpSerialized)->problems)->toHaveCount(1);
    })->with(['a:1:{i:0;s:9:"x";}', 'a:2:{i:0;i:1;}', 'a:1:{i:0;s:1:"x";', 's:3:"abcd";', 'x', 'i:1;i:2;']);

    it('does not build objects from content', function (): void {
        $reading = readField('O:8:"stdClass":1:{s:3:"pic";s:12:"/media/a.jpg";}', Notation::PhpSerialized);
        expect($reading->references[0]->value)->toBe('/media/a.jpg');
    });
});

it('reads tokens, ids, keys and addresses', function (): void {
    $rules = new Rules(
        tokens: [
            TokenPattern::of('slot', '%slot:(?<key>[a-z-]+)%', 'slot'),
            TokenPattern::of('picture', '%picture:(?<id>\d+)%', null),
        ],
    );
    expect(found('<p>%slot:top-strip% and %picture:12%</p>', Notation::Html, $rules))
        ->toBe(['token slot=top-strip', 'token picture=12'])
        ->and(found('4, 5;6', Notation::MediaId))
        ->toBe(['media-id=4', 'media-id=5', 'media-id=6'])
        ->and(found(' /media/a b.jpg ', Notation::Url))
        ->toBe(['url=/media/a b.jpg'])
        ->and(found('See https://x.example/a.jpg, or /media/b.pdf.', Notation::Text))
        ->toBe(['text=https://x.example/a.jpg', 'text=/media/b.pdf']);
});

it('gives the place of each reference in bytes of the outermost text', function (): void {
    $text = "é<img src='/ü&amp;.jpg'>";
    $reference = readField($text)->references[0];
    expect(substr($text, $reference->start, $reference->length))
        ->toBe('/ü&amp;.jpg')
        ->and($reference->raw())
        ->toBe('/ü&amp;.jpg')
        ->and($reference->value)
        ->toBe('/ü&.jpg');
});

describe('older encodings', function (): void {
    it('reads text of one byte a character as browsers do, and writes it back so', function (
        string $utf8,
        Notation $notation,
    ): void {
        $rules = new Rules(mediaFolders: ['/media/'], encoding: 'iso-8859-1');
        $text = mb_convert_encoding($utf8, 'Windows-1252', 'UTF-8');
        $references = readField($text, $notation, $rules)->references;
        expect($references[0]->value)
            ->toBe('/media/grüße–1.jpg')
            ->and($references[0]->layerPath())
            ->toStartWith('text');
        $edits = (new Rewriter())->edits($text, $notation, $rules, [[$references[0], '/media/schön.jpg']]);
        expect(mb_convert_encoding($edits->applyTo($text), 'UTF-8', 'Windows-1252'))
            ->toBe(str_replace('grüße–1', 'schön', $utf8))
            ->and((new Rewriter())->edits($text, $notation, $rules, [[$references[0], '/media/水.jpg']])->applyTo($text))
            ->toContain('/media/%E6%B0%B4.jpg');
    })->with([
        ['<p>Æ <img src="/media/grüße–1.jpg"></p>', Notation::Html],
        ['é{a:url(/media/grüße–1.jpg)}', Notation::Css],
        ['[É](/media/grüße–1.jpg)', Notation::Markdown],
    ]);

    it('reads strewn bytes in UTF-8 as what visitors see', function (): void {
        expect(found("<img src=/media/\xE9.jpg><img src=/media/é.jpg>"))->toBe([
            "img[src]=/media/\u{FFFD}.jpg",
            'img[src]=/media/é.jpg',
        ]);
    });

    it('writes a text whose references are all ASCII in the encoding of the site', function (): void {
        $text = "<p>\xE9t\xE9 <img src=/media/a.jpg>";
        $references = readField($text)->references;
        $rules = new Rules(encoding: 'latin1');
        $edits = (new Rewriter())->edits($text, Notation::Html, $rules, [[$references[0], '/media/é.jpg']]);
        expect($edits->applyTo($text))->toBe("<p>\xE9t\xE9 <img src=/media/\xE9.jpg>");
    });

    it('counts bytes as they will stand in serialized text', function (): void {
        $rules = new Rules(mediaFolders: ['/media/'], encoding: 'windows-1252');
        $text = serialize(['a' => "<img src=\"/media/\xE9.jpg\">"]);
        $references = readField($text, Notation::PhpSerialized, $rules)->references;
        $after = (new Rewriter())
            ->edits($text, Notation::PhpSerialized, $rules, [[$references[0], '/media/été.jpg']])
            ->applyTo($text);
        expect(unserialize($after))->toBe(['a' => "<img src=\"/media/\xE9t\xE9.jpg\">"]);
    });

    it('says of bytes that they are no text', function (): void {
        $reading = readField('<img src="'.str_repeat("\xFF\xFE", 200_000).'">');
        expect($reading->references)->toBe([])->and($reading->problems[0]->message)->toContain('no text');
    });
});

it('reads strings with more escapes than one match takes', function (): void {
    $json = '{"a":"'.str_repeat('\\n', 600_000).'<img src=\"\/media\/a.jpg\">","b":"/media/b.jpg"}';
    $reading = readField($json, Notation::Json);
    expect(array_column($reading->references, 'value'))
        ->toBe(['/media/a.jpg', '/media/b.jpg'])
        ->and($reading->problems)
        ->toBe([])
        ->and(substr($json, $reading->references[0]->start, $reading->references[0]->length))
        ->toBe('\/media\/a.jpg');
});

it('decodes the digit zero', function (string $text, Notation $notation): void {
    expect(readField($text, $notation)->references[0]->value)->toBe('/media/0.jpg');
})->with([
    ['["/media/\u0030.jpg"]', Notation::Json],
    ["'/media/\x30.jpg'", Notation::JavaScript],
    ['<loc>/media/&#48;.jpg</loc>', Notation::Xml],
    ['a{b:url(/media/\30 .jpg)}', Notation::Css],
    ['<img src=/media/&#48;.jpg>', Notation::Html],
]);

it('reads what stands behind and inside of templates in scripts', function (string $script, array $values): void {
    expect(array_column(readField($script, Notation::JavaScript)->references, 'value'))->toBe($values);
})->with([
    ["`x \${a} y`; z = '/media/a.jpg'; `w`", ['/media/a.jpg']],
    [
        "`\${f({ b: '/media/a.jpg' })} \${`/media/b.jpg`}` + '/media/c.jpg'",
        ['/media/a.jpg', '/media/b.jpg', '/media/c.jpg'],
    ],
    ["return /'/.test(x) ? '/media/a.jpg' : ''", ['/media/a.jpg']],
    ["<!-- '/media/no.jpg'\n'/media/a.jpg'", ['/media/a.jpg']],
    ["`open \${ '/media/a.jpg'", ['/media/a.jpg']],
]);

it('reports an object that wrote itself in its own way, and reads on', function (): void {
    $reading = readField(
        'a:2:{i:0;C:3:"Foo":23:{x:i:0;s:9:"/media/no";}}i:1;s:12:"/media/a.jpg";}',
        Notation::PhpSerialized,
    );
    expect(array_column($reading->references, 'value'))
        ->toBe(['/media/a.jpg'])
        ->and($reading->problems[0]->message)
        ->toContain('its own way');
});

it('keeps references inside of serialized data pointing where they pointed', function (): void {
    $rules = new Rules(mediaFolders: ['/media/']);
    $shared = (object) ['picture' => '/media/a.jpg'];
    $text = serialize(['first' => $shared, 'again' => $shared, 'n' => 1.5, 'list' => ['/media/b.jpg', INF]]);
    $references = readField($text, Notation::PhpSerialized, $rules)->references;
    expect($text)
        ->toContain('r:2;')
        ->and(array_column($references, 'value'))
        ->toBe(['/media/a.jpg', '/media/b.jpg']);
    $after = unserialize(
        (new Rewriter())
            ->edits($text, Notation::PhpSerialized, $rules, [[$references[0], '/media/much-longer-than-before.jpg']])
            ->applyTo($text),
    );
    expect($after['first'])
        ->toBe($after['again'])
        ->and($after['first']->picture)
        ->toBe('/media/much-longer-than-before.jpg')
        ->and($after['list'])
        ->toBe(['/media/b.jpg', INF]);
});
