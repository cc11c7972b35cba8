<?php

declare(strict_types=1);

use Ylema\Change\Rewriter;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;

/** @return list<string> */
function rolesAndValues(string $text, Notation $notation): array
{
    return array_map(
        static fn (Reference $r): string => "{$r->role}={$r->value}",
        (new FieldReader())->read($text, $notation, new Rules(mediaFolders: ['/media/']))->references,
    );
}

function rewritten(string $text, Notation $notation, string $value): string
{
    $rules = new Rules(mediaFolders: ['/media/']);
    $references = (new FieldReader())->read($text, $notation, $rules)->references;

    return (new Rewriter())->edits($text, $notation, $rules, [[$references[0], $value]])->applyTo($text);
}

it('reads Markdown as CommonMark does', function (string $text, array $found): void {
    expect(rolesAndValues($text, Notation::Markdown))->toBe($found);
})->with([
    ['![A boat](/media/a.jpg)', ['image=/media/a.jpg']],
    ['![A boat](/media/a.jpg "At sea")', ['image=/media/a.jpg']],
    ['![A](</media/a b.jpg>)', ['image=/media/a b.jpg']],
    ['![A](/media/a(1).jpg)', ['image=/media/a(1).jpg']],
    ['![A](/media/a\(1.jpg)', ['image=/media/a(1.jpg']],
    ['![A](/media/a&amp;b.jpg)', ['image=/media/a&b.jpg']],
    ['[![in](/media/a.jpg)](/media/b.pdf)', ['image=/media/a.jpg', 'link=/media/b.pdf']],
    ["![A][boat]\n\n[boat]: /media/a.jpg 'x'", ['reference definition=/media/a.jpg']],
    [
        '<img src="/media/a.jpg"> and <https://x.example/a.jpg>',
        ['img[src]=/media/a.jpg', 'autolink=https://x.example/a.jpg'],
    ],
    ['`![no](/media/no.jpg)` ![A](/media/a.jpg)', ['image=/media/a.jpg']],
    ["```\n![no](/media/no.jpg)\n<img src=/media/no.jpg>\n```\n![A](/media/a.jpg)", ['image=/media/a.jpg']],
    ["text\n\n    ![no](/media/no.jpg)\n\n![A](/media/a.jpg)", ['image=/media/a.jpg']],
    [
        "---\ntitle: A boat\ncover: /media/c.jpg\nthumb: \"/media/t.jpg\"\n---\n![A](/media/a.jpg)",
        ['url=/media/c.jpg', 'url=/media/t.jpg', 'image=/media/a.jpg'],
    ],
    ['no ](/media/no.jpg) here', []],
    ['<img src="/media/a\_b.jpg"> \<img src=/media/no.jpg>', ['img[src]=/media/a\_b.jpg']],
]);

it('reads feeds, sitemaps and drawings', function (string $xml, array $found): void {
    expect(rolesAndValues($xml, Notation::Xml))->toBe($found);
})->with([
    [
        '<enclosure url="https://x.example/a.mp3?a=1&amp;b=2" type="audio/mpeg"/>',
        ['enclosure[url]=https://x.example/a.mp3?a=1&b=2'],
    ],
    ['<content:encoded><![CDATA[<p><img src="/media/a.jpg"></p>]]></content:encoded>', ['img[src]=/media/a.jpg']],
    ['<description>&lt;img src="/media/a.jpg"&gt;</description>', ['img[src]=/media/a.jpg']],
    [
        '<url><loc>https://x.example/</loc><image:image><image:loc> https://x.example/a.jpg '
            .'</image:loc></image:image></url>',
        ['loc=https://x.example/', 'image:loc=https://x.example/a.jpg'],
    ],
    [
        '<svg><image href="/media/a.png"/><use xlink:href=\'#x\'/><rect style="fill:url(/media/p.svg)"/></svg>',
        ['image[href]=/media/a.png', 'css url=/media/p.svg'],
    ],
    ['<!-- <enclosure url="/media/no.mp3"/> --><a/>', []],
]);

it('reads the strings of scripts, not their comments and expressions', function (string $script, array $found): void {
    expect(rolesAndValues($script, Notation::JavaScript))->toBe($found);
})->with([
    ['const a = "/media/a.jpg"; // "/media/no.jpg"', ['script=/media/a.jpg']],
    ["x('\\/media\\/a.jpg', `/media/b.jpg`)", ['script=/media/a.jpg', 'script=/media/b.jpg']],
    ['/* "/media/no.jpg" */ y = "\x3cimg src=\'/media/a.jpg\'>"', ['img[src]=/media/a.jpg']],
    ['const r = /"\/media\/no.jpg"/; z = "/media/a.jpg"', ['script=/media/a.jpg']],
    ['t = `/media/${name}.jpg`', []],
    ['"use strict"; "plain words"', []],
]);

