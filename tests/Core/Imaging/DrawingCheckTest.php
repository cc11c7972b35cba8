<?php

declare(strict_types=1);

use Ylema\Imaging\UploadCheck;
use Ylema\Imaging\UploadRefused;

/** A drawing with this inside, or the whole of one. */
function drawing(string $inside): string
{
    return preg_match('~<(?:\w+:)?svg[ >]~', $inside) === 1
        ? $inside
        : '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" '
                ."viewBox=\"0 0 9 9\">$inside</svg>";
}

it('refuses drawings that could run or load something at a visitor\'s', function (string $inside, string $says): void {
    expect(fn () => (new UploadCheck())->judge(drawing($inside), 'x.svg'))->toThrow(UploadRefused::class, $says);
})->with([
    'a script' => ['<script>x()</script>', 'a script'],
    'an empty script' => ['<script href="data:,x()"/>', 'a script'],
    'a script with a prefix' => [
        '<a.b:svg xmlns:a.b="http://www.w3.org/2000/svg"><a.b:script>x()</a.b:script></a.b:svg>',
        'a script',
    ],
    'a script of a page' => [
        '<h:script xmlns:h="http://www.w3.org/1999/xhtml">x()</h:script>',
        'foreign elements (<h:script>)',
    ],
    'a page\'s elements without a prefix' => [
        '<g xmlns="http://www.w3.org/1999/xhtml"><img src="x"/></g>',
        'foreign elements',
    ],
    'a script in another\'s notes' => [
        '<metadata><d:x xmlns:d="http://purl.org/dc/"><script>x()</script></d:x></metadata>',
        'a script',
    ],
    'a script in capitals' => ['<SCRIPT>x()</SCRIPT>', 'a script'],
    'an unknown element' => ['<frobnicate/>', '<frobnicate>'],
    'an element of no name space' => ['<x xmlns=""/>', 'foreign elements'],
    'formulas' => ['<m:math xmlns:m="http://www.w3.org/1998/Math/MathML"/>', 'foreign elements'],
    'another file' => ['<i:include xmlns:i="http://www.w3.org/2001/XInclude" href="x"/>', 'foreign elements'],
    'code on an event' => ['<rect onclick="x()"/>', 'runs on an event (onclick)'],
    'code on an event in capitals' => ['<rect ONLOAD="x()"/>', 'runs on an event'],
    'code on an event of the drawing itself' => [
        '<svg xmlns="http://www.w3.org/2000/svg" onload="x()"></svg>',
        'event',
    ],
    'an unknown attribute' => ['<rect frobnicate="1"/>', 'the attribute frobnicate'],
    'an attribute of a page' => ['<rect h:src="x" xmlns:h="http://www.w3.org/1999/xhtml"/>', 'the attribute h:src'],
    'a base' => ['<g xml:base="//x.example/"/>', 'the attribute xml:base'],
    'a link that runs code' => ['<a href="javascript:x()"/>', 'link that runs code'],
    'a link that runs code, with a prefix' => ['<a xlink:href="javascript:x()"/>', 'link that runs code'],
    'a link that runs code, with any prefix' => [
        '<a q:href="javascript:x()" xmlns:q="http://www.w3.org/1999/xlink"/>',
        'link that runs code',
    ],
    'a link that runs code, in disguise' => ['<a href="java&#10;script&#9;:x()"/>', 'link that runs code'],
    'a link that runs code, behind blanks' => ['<a href=" &#x1; javascript:x()"/>', 'well-formed'],
    'a link that runs code, behind more blanks' => ['<a href="  &#10; JavaScript:x()"/>', 'link that runs code'],
    'a link that runs code, behind references' => ['<a href="&#106;avascript:x()"/>', 'link that runs code'],
    'a link of an old browser' => ['<a href="vbscript:x()"/>', 'link that runs code'],
    'a page in a link' => ['<a href="data:text/html,x"/>', 'brings a document'],
    'a page in a use' => ['<use href="data:image/svg+xml,x#a"/>', 'brings a document'],
    'a drawing in a picture' => ['<image href="data:image/svg+xml,x"/>', 'brings a document'],
    'a use of elsewhere' => ['<use href="https://x.example/a.svg#b"/>', 'from outside of it'],
    'a use of the same site' => ['<use xlink:href="icons.svg#b"/>', 'from outside of it (icons.svg#b)'],
    'a picture of elsewhere' => ['<image href="//x.example/a.png"/>', 'from outside of it'],
    'a filter with a picture of elsewhere' => ['<filter><feImage href="a.png"/></filter>', 'from outside of it'],
    'an animation of a link' => [
        '<a><animate attributeName="href" values="javascript:x()"/></a>',
        'animation of "href"',
    ],
    'an animation of a link with a prefix' => ['<set attributeName="q:href" to="x"/>', 'animation of "q:href"'],
    'an animation of an event' => ['<set attributeName="onclick" to="x()"/>', 'animation of "onclick"'],
    'an animation towards elsewhere' => [
        '<animate attributeName="fill" to="url(//x.example/a)"/>',
        'from outside of it',
    ],
    'web content' => ['<foreignObject><p>x</p></foreignObject>', 'embedded web content'],
    'a frame' => ['<iframe src="/x"/>', 'embedded web content'],
    'a film' => ['<video src="/x"/>', 'embedded web content'],
    'a style sheet of elsewhere' => [
        '<?xml-stylesheet href="x.css"?>'.drawing('<g/>'),
        'a style sheet from elsewhere',
    ],
    'a program of a server' => ['<g/><?php x(); ?>', 'the instruction <?php?>'],
    'an import' => ['<style>@import "x.css";</style>', 'from outside of it, in a style sheet (x.css)'],
    'an import in disguise' => ['<style>@\\69mport "x.css";</style>', 'style sheet'],
    'an import in pieces' => ['<style>@imp<!-- -->ort "x.css";</style>', 'style sheet'],
    'an import in sections' => ['<style>@imp<![CDATA[ort "x.css"]]></style>', 'style sheet'],
    'an import behind an element' => ['<style><g/>@import "x.css"</style>', 'elements in a style sheet'],
    'a background of elsewhere' => ['<style>svg{background:u\\72l(x.png)}</style>', 'from outside of it'],
    'a set of pictures' => ['<style>svg{background:image-set("x.png" 1x)}</style>', 'from outside of it'],
    'a typeface of elsewhere' => ['<style>@font-face{src:url(//x.example/a.woff2)}</style>', 'from outside of it'],
    'a fill of elsewhere' => ['<rect fill="url(//x.example/a.svg#b)"/>', 'in the attribute fill'],
    'a style with elsewhere' => ['<rect style="fill:url(x.svg#b)"/>', 'in a style (x.svg#b)'],
    'an old browser\'s code in a style' => ['<rect style="width:exp\\72 ession(x())"/>', 'code or an import'],
    'entities' => ['<!DOCTYPE svg [<!ENTITY a "b">]>'.drawing('<g/>'), 'entity declarations'],
    'attributes by default' => ['<!DOCTYPE svg [<!ATTLIST svg onload CDATA "x()">]>'.drawing('<g/>'), 'declarations'],
    'letters of another kind' => ['<?xml version="1.0" encoding="utf-7"?>'.drawing('<g/>'), 'encoding "utf-7"'],
    'far too deep' => [str_repeat('<g>', 300).str_repeat('</g>', 300), 'Excessive depth'],
    'far too wide' => ['<svg xmlns="http://www.w3.org/2000/svg" width="999999" height="9"/>', '100,000 pixels'],
    'of no name space' => ['<svg></svg>', 'No browser would show'],
    'a part' => ['<g xmlns="http://www.w3.org/2000/svg"><!-- <svg > --></g>', 'not a picture'],
    'not well-formed' => ['<g></p>', 'not well-formed XML (line 1'],
    'a prefix of nobody' => ['<svg xmlns="http://www.w3.org/2000/svg"><a b:href="x"/></svg>', 'b:href'],
    'an entity of nobody' => ['<g>&nbsp;</g>', 'not well-formed'],
    'two attributes of one name' => ['<g id="a" id="b"/>', 'not well-formed'],
    'cut short' => ['<svg xmlns="http://www.w3.org/2000/svg"><g><path d="M0', 'part of the file is missing'],
    'cut short behind an element' => ['<svg xmlns="http://www.w3.org/2000/svg"><g/>', 'part of the file is missing'],
]);

