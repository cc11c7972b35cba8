<?php

declare(strict_types=1);

use Ylema\Reading\ElementRule;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Readers\Markdown\Brackets;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;

/** @return list<string> `role=value` */
function inText(string $text, Notation $notation): array
{
    return array_map(
        static fn (Reference $r): string => "{$r->role}={$r->value}",
        (new FieldReader())->read($text, $notation, new Rules(mediaFolders: ['/media/']))->references,
    );
}

it('reads strings of scripts', function (string $script, array $found): void {
    expect(inText($script, Notation::JavaScript))->toBe($found);
})->with([
    'in double quotes' => ['a = "/media/a.jpg"', ['script=/media/a.jpg']],
    'in single quotes' => ["a = '/media/a.jpg'", ['script=/media/a.jpg']],
    'in backticks' => ['a = `/media/a.jpg`', ['script=/media/a.jpg']],
    'whole addresses' => ['a = "https://x.example/a.jpg"', ['script=https://x.example/a.jpg']],
    'without a scheme' => ['a = "//x.example/a.jpg"', ['script=//x.example/a.jpg']],
    'words are none' => ['a = "Tides and boats"', []],
    'a path elsewhere is none' => ['a = "/visit"', []],
    'the property of an object' => ['x = { "src": "/media/a.jpg" }', ['script=/media/a.jpg']],
    'escaped slashes' => ['a = "\/media\/a.jpg"', ['script=/media/a.jpg']],
    'an escaped code point' => ['a = "/media/\u00fc.jpg"', ['script=/media/ü.jpg']],
    'an escaped code point in braces' => ['a = "/media/\u{1F600}.jpg"', ['script=/media/😀.jpg']],
    'an escaped pair' => ['a = "/media/\uD83D\uDE00.jpg"', ['script=/media/😀.jpg']],
    'an escaped byte' => ['a = "/media/\x61.jpg"', ['script=/media/a.jpg']],
    'an escape that stands for itself' => ['a = "/media/\a.jpg"', ['script=/media/a.jpg']],
    'a line that goes on' => ["a = \"/media/\\\na.jpg\"", ['script=/media/a.jpg']],
    'markup' => ['a = "<img src=\"/media/a.jpg\">"', ['img[src]=/media/a.jpg']],
    'markup in backticks over lines' => ["a = `<p>\n<img src=/media/a.jpg>`", ['img[src]=/media/a.jpg']],
    'a comment of one line' => ["// '/media/no.jpg'\n'/media/a.jpg'", ['script=/media/a.jpg']],
    'a comment of many lines' => ["/* '/media/no.jpg'\n*/ '/media/a.jpg'", ['script=/media/a.jpg']],
    'a comment as html writes it' => ["<!-- '/media/no.jpg'\n'/media/a.jpg'", ['script=/media/a.jpg']],
    'a comment without end' => ["'/media/a.jpg' /* '/media/no.jpg'", ['script=/media/a.jpg']],
    'a comment in a string is none' => ["'// x', '/media/a.jpg'", ['script=/media/a.jpg']],
    'a quote in a regular expression' => ["x = /'/; y = '/media/a.jpg'", ['script=/media/a.jpg']],
    'a slash in a class of a regular expression' => ["x = /[/']/; y = '/media/a.jpg'", ['script=/media/a.jpg']],
    'a regular expression as an argument' => ["f(/\"/, '/media/a.jpg')", ['script=/media/a.jpg']],
    'a division' => ["x = a / b; y = '/media/a.jpg' / 2", ['script=/media/a.jpg']],
    'a string that its line ends' => ["x = '/media/no.jpg\ny = '/media/a.jpg'", ['script=/media/a.jpg']],
    'a template with a substitution' => ['x = `/media/${a}.jpg`, "/media/a.jpg"', ['script=/media/a.jpg']],
    'a string in a substitution' => ['x = `${ "/media/a.jpg" }`', ['script=/media/a.jpg']],
    'an object in a substitution' => ['x = `${ f({ a: 1 }) } and`, "/media/a.jpg"', ['script=/media/a.jpg']],
    'a template in a substitution' => ['x = `${ `/media/a.jpg` }`', ['script=/media/a.jpg']],
    'a template without end' => ['"/media/a.jpg"; `/media/no.jpg', ['script=/media/a.jpg']],
    'braces that close nothing' => ['} } "/media/a.jpg"', ['script=/media/a.jpg']],
]);

