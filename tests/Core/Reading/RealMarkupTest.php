<?php

declare(strict_types=1);

use Tests\Core\Growth;
use Ylema\Change\Rewriter;
use Ylema\Reading\CommentRule;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;

/*
 * What real pages hold beyond the usual: each kind with its clause of the standard, and what a browser does with it.
 */

/** @return list<string> role, value and fetching of each reference */
function inReal(string $text, Notation $notation = Notation::Html, ?Rules $rules = null): array
{
    return array_map(
        static fn (Reference $r): string => "$r->role $r->value {$r->fetch->value}",
        (new FieldReader())->read($text, $notation, $rules ?? new Rules(mediaFolders: ['/media/']))->references,
    );
}

it('reads what drawings in markup refer to', function (string $svg, array $found): void {
    expect(inReal("<p><svg>$svg</svg><img src=/after.png>"))->toBe([...$found, 'img[src] /after.png always']);
})->with([
    // HTML 13.2.6.5: the content of style is text with character references, and CDATA sections exist.
    'style' => ['<style>a{fill:url(/a.svg#x)}</style>', ['css url /a.svg#x on-condition']],
    'style with a reference' => ['<style>a{fill:url(/a.svg?b&amp;c)}</style>', ['css url /a.svg?b&c on-condition']],
    'style in a section' => [
        '<style><![CDATA[ a>b{fill:url(/a.svg?b&c)} ]]></style>',
        ['css url /a.svg?b&c on-condition'],
    ],
    'style in a comment' => ['<style><!-- a{fill:url(/a.svg)} --></style>', []],
    'style without end' => ['<style/>', []],
    'paint' => ['<path fill="url(/a.svg#x)">', ['css url /a.svg#x on-condition']],
    'paint of all kinds' => [
        "<g filter='url(/a.svg#f)' mask=url(/b.svg#m) clip-path=\"url('/c.svg#c')\" stroke='url(/d.svg#s)'/>",
        [
            'css url /a.svg#f on-condition',
            'css url /b.svg#m on-condition',
            'css url /c.svg#c on-condition',
            'css url /d.svg#s on-condition',
        ],
    ],
    'marks' => [
        '<path marker="url(/a.svg#m)" marker-start="url(/b.svg#m)" marker-mid="none" marker-end="url(/c.svg#m)"/>',
        ['css url /a.svg#m on-condition', 'css url /b.svg#m on-condition', 'css url /c.svg#m on-condition'],
    ],
    'paint of the drawing' => ['<rect fill="url(#local)"/><rect fill="red"/>', []],
    'script' => ['<script href="/a.js"></script>', ['svg:script[href] /a.js always']],
    'script in the old spelling' => ['<script xlink:href="/a.js"/>', ['svg:script[xlink:href] /a.js always']],
    'what script says' => ['<script>x("/media/a.png")</script>', ['script /media/a.png on-condition']],
    'script in a section' => ['<script><![CDATA[x("/media/a.png")]]></script>', ['script /media/a.png on-condition']],
    'a link in the old spelling' => ['<a xlink:href="/a.pdf">x</a>', ['a[xlink:href] /a.pdf when-followed']],
    'both spellings' => [
        '<image xlink:href="/a.png" href="/b.png"/>',
        ['image[xlink:href] /a.png on-condition', 'image[href] /b.png always'],
    ],
]);

it('takes paint for paint only in a drawing', function (): void {
    expect(inReal('<p fill="url(/a.png)" style="fill:url(/b.png)">'))->toBe(['css url /b.png on-condition']);
});