it('says on which line', function (): void {
    expect(fn () => (new UploadCheck())->judge(drawing("\n<g/>\n<script/>"), 'x.svg'))->toThrow(
        UploadRefused::class,
        '"x.svg" contains a script (line 3), which',
    );
});

it('takes plain drawings', function (string $svg): void {
    expect((new UploadCheck())->judge(drawing($svg), 'x.svg')->mime)->toBe('image/svg+xml');
})->with([
    'shapes' => [
        '<g id="a" class="b" transform="rotate(4)"><path d="M0 0h9"/></g><use href="#a"/><use xlink:href="#a"/>',
    ],
    'with a declaration' => [
        "\u{FEFF}<?xml version=\"1.0\" encoding=\"UTF-8\" standalone=\"no\"?>\n".drawing('<g/>'),
    ],
    'with a comment before and behind' => ['<!-- drawn by hand -->'.drawing('<g/>').'<!-- the end -->'],
    'with a document type' => [
        '<!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "http://www.w3.org/Graphics/SVG/1.1/DTD/svg11.dtd">'
        .drawing('<g/>'),
    ],
    'with a prefix' => ['<s:svg xmlns:s="http://www.w3.org/2000/svg"><s:g/></s:svg>'],
    'with a picture' => ['<image href="data:image/png;base64,AA==" width="1" height="1"/>'],
    'with words that only sound so' => ['<text>onload = script, javascript:x()</text>'],
    'with a style' => [
        '<style>.a{fill:url(#b);stroke:rgb(0,0,0)} /* url(x) */</style><rect style="fill:url(\'#b\')"/>',
    ],
    'with a typeface' => ['<style>@font-face{font-family:x;src:url(data:font/woff2;base64,AA==)}</style>'],
    'that moves' => ['<rect><animate attributeName="x" values="0;9" dur="1s" repeatCount="indefinite"/></rect>'],
    'with a link' => ['<a href="https://x.example/"><text>x</text></a><a xlink:href="/there"/>'],
    'with notes of programs' => [
        '<s:namedview xmlns:s="http://sodipodi.sourceforge.net/DTD/sodipodi-0.dtd" id="x"/><g '
        .'xmlns:i="http://www.inkscape.org/namespaces/inkscape" i:label="Layer 1"/><metadata><r:RDF '
        .'xmlns:r="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><c:Work xmlns:c="http://creativecommons.org/ns#"/>'
        .'</r:RDF></metadata>',
    ],
    'with a packet of metadata' => ['<metadata><?xpacket begin="" id="x"?><?xpacket end="w"?></metadata>'],
    'with attributes for everybody' => ['<g role="img" aria-label="x" data-name="y" xml:space="preserve" lang="en"/>'],
]);