it('ends an address in plain text where the next begins, or with its sentence', function (
    string $text,
    array $found,
): void {
    expect(inText($text, Notation::Text))->toBe($found);
})->with([
    'with a full stop' => ['See /media/a.jpg.', ['text=/media/a.jpg']],
    'with signs of its own' => ['See /media/c++ and on', ['text=/media/c++']],
    'with signs between' => ['/media/a.jpg+/media/b.jpg', ['text=/media/a.jpg', 'text=/media/b.jpg']],
    'with several signs between' => ['/media/a.jpg##/media/b.jpg', ['text=/media/a.jpg', 'text=/media/b.jpg']],
    'a folder alone' => ['in /media/, and /media/.', []],
]);

it('reads xml', function (string $xml, array $found): void {
    expect(inText($xml, Notation::Xml))->toBe($found);
})->with([
    'an enclosure' => ['<enclosure url="/media/a.mp3" length="9"/>', ['enclosure[url]=/media/a.mp3']],
    'an enclosure in single quotes' => ["<enclosure url='/media/a.mp3'/>", ['enclosure[url]=/media/a.mp3']],
    'a link of Atom' => [
        '<link rel="enclosure" href="https://x.example/a.mp3"/>',
        ['link[href]=https://x.example/a.mp3'],
    ],
    'a link of RSS' => ['<link>https://x.example/</link>', ['link=https://x.example/']],
    'a logo and an icon' => [
        '<icon>/media/a.png</icon><logo>/media/b.png</logo>',
        ['icon=/media/a.png', 'logo=/media/b.png'],
    ],
    'a picture of a channel' => ['<image><url>/media/a.png</url></image>', ['url=/media/a.png']],
    'a sitemap' => ['<url><loc>https://x.example/a</loc></url>', ['loc=https://x.example/a']],
    'a sitemap of pictures' => [
        '<image:image><image:loc>/media/a.jpg</image:loc></image:image>',
        ['image:loc=/media/a.jpg'],
    ],
    'a sitemap of videos' => [
        '<video:thumbnail_loc>/media/a.jpg</video:thumbnail_loc>',
        ['video:thumbnail_loc=/media/a.jpg'],
    ],
    'white space around' => ["<loc>\n  /media/a.jpg\n</loc>", ['loc=/media/a.jpg']],
    'predefined entities' => ['<loc>/media/a&amp;b&apos;.jpg</loc>', ["loc=/media/a&b'.jpg"]],
    'character references' => ['<loc>/media/&#252;&#xFC;.jpg</loc>', ['loc=/media/üü.jpg']],
    'entities of its own stay' => ['<loc>/media/&own;.jpg</loc>', ['loc=/media/&own;.jpg']],
    'a bare ampersand stays' => ['<loc>/media/a&b.jpg</loc>', ['loc=/media/a&b.jpg']],
    'markup in a section' => ['<d><![CDATA[<img src="/media/a&amp;b.jpg">]]></d>', ['img[src]=/media/a&b.jpg']],
    'an address in a section' => ['<loc><![CDATA[/media/a&b.jpg]]></loc>', ['loc=/media/a&b.jpg']],
    'escaped markup' => ['<d>&lt;img src="/media/a&amp;amp;b.jpg"&gt;</d>', ['img[src]=/media/a&b.jpg']],
    'words' => ['<title>Tides &amp; boats</title>', []],
    'a comment' => ['<!-- <loc>/media/no.jpg</loc> --><loc>/media/a.jpg</loc>', ['loc=/media/a.jpg']],
    'a processing instruction' => ['<?php "<loc>/media/no.jpg</loc>" ?><loc>/media/a.jpg</loc>', ['loc=/media/a.jpg']],
    'a style sheet' => ['<?xml-stylesheet href="/media/a.css"?>', ['xml-stylesheet[href]=/media/a.css']],
    'a document type' => ['<!DOCTYPE rss><loc>/media/a.jpg</loc>', ['loc=/media/a.jpg']],
    'a drawing' => [
        '<svg><image href="/media/a.png"/><use xlink:href="/media/b.svg#c"/></svg>',
        ['image[href]=/media/a.png', 'use[xlink:href]=/media/b.svg#c'],
    ],
    'style in a drawing' => ['<svg><style>a{b:url(/media/a.png)}</style></svg>', ['css url=/media/a.png']],
    'style in a section' => ['<svg><style><![CDATA[a{b:url(/media/a.png)}]]></style></svg>', ['css url=/media/a.png']],
    'style at an element' => ['<svg><rect style="fill:url(/media/a.svg)"/></svg>', ['css url=/media/a.svg']],
    'a fragment' => ['<svg><use href="#a"/></svg>', []],
    'an empty element' => ['<loc/><loc></loc><loc>/media/a.jpg</loc>', ['loc=/media/a.jpg']],
]);

