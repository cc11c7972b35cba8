<?php

declare(strict_types=1);

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
    return (new FieldReader)->read($text, $notation, $rules ?? new Rules(mediaFolders: ['/media/']));
}

/** @return list<string> `role=value` */
function found(string $text, Notation $notation = Notation::Html, ?Rules $rules = null): array
{
    return array_map(static fn (Reference $r): string => "{$r->role}={$r->value}", readField($text, $notation, $rules)->references);
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
        'scripts hide what is no string of theirs' => ['<script>if (a <img src=/no.jpg>) b</script><img src="/a.jpg">', ['img[src]=/a.jpg']],
        'a script ends only at its own end tag' => ['<script></scripty><img src=/no.jpg></script><img src="/a.jpg">', ['img[src]=/a.jpg']],
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
        'media elements' => ['<video src=/v.mp4 poster=/p.jpg><track src=/t.vtt></video><audio src=/a.mp3></audio>', ['video[src]=/v.mp4', 'video[poster]=/p.jpg', 'track[src]=/t.vtt', 'audio[src]=/a.mp3']],
        'icons but not canonical links' => ['<link rel="shortcut icon" href="/i.png"><link rel=canonical href=/x>', ['link[href]=/i.png']],
        'share pictures but not descriptions' => ['<meta property="og:image" content="/s.jpg"><meta name=description content="/no.jpg">', ['meta[content]=/s.jpg']],
        'input only as a picture' => ['<input type=image src=/i.png><input type=text src=/no.png>', ['input[src]=/i.png']],
        'drawings' => ['<svg><image href="/a.png"/><use xlink:href="/s.svg#x"/></svg>', ['image[href]=/a.png', 'use[xlink:href]=/s.svg#x']],
        'lazy loading' => ['<img data-src="/a.jpg" src="data:,">', ['img[data-src]=/a.jpg', 'img[src]=data:,']],
        'json-ld' => ['<script type="application/ld+json">{"image":"https://x.example/a.jpg"}</script>', ['json-ld=https://x.example/a.jpg']],
        'NUL and CRLF' => ["<img\r\nsrc=\"/a\0b.jpg\">", ["img[src]=/a\u{FFFD}b.jpg"]],
    ]);

    it('keeps the context of a place', function (): void {
        $html = "<h2>Tides &amp; <em>boats</em></h2>\n<figure><a href='/large'><img src=/a.jpg class=\"align-left\" width=300 alt='A boat'></a><figcaption>In <b>April</b></figcaption></figure><img src=/b.jpg>";
        [, $a, $b] = readField($html)->references;
        expect($a->context())->toMatchObject(['line' => 2, 'element' => 'img', 'link' => '/large', 'caption' => 'In April', 'heading' => 'Tides & boats'])
            ->and($a->context()->attributes)->toMatchArray(['class' => 'align-left', 'width' => '300', 'alt' => 'A boat'])
            ->and($b->context()->caption)->toBeNull()->and($b->context()->link)->toBeNull();
    });

    it('says whether a browser fetches it', function (string $html, string $fetch): void {
        expect(readField($html)->references[0]->fetch->value)->toBe($fetch);
    })->with([
        ['<img src=/a.jpg>', 'always'], ['<img loading=lazy src=/a.jpg>', 'on-condition'], ['<template><img src=/a.jpg></template>', 'on-condition'],
        ['<a href=/a.pdf>', 'when-followed'], ['<img srcset="/a.jpg 2x">', 'on-condition'], ['<link rel=stylesheet media=print href=/p.css>', 'on-condition'],
    ]);
});