it('reads the size of a drawing', function (string $tag, ?string $size): void {
    $picture = (new UploadCheck())->judge("<svg xmlns=\"http://www.w3.org/2000/svg\" $tag><path/></svg>", 'x.svg');
    expect($picture->size === null ? null : (string) $picture->size)->toBe($size);
})->with([
    ['width="40" height="20px"', '40 × 20'],
    ['viewBox="0 0 64 32"', '64 × 32'],
    ['viewBox="-1.5,-2, 6.4e1 32."', '64 × 32'],
    ['width="1in" height="25.4mm"', '96 × 96'],
    ['width="100%" height="100%" viewBox="0 0 3 4"', '3 × 4'],
    ['width="0.2" height="9"', null],
    ['width="100%"', null],
    ['viewBox="0 0 nine 9"', null],
]);

it('takes no longer for what is made to take long', function (string $evil): void {
    $plain = str_repeat('<rect x="1" y="2" width="3" height="4"/>', 12_000);
    $time = static function (string $svg): float {
        $least = INF;
        for ($i = 0; $i < 3; $i++) {
            $usage = getrusage();
            try {
                (new UploadCheck())->judge($svg, 'x.svg');
            } catch (UploadRefused) {
            }
            $after = getrusage();
            $least = min(
                $least,
                ($after['ru_utime.tv_sec'] - $usage['ru_utime.tv_sec']) * 1e6
                    + $after['ru_utime.tv_usec']
                    - $usage['ru_utime.tv_usec'],
            );
        }

        return $least;
    };
    expect($time(drawing($evil)))->toBeLessThan(4 * $time(drawing($plain)) + 100_000);
})->with([
    'a link of blanks' => [fn (): string => '<a href="'.str_repeat(' ', 2_000_000).'javascript:x()"/>'],
    'a link of lines' => [fn (): string => '<a href="'.str_repeat("\n", 2_000_000).'x"/>'],
    'a style of parentheses' => [fn (): string => '<g style="a:'.str_repeat('url(', 400_000).'"/>'],
    'a style of backslashes' => [fn (): string => '<g style="a:'.str_repeat('\\', 1_000_000).'"/>'],
    'a sheet of imports' => [fn (): string => '<style>'.str_repeat('@\\69 ', 300_000).'</style>'],
    'comments' => [fn (): string => str_repeat('<!-- <!DOCTYPE " -->', 100_000)],
    'attributes' => [
        fn (): string => '<g '
            .implode(' ', array_map(static fn (int $n): string => "data-a$n=''", range(1, 20_000)))
            .'/>',
    ],
    'a box of digits' => [
        fn (): string => '<svg xmlns="http://www.w3.org/2000/svg" viewBox="'.str_repeat('1', 1_000_000).'"/>',
    ],
    'open elements' => [fn (): string => str_repeat('<g>', 400_000)],
]);