it('knows that a browser fetches nothing by itself that stands in a script', function (): void {
    $reference = (new FieldReader())->read(
        '<script>x.innerHTML = "<img src=/media/a.jpg>"</script>',
        Notation::Html,
        new Rules(),
    )->references[0];
    expect($reference->fetch->value)->toBe('on-condition')->and($reference->layerPath())->toBe('html>javascript>html');
});

it('finds addresses inside the scripts of a page', function (): void {
    expect(
        rolesAndValues(
            '<script>load("/media/a.jpg")</script><script type="text/template">"/media/no.jpg"</script>',
            Notation::Html,
        ),
    )->toBe(['script=/media/a.jpg']);
});

it('writes back in each notation\'s own way', function (
    Notation $notation,
    string $before,
    string $value,
    string $after,
): void {
    expect(rewritten($before, $notation, $value))->toBe($after);
})->with([
    [Notation::Markdown, '![A](/media/a.jpg "t")', '/media/b(1).jpg', '![A](/media/b\(1\).jpg "t")'],
    [Notation::Markdown, '![A](</media/a.jpg>)', '/media/b c.jpg', '![A](</media/b c.jpg>)'],
    [
        Notation::Xml,
        '<enclosure url="/a.mp3" />',
        '/b.mp3?x=1&y="2"',
        '<enclosure url="/b.mp3?x=1&amp;y=&quot;2&quot;" />',
    ],
    [
        Notation::Xml,
        '<d>&lt;img src="/media/a.jpg"&gt;</d>',
        '/media/a&b.jpg',
        '<d>&lt;img src="/media/a&amp;amp;b.jpg"&gt;</d>',
    ],
    [Notation::JavaScript, "a('/media/a.jpg')", "/media/o'clock.jpg", "a('/media/o\\'clock.jpg')"],
    [Notation::JavaScript, 'a("\/media\/a.jpg")', '/media/b.jpg', 'a("\/media\/b.jpg")'],
]);

it('reads front matter in all the ways in which YAML writes a scalar', function (): void {
    $text = <<<'MD'
    ---
    title: A boat # /media/no.jpg
    plain: /media/1.jpg   # the cover
    double: "/media/t\u00fc\x202.jpg"
    single: '/media/o''3.jpg'
    flow: [/media/4.jpg, "/media/5.jpg", '/media/6.jpg']
    map: { src: /media/7.jpg, alt: x, more: [/media/8.jpg] }
    long: [
      /media/9.jpg,
      "/media/10.jpg" ]
    list:
      - /media/11.jpg
      - src: /media/12.jpg
        html: "<img src='/media/13.jpg'>"
      - - /media/14.jpg
    body: |
      <img src="/media/15.jpg">

      <a href=/media/16.jpg>
    "quoted key": /media/17.jpg
    anchored: &a /media/18.jpg
    tagged: !!str /media/19.jpg
    # comment: /media/no.jpg
    ---
    ![x](/media/20.jpg)
    MD;
    $rules = new Rules(mediaFolders: ['/media/']);
    $references = (new FieldReader())->read($text, Notation::Markdown, $rules)->references;
    $numbers = array_map(static fn (Reference $r): int => (int) preg_replace('~\D~', '', $r->value), $references);
    expect($numbers)
        ->toBe(range(1, 20))
        ->and($references[1]->value)
        ->toBe('/media/tü 2.jpg')
        ->and($references[2]->value)
        ->toBe("/media/o'3.jpg")
        ->and($references[6]->path)
        ->toBe('map.src')
        ->and($references[16]->path)
        ->toBe('quoted key');
    // Each can be changed where it stands.
    $changes = array_map(
        static fn (Reference $r): array => [$r, '/media/new-'.preg_replace('~\D~', '', $r->value).'.jpg'],
        $references,
    );
    $after = (new Rewriter())->edits($text, Notation::Markdown, $rules, $changes)->applyTo($text);
    expect(substr_count($after, '/media/new-'))
        ->toBe(20)
        ->and($after)
        ->toContain("single: '/media/new-3.jpg'\nflow: [/media/new-4.jpg, \"/media/new-5.jpg\"");
});

it('reads the style sheets of xml documents', function (): void {
    expect(
        rolesAndValues(
            '<?xml version="1.0"?><?xml-stylesheet type="text/css" href="/media/a&amp;b.css"?><rss/>',
            Notation::Xml,
        ),
    )->toBe(['xml-stylesheet[href]=/media/a&b.css']);
});