it('reads xml by its vocabularies', function (string $xml, array $found): void {
    $rules = new Rules(mediaFolders: ['/media/'], elements: [
        'imagedata' => ['fileref' => new ElementRule(Notation::Url, 'picture')],
        'n:plate' => ['file' => new ElementRule(Notation::MediaId)],
    ]);
    $references = (new FieldReader())->read($xml, Notation::Xml, $rules)->references;
    expect(array_map(static fn (Reference $r): string => "{$r->role} {$r->value} {$r->fetch->value}", $references))
        ->toBe($found);
})->with([
    'another prefix for links' => [
        '<svg xmlns:l="http://www.w3.org/1999/xlink"><image l:href="a.png"/></svg>',
        ['image[xlink:href] a.png always'],
    ],
    'a prefix that is bound further in' => [
        '<a><b xmlns:l=\'http://www.w3.org/1999/xlink\'><use l:href="a.svg"/></b><use l:href="no.svg"/></a>',
        ['use[xlink:href] a.svg always'],
    ],
    'a prefix that is bound at an empty element' => [
        '<a><use xmlns:l="http://www.w3.org/1999/xlink" l:href="a.svg"/><use l:href="no.svg"/></a>',
        ['use[xlink:href] a.svg always'],
    ],
    'a prefix of another vocabulary' => ['<a xmlns:xlink="urn:x"><use xlink:href="no.svg"/></a>', []],
    'both spellings' => ['<image href="a.png" xlink:href="b.png"/>', [
        'image[href] a.png always',
        'image[xlink:href] b.png on-condition',
    ]],
    'paint' => ['<g fill="url(a.svg#b)" stroke="red" mask="url(#c)"/>', ['css url a.svg#b on-condition']],
    'a script in a drawing' => [

        '<svg xmlns="http://www.w3.org/2000/svg"><script href="a.js">b("/media/c.png")</script>'
            .'<g onclick="d(\'/media/e.png\')"/></svg>',
        ['script[href] a.js always', 'script /media/c.png on-condition', 'script /media/e.png on-condition'],
    ],
    'candidates and backgrounds' => ['<p srcset="a.png 1x, b.png 2x" background="c.png"/>', [
        'p[srcset] a.png on-condition',
        'p[srcset] b.png on-condition',
        'p[background] c.png when-followed',
    ]],
    'a page' => [
        '<html xmlns="http://www.w3.org/1999/xhtml"><link>no</link><link rel="icon" href="a.ico"/>'
            .'<td background="b.gif"/>'
            .'<input src="no.png"/><p onclick="x(\'/media/c.png\')" data-d="/media/d.png"/></html>',
        [
            'link[href] a.ico always',
            'td[background] b.gif always',
            'script /media/c.png on-condition',
            'p[data-d] /media/d.png on-condition',
        ],
    ],
    'a page that does not say so' => ['<html><link>no</link><img src="a.png"/></html>', ['img[src] a.png always']],
    'a page in a feed' => [
        '<feed xmlns="http://www.w3.org/2005/Atom" xmlns:h="http://www.w3.org/1999/xhtml"><h:img srcset="a.png 2x"/>'
            .'<h:link>no</h:link><link>b</link></feed>',
        ['h:img[srcset] a.png on-condition', 'link b when-followed'],
    ],
    'by the field map' => ['<imagedata fileref="pix/a.png"/><d:imagedata fileref="b.png"/>', [
        'picture pix/a.png on-condition',
        'picture b.png on-condition',
    ]],
    'an id by the field map' => ['<n:plate file="12"/>', ['n:plate[file] 12 by-site']],
    'what nobody says' => ['<plate file="/media/a.jpg" note="see /media/b.jpg"/><plate file="a.jpg"/>', [
        'plate[file] /media/a.jpg on-condition',
        'plate[note] /media/b.jpg when-followed',
    ]],
    'names of vocabularies' => ['<a xmlns="http://x.example/media/a.jpg" xmlns:b="http://x.example/b.png"/>', []],
]);