it('reads what old pages refer to', function (string $html, array $found): void {
    expect(inReal($html))->toBe($found);
})->with([
    'frames' => ['<frameset><frame src="/a.html"></frameset>', ['frame[src] /a.html always']],
    'backgrounds of all parts of a table' => [
        '<table><colgroup background=/1.gif><col background=/2.gif><thead background=/3.gif><tr background=/4.gif>'
            .'<th background=/5.gif><tbody background=/6.gif><tr><td background=/7.gif><tfoot background=/8.gif>'
            .'</table>',
        [
            'colgroup[background] /1.gif on-condition',
            'col[background] /2.gif on-condition',
            'thead[background] /3.gif always',
            'tr[background] /4.gif always',
            'th[background] /5.gif always',
            'tbody[background] /6.gif always',
            'td[background] /7.gif always',
            'tfoot[background] /8.gif always',
        ],
    ],
    'a second body' => [
        '<body background=/a.gif><p><body background=/b.gif>',
        ['body[background] /a.gif always', 'body[background] /b.gif on-condition'],
    ],
    'a picture for slow lines' => [
        '<img lowsrc="/a.gif" src="/b.gif">',
        ['img[lowsrc] /a.gif when-followed', 'img[src] /b.gif always'],
    ],
    'a sound behind the page' => ['<bgsound src="/a.wav">', ['bgsound[src] /a.wav when-followed']],
    'a program' => ['<applet archive="/a.jar" code="A.class">', [
        'applet[archive] /a.jar when-followed',
        'applet[code] A.class when-followed',
    ]],
    'a film of an object' => [
        '<object data=/a.swf><param name="movie" value="/a.swf"><param name="quality" value="high"></object>',
        ['object[data] /a.swf always', 'param[value] /a.swf when-followed'],
    ],
    'an object in an object' => [
        '<object data=/a.swf><object data=/b.mp4><img src=/c.jpg></object></object><object data=/d.pdf></object>',
        [
            'object[data] /a.swf always',
            'object[data] /b.mp4 on-condition',
            'img[src] /c.jpg always',
            'object[data] /d.pdf always',
        ],
    ],
    'a page that leads on' => [
        '<meta http-equiv="Refresh" content="5; URL=\'/next?a&amp;b\'">',
        ['meta[refresh] /next?a&b when-followed'],
    ],
    'leading on without a word' => [
        '<meta http-equiv=refresh content="0,/next">',
        ['meta[refresh] /next when-followed'],
    ],
    'only again' => ['<meta http-equiv=refresh content="30">', []],
]);

it('reads the addresses in event handlers', function (string $html, array $found): void {
    expect(inReal($html))->toBe($found);
})->with([
    'of a picture' => [
        '<img src="/media/a.png" onmouseover="this.src=\'/media/b.png\'" onerror=\'this.src="/media/c.png"\'>',
        ['img[src] /media/a.png always', 'script /media/b.png on-condition', 'script /media/c.png on-condition'],
    ],
    'of a link' => ['<a href="/x" onclick="open(\'/media/a.pdf\')">', [
        'a[href] /x when-followed',
        'script /media/a.pdf on-condition',
    ]],
    'of anything' => ['<p onclick="show(&quot;/media/a.png&quot;)">', ['script /media/a.png on-condition']],
    'in an address' => [
        '<a href="javascript:open(\'/media/a.pdf\')">x</a><a href=javascript:void(0)>y</a>',
        ['script /media/a.pdf on-condition'],
    ],
]);

it('knows where what could be fetched at once is not', function (string $html, array $found): void {
    expect(inReal($html))->toBe($found);
})->with([
    'a source that fits' => [
        '<picture><source srcset=/a.webp><img src=/a.jpg></picture><picture><img src=/b.jpg></picture>',
        ['source[srcset] /a.webp on-condition', 'img[src] /a.jpg on-condition', 'img[src] /b.jpg always'],
    ],
    'markup in a script' => ['<script type="text/html"><img src=/a.jpg></script>', ['img[src] /a.jpg on-condition']],
    'an alternate style sheet' => ['<link rel="alternate stylesheet" href=/a.css>', ['link[href] /a.css on-condition']],
    'a style sheet that is off' => ['<link rel=stylesheet href=/a.css disabled>', ['link[href] /a.css on-condition']],
    'a preload of nothing' => ['<link rel=preload href=/a.jpg>', ['link[href] /a.jpg on-condition']],
    'a preload of another type' => [
        '<link rel=preload as=image type=image/jxl href=/a.jxl>',
        ['link[href] /a.jxl on-condition'],
    ],
    'a preload of a known type' => [
        '<link rel=preload as=image type=image/webp href=/a.webp>',
        ['link[href] /a.webp always'],
    ],
    'a preload beside candidates' => [
        '<link rel=preload as=image href=/a.jpg imagesrcset="/b.jpg 2x">',
        ['link[href] /a.jpg on-condition', 'link[imagesrcset] /b.jpg on-condition'],
    ],
    'a script for old browsers' => ['<script nomodule src=/a.js></script>', ['script[src] /a.js on-condition']],
    'a script that is none' => ['<script type=text/x src=/a.js></script>', ['script[src] /a.js on-condition']],
    'a frame with a document' => [
        '<iframe src=/a.html srcdoc="<img src=/b.jpg>"></iframe>',
        ['iframe[src] /a.html on-condition', 'img[src] /b.jpg always'],
    ],
]);