it('reads candidate lists by the steps of the standard', function (string $list, array $urls): void {
    expect(array_map(static fn (Reference $r): string => $r->value, readField($list, Notation::Srcset)->references))->toBe($urls);
})->with([
    ['/a.jpg', ['/a.jpg']], ['/a.jpg,', ['/a.jpg']], [',,/a.jpg 2x', ['/a.jpg']], ['/a,b.jpg 1x, /c.jpg', ['/a,b.jpg', '/c.jpg']],
    ['/a.jpg 100w, /b.jpg 200w', ['/a.jpg', '/b.jpg']], ['/a.jpg 1x 2x, /b.jpg', ['/b.jpg']], ['/a.jpg 0w', []], ['/a.jpg -1x', []], ['/a.jpg 50h', []],
    ['/a.jpg 100w 50h', ['/a.jpg']], ['/a.jpg f(x, y), /b.jpg', ['/b.jpg']], ['data:,x 1x, /b.jpg 2x', ['data:,x', '/b.jpg']], ['', []], [' , ', []],
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
        $reading = readField('{"a":["\/media\/x.jpg",{"html":"<img src=\"\/media\/\u00e9.jpg\">"}],"n":12,"words":"a \ud83d\ude00 <b>"}', Notation::Json, new Rules(paths: [new PathRule('n', Notation::MediaId)], mediaFolders: ['/media/']));
        expect(array_map(static fn (Reference $r): array => [$r->value, $r->context()->path, $r->layerPath()], $reading->references))->toBe([
            ['/media/x.jpg', 'a[0]', 'json>url'], ['/media/é.jpg', 'a[1].html', 'json>html'], ['12', 'n', 'json>media-id'],
        ])->and($reading->problems)->toBe([])->and($reading->references[2]->names)->toBe(Names::MediaItem);
    });

    it('reports damaged json and keeps what came before', function (string $json, int $references): void {
        $reading = readField($json, Notation::Json);
        expect($reading->problems)->toHaveCount(1)->and($reading->references)->toHaveCount($references);
    })->with([['["/media/a.jpg", ', 1], ['{"a":"/media/a.jpg"]', 1], ['{"a" "/media/a.jpg"}', 0], ['["/media/a.jpg"] x', 1], [str_repeat('[', 600), 0]]);

    it('reads serialized text inside serialized text', function (): void {
        $text = serialize(['pic' => '/media/a.jpg', 'in' => serialize(['<img src="/media/ü.jpg">', 'x' => 7]), 'ids' => [4, 5]]);
        $reading = readField($text, Notation::PhpSerialized, new Rules(paths: [new PathRule('ids[]', Notation::MediaId)], mediaFolders: ['/media/']));
        expect(array_map(static fn (Reference $r): array => [$r->value, $r->context()->path], $reading->references))
            ->toBe([['/media/a.jpg', 'pic'], ['/media/ü.jpg', 'in[0]'], ['4', 'ids[0]'], ['5', 'ids[1]']])->and($reading->problems)->toBe([]);
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
    $rules = new Rules(tokens: [TokenPattern::of('slot', '%slot:(?<key>[a-z-]+)%', 'slot'), TokenPattern::of('picture', '%picture:(?<id>\d+)%', null)]);
    expect(found('<p>%slot:top-strip% and %picture:12%</p>', Notation::Html, $rules))->toBe(['token slot=top-strip', 'token picture=12'])
        ->and(found('4, 5;6', Notation::MediaId))->toBe(['media-id=4', 'media-id=5', 'media-id=6'])
        ->and(found(' /media/a b.jpg ', Notation::Url))->toBe(['url=/media/a b.jpg'])
        ->and(found('See https://x.example/a.jpg, or /media/b.pdf.', Notation::Text))->toBe(['text=https://x.example/a.jpg', 'text=/media/b.pdf']);
});

it('gives the place of each reference in bytes of the outermost text', function (): void {
    $text = "é<img src='/ü&amp;.jpg'>";
    $reference = readField($text)->references[0];
    expect(substr($text, $reference->start, $reference->length))->toBe('/ü&amp;.jpg')->and($reference->raw())->toBe('/ü&amp;.jpg')->and($reference->value)->toBe('/ü&.jpg');
});