it('says where xml is damaged, and keeps what came before', function (): void {
    $reading = (new FieldReader())->read("<loc>/media/a.jpg</loc>\n\n<loc x=\"", Notation::Xml, new Rules());
    expect($reading->references)
        ->toHaveCount(1)
        ->and($reading->problems[0]->offset)
        ->toBe(25)
        ->and($reading->problems[0]->line)
        ->toBe(3)
        ->and($reading->problems[0]->message)
        ->toContain('damaged here');
});

it('finds addresses in plain text', function (string $text, array $found): void {
    expect(inText($text, Notation::Text))->toBe($found);
})->with([
    'whole' => ['see https://x.example/a.jpg for it', ['text=https://x.example/a.jpg']],
    'at the end of a sentence' => ['See https://x.example/a.jpg.', ['text=https://x.example/a.jpg']],
    'in parentheses' => ['(https://x.example/a.jpg)', ['text=https://x.example/a.jpg']],
    'in quotes' => ['"https://x.example/a.jpg"', ['text=https://x.example/a.jpg']],
    'with a query' => ['https://x.example/a.jpg?b=1&c=2, or', ['text=https://x.example/a.jpg?b=1&c=2']],
    'in a folder of the site' => ['see /media/a.jpg', ['text=/media/a.jpg']],
    'in a folder of the site, in the middle of a path' => ['see other/media/no.jpg', []],
    'two' => ["/media/a.jpg\n/media/b.jpg", ['text=/media/a.jpg', 'text=/media/b.jpg']],
    'a path elsewhere' => ['/visit/us', []],
    'nothing' => ['words', []],
]);

it('reads a field that is an address, or a list of them', function (string $text, array $found): void {
    expect(inText($text, Notation::Url))->toBe($found);
})->with([
    'one' => ['/a.jpg', ['url=/a.jpg']],
    'with white space around' => [" /a.jpg\n", ['url=/a.jpg']],
    'with a space inside' => ['/a b.jpg', ['url=/a b.jpg']],
    'one a line' => ["/a.jpg\n/b.jpg\r\n/c.jpg", ['url=/a.jpg', 'url=/b.jpg', 'url=/c.jpg']],
    'none' => ['', []],
    'nothing but white space' => [" \n ", []],
]);