it('knows which imports a browser follows at once', function (string $css, array $found): void {
    expect(inReal($css, Notation::Css))->toBe($found);
})->with([
    'the first' => ['@charset "utf-8"; @import "/a.css"; @import url(/b.css);', [
        'css import /a.css always',
        'css import /b.css always',
    ]],
    'behind a layer that is only named' => ['@layer a, b; /* x */ @import "/a.css";', ['css import /a.css always']],
    'into a layer' => ['@import "/a.css" layer(base); @import "/b.css" layer;', [
        'css import /a.css always',
        'css import /b.css always',
    ]],
    'behind a rule' => ['a{b:c} @import "/a.css";', ['css import /a.css on-condition']],
    'behind another at-rule' => ['@font-face{} @import "/a.css";', ['css import /a.css on-condition']],
    'for print' => ['@import "/a.css" print;', ['css import /a.css on-condition']],
    'with a query' => ['@import url("/a.css") layer(x) supports(display: grid) (min-width: 30em);', [
        'css import /a.css on-condition',
    ]],
    'a namespace is none' => ['@namespace svg url(http://www.w3.org/2000/svg); a{b:url(/a.png)}', [
        'css url /a.png on-condition',
    ]],
    'of the document itself' => ['a{filter:url(#f); mask:url("#m"); b:url( /a.svg#m )}', [
        'css url /a.svg#m on-condition',
    ]],
]);

it('takes the base of the page from the page', function (string $html, ?string $base): void {
    expect((new FieldReader())->read($html, Notation::Html, new Rules())->base)->toBe($base);
})->with([
    'of the page' => ['<base href="/a/"><base href="/b/">', '/a/'],
    'of a template' => ['<template><base href="/a/"></template><base href="/b/">', '/b/'],
    'of a page without script' => ['<noscript><base href="/a/"></noscript>', null],
    'of a document in a frame' => ['<iframe srcdoc="<base href=/a/>"></iframe><base href="/b/">', '/b/'],
    'of markup in a script' => ['<script type=text/html><base href="/a/"></script>', null],
    'of script' => ['<base href="javascript:x()"><base href="/b/">', null],
    'of data' => ['<base href=" data:text/plain,x">', null],
]);

it('reads a page as a browser that runs scripts does', function (): void {
    // HTML 13.2.6.4.7: noscript is text to it, so that it ends with the first that looks like its end.
    expect(inReal('<noscript><img title="</noscript>" src=/a.jpg><img src=/b.jpg>'))->toBe(['img[src] /b.jpg always']);
    expect(inReal('<noscript><!-- </noscript> --><img src=/b.jpg>'))->toBe(['img[src] /b.jpg always']);
});