it('reads Markdown', function (string $text, array $found): void {
    expect(inText($text, Notation::Markdown))->toBe($found);
})->with([
    'a picture' => ['![x](/a.jpg)', ['image=/a.jpg']],
    'a picture with a title' => ["![x](/a.jpg 'At sea')", ['image=/a.jpg']],
    'a link' => ['[x](/a.pdf)', ['link=/a.pdf']],
    'a picture in a link' => ['[![x](/a.jpg)](/b.pdf)', ['image=/a.jpg', 'link=/b.pdf']],
    'a link in the words of a picture is only words' => ['![x [y](/no.pdf)](/a.jpg)', ['image=/a.jpg']],
    'a link around a link is none' => ['[x [y](/a.pdf)](/no.pdf)', ['link=/a.pdf']],
    'in angle brackets' => ['![x](</a b.jpg>)', ['image=/a b.jpg']],
    'with parentheses' => ['![x](/a(b(c)).jpg)', ['image=/a(b(c)).jpg']],
    'with escaped parentheses' => ['![x](/a\(.jpg)', ['image=/a(.jpg']],
    'with an entity' => ['![x](/a&amp;b.jpg)', ['image=/a&b.jpg']],
    'with a space it is none' => ['![x](/no one.jpg)', []],
    'escaped' => ['\![x](/a.pdf) and !\[x](/no.jpg)', ['link=/a.pdf']],
    'a definition' => ["![x][y]\n\n[y]: /a.jpg", ['reference definition=/a.jpg']],
    'a definition in a quote' => ['> [y]: /a.jpg', ['reference definition=/a.jpg']],
    'a definition with a title' => ['[y]: /a.jpg "At sea"', ['reference definition=/a.jpg']],
    'a definition with more is none' => ['[y]: /no.jpg "At sea" and more', []],
    'a footnote is none' => ['[^y]: /no.jpg', []],
    'an autolink' => ['<https://x.example/a.jpg>', ['autolink=https://x.example/a.jpg']],
    'an autolink of a mailbox' => ['<mailto:a@x.example> <a@x.example>', []],
    'code' => ['`![x](/no.jpg)` ![x](/a.jpg)', ['image=/a.jpg']],
    'code with more backticks' => ['`` ` ![x](/no.jpg) `` ![x](/a.jpg)', ['image=/a.jpg']],
    'a backtick alone is none' => ['` ![x](/a.jpg)', ['image=/a.jpg']],
    'a block of code' => ["```\n![x](/no.jpg)\n```\n![x](/a.jpg)", ['image=/a.jpg']],
    'a block of code without end' => ["![x](/a.jpg)\n\n~~~\n![x](/no.jpg)", ['image=/a.jpg']],
    'indented code' => ["x\n\n    ![x](/no.jpg)\n\n![x](/a.jpg)", ['image=/a.jpg']],
    'markup' => ['<img src="/a.jpg">', ['img[src]=/a.jpg']],
    'markup in a block' => ["<div>\n![x](/no.jpg)\n<img src=/a.jpg>\n</div>", ['img[src]=/a.jpg']],
    'Markdown behind a block of markup' => ["<div>\n</div>\n\n![x](/a.jpg)", ['image=/a.jpg']],
    'a comment in a line' => ['x <!-- ![x](/no.jpg) --> ![x](/a.jpg)', ['image=/a.jpg']],
    'a line that begins with a comment is markup' => ["<!-- x --> ![x](/no.jpg)\n![x](/a.jpg)", ['image=/a.jpg']],
    'markup binds tighter than a link' => ['[x <b title="](/no.pdf)">', []],
]);

it('pairs brackets', function (string $text, array $pairs): void {
    $brackets = new Brackets($text);
    foreach ($pairs as $close => $open) {
        expect($brackets->opening($close))->toBe($open);
    }
})->with([
    'two' => ['[a]', [2 => 0]],
    'in each other' => ['[a[b]]', [4 => 2, 5 => 0]],
    'one after the other' => ['[a][b]', [2 => 0, 5 => 3]],
    'only the outer one asked for' => ['[a[b]]', [5 => 0]],
    'one too many' => ['[a]]', [2 => 0, 3 => null]],
    'none open' => ['a]', [1 => null]],
    'an escaped one that opens' => ['\[a]', [3 => null]],
    'an escaped one that closes' => ['[a\]]', [3 => null, 4 => 0]],
]);

it('says of a text that is broken a thousand times no more than anybody reads', function (): void {
    $text = str_repeat("<script type=\"application/json\">{\"a\": \"/media/a.jpg\", [</script>\n", 1000);
    $problems = (new FieldReader())->read($text, Notation::Html, new Rules())->problems;
    expect($problems)
        ->toHaveCount(26)
        ->and($problems[24]->line)
        ->toBe(25)
        ->and($problems[25]->message)
        ->toContain('more from here on');
});