it('reads several addresses in one value, each where it stands', function (string $html, array $values): void {
    $references = (new FieldReader())->read($html, Notation::Html, new Rules(mediaFolders: ['/media/']))->references;
    expect(array_map(static fn (Reference $r): string => $r->value, $references))->toBe($values);
    foreach ($references as $reference) {
        $after = (new Rewriter())->edits(
            $html,
            Notation::Html,
            new Rules(mediaFolders: ['/media/']),
            [[$reference, '/media/new.jpg']],
        )->applyTo($html);
        expect(substr_count($after, 'new.jpg'))->toBe(1);
    }
})->with([
    'by commas' => ['<img data-src="/media/a.jpg, /media/b.jpg,/media/c.jpg">', [
        '/media/a.jpg',
        '/media/b.jpg',
        '/media/c.jpg',
    ]],
    'by bars' => ['<div data-bg="/media/a.jpg|/media/b.jpg"></div>', ['/media/a.jpg', '/media/b.jpg']],
    'candidates' => ['<img data-src="/media/a.jpg 1x, /media/b.jpg 2x">', ['/media/a.jpg', '/media/b.jpg']],
    'style' => ['<div data-bg="url(/media/a.jpg)"></div>', ['/media/a.jpg']],
    'json' => [
        '<div data-image="{&quot;a&quot;:&quot;/media/a.jpg&quot;,&quot;b&quot;:&quot;\/media\/b.jpg&quot;}"></div>',
        ['/media/a.jpg', '/media/b.jpg'],
    ],
    'one with a comma in it' => ['<img data-src="/media/a,b.jpg">', ['/media/a,b.jpg']],
    'one with a bar in it' => ['<img data-src="/img?x=a|b">', ['/img?x=a|b']],
]);

it('knows what is named in plain words, and fetched by nobody', function (string $html, array $found): void {
    $rules = new Rules(mediaFolders: ['/media/']);
    expect(array_values(array_filter(inReal($html, rules: $rules), static fn ($r): bool => str_contains($r, 'named'))))
        ->toBe($found);
})->with([
    'between tags' => ['<p>See /media/a.jpg.</p>', ['named in text /media/a.jpg never']],
    'with its host' => [
        '<p>(https://x.example/media/a.jpg)</p>',
        ['named in text https://x.example/media/a.jpg never'],
    ],
    'behind a tag that is not whole' => ['<p>x<a "/media/a.jpg', []],
    'behind a comment that is not whole' => ['<p>x<!-- /media/a.jpg', []],
    'beside a reference to it' => [
        '<img src="/media/a.jpg"> <code>/media/a.jpg</code>',
        ['named in text /media/a.jpg never'],
    ],
    'beside a reference that is written with escapes' => [
        '<img src="/med&#105;a/b.jpg"> <code>/media/a.jpg</code>',
        ['named in text /media/a.jpg never'],
    ],
    'in an attribute that means nothing' => ['<p title="/media/a.jpg" data-x="/media/b.jpg">x</p>', []],
    'in a comment' => ['<!-- /media/a.jpg -->', []],
    'in a script' => ['<script>// /media/a.jpg</script>', []],
    'in markup that is written out' => [
        '<code>&lt;img src="/media/a.jpg"&gt;</code> &lt;a href=&quot;/media/b.jpg&quot;&gt; src=/media/c.jpg '
            .'background: url(/media/d.jpg)',
        [],
    ],
    'in another path' => ['<p>/other/media/a.jpg x/media/b.jpg</p>', []],
    'nowhere' => ['<img src="/media/a.jpg"><p>media</p>', []],
]);

it('looks for words and comments in damaged markup in a time that grows with its length', function (
    string $piece,
): void {
    $rules = new Rules(mediaFolders: ['/media/'], comments: [new CommentRule('(?<text>\{.*\})', Notation::Json)]);
    $read = static function (int $times) use ($piece, $rules): Closure {
        $text = '/media/a.jpg '.str_repeat($piece, $times);

        return static fn () => (new FieldReader())->read($text, Notation::Html, $rules);
    };
    // Four times the length would take sixteen times as long, were each piece looked at again from each other one.
    expect(Growth::ratio($read, 20_000, 80_000, 12.0))->toBeLessThan(12.0);
})->with(['<a ', '<a b="', '<!--', '<script>', '<template ', '</a ', '<!x ']);

it('says which references a late base came too late for', function (): void {
    $html = '<img src=a.png><a href=b.html>x</a><p style="background:url(c.png)"><base href="/d/"><img src=e.png>';
    $reading = (new FieldReader())->read($html, Notation::Html, new Rules());
    expect(array_map($reading->isBeforeBase(...), $reading->references))->toBe([true, false, false, false]);
});
