<?php

declare(strict_types=1);

use Ylema\Change\EditConflict;
use Ylema\Change\Rewriter;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;

it('finds addresses as the tokens of CSS Syntax say', function (string $css, array $values): void {
    expect(array_column((new FieldReader())->read($css, Notation::Css, new Rules())->references, 'value'))->toBe(
        $values,
    );
})->with([
    'bare' => ['a{b:url(/a.png)}', ['/a.png']],
    'in double quotes' => ['a{b:url("/a.png")}', ['/a.png']],
    'in single quotes' => ["a{b:url('/a.png')}", ['/a.png']],
    'with white space' => ["a{b:url(\n\t/a.png  )}", ['/a.png']],
    'with white space and quotes' => ['a{b:url( "/a.png" )}', ['/a.png']],
    'in capitals' => ['a{b:URL(/a.png)}', ['/a.png']],
    'with an escaped name' => ['a{b:\75 rl(/a.png)}', ['/a.png']],
    'with an escape in the middle of the name' => ['a{b:u\52l(/a.png)}', ['/a.png']],
    'escapes in the address' => ['a{b:url(/a\(1\)\20 b.png)}', ['/a(1) b.png']],
    'a line that goes on' => ["a{b:url(\"/a\\\nb.png\")}", ['/ab.png']],
    'two in one property' => ['a{b:url(/a.png),url(/b.png)}', ['/a.png', '/b.png']],
    'empty' => ['a{b:url()}', []],
    'empty in quotes' => ['a{b:url("")}', []],
    'a longer name' => ['a{b:my-url(/no.png)}', []],
    'a name that goes on' => ['a{b:url-x(/no.png)}', []],
    'a number before' => ['a{b:1url(/no.png)}', []],
    'a hash before' => ['#url(/no.png){}', []],
    'an at-sign before' => ['@url(/no.png);', []],
    'a space before the parenthesis' => ['a{b:url (/no.png)}', []],
    'in a comment' => ['/* url(/no.png) */ a{b:url(/a.png)}', ['/a.png']],
    'in a comment with stars' => ['/*** url(/no.png) ***/ a{b:url(/a.png)}', ['/a.png']],
    'in a comment without end' => ['a{b:url(/a.png)} /* url(/no.png)', ['/a.png']],
    'a slash is no comment' => ['a{b:url(/a.png) 0 0/cover}', ['/a.png']],
    'in a string' => ['a{b:"url(/no.png)"}', []],
    'in a string with an escaped quote' => ['a{b:"\"url(/no.png)"}', []],
    'behind a string that its line ends' => ["a{b:\"x\nc:url(/a.png)}", ['/a.png']],
    'a string without end' => ['a{b:url("/a.png', ['/a.png']],
    'a bare address without end' => ['a{b:url(/a.png', ['/a.png']],
    'white space inside spoils it' => ['a{b:url(/no one.png);c:url(/a.png)}', ['/a.png']],
    'a quote inside spoils it' => ['a{b:url(/no".png);c:url(/a.png)}', ['/a.png']],
    'a parenthesis inside spoils it' => ['a{b:url(/no(.png);c:url(/a.png)}', ['/a.png']],
    'an escaped parenthesis does not end what is spoilt' => ['a{b:url(/no \);/no);c:url(/a.png)}', ['/a.png']],
    'an address with a modifier' => ['a{b:url("/a.png" crossorigin(anonymous))}', ['/a.png']],
    'src() with a string' => ['a{b:src("/a.png")}', ['/a.png']],
    'src() without' => ['a{b:src(/no.png)}', []],
    'an import' => ['@import "/a.css";', ['/a.css']],
    'an import with url()' => ['@import url(/a.css) screen;', ['/a.css']],
    'an import with url() and quotes' => ["@import url('/a.css');", ['/a.css']],
    'an import in capitals' => ['@IMPORT "/a.css";', ['/a.css']],
    'an import behind a comment' => ['@import/* x */"/a.css";', ['/a.css']],
    'a longer at-rule' => ['@imports "/no.css";', []],
    'another at-rule with a string' => ['@namespace "/no"; @charset "utf-8";', []],
    'a set of pictures' => ['a{b:image-set("/a.png" 1x, "/b.png" 2x)}', ['/a.png', '/b.png']],
    'a set of pictures by its older name' => ['a{b:-webkit-image-set(url(/a.png) 1x)}', ['/a.png']],
    'a type in a set' => [
        'a{b:image-set("/a.avif" type("image/avif"), "/a.png" type("image/png"))}',
        ['/a.avif', '/a.png'],
    ],
    'a gradient in a set' => ['a{b:image-set(linear-gradient(red, "no") 1x, "/a.png" 2x)}', ['/a.png']],
    'a set in a set' => ['a{b:image-set(image-set("/no.png" 1x) 1x, "/a.png" 2x)}', ['/a.png']],
    'strings behind a set' => ['a{b:image-set("/a.png" 1x);c:"/no.png"}', ['/a.png']],
    'a set without end' => ['a{b:image-set("/a.png" 1x', ['/a.png']],
    'a custom property' => ['a{--b:url(/a.png)}', ['/a.png']],
    'a variable that looks like a set' => ['a{b:var(--image-set)}', []],
    'bytes above ASCII belong to names' => ['a{b:üurl(/no.png)} .ü{b:url(/ü.png)}', ['/ü.png']],
    'a backslash at the end' => ['a{b:url(/a.png)}\\', ['/a.png']],
    'nothing' => ['', []],
]);

it('changes the token alone, in the quotes that it has', function (string $css, string $value, string $after): void {
    $reader = new FieldReader();
    $edits = (new Rewriter())->edits($css, Notation::Css, new Rules(), [
        [$reader->read($css, Notation::Css, new Rules())->references[0], $value],
    ]);
    expect($edits->applyTo($css))->toBe($after);
})->with([
    'bare' => ['a { b : url( /a.png ) ; }', '/c.png', 'a { b : url( /c.png ) ; }'],
    'bare, with what must be escaped' => ['a{b:url(/a.png)}', '/c (1).png', 'a{b:url(/c\20 \(1\).png)}'],
    'in double quotes' => ['a{b:url("/a.png")}', '/c "1".png', 'a{b:url("/c \"1\".png")}'],
    'in single quotes' => ["a{b:url('/a.png')}", "/c's.png", "a{b:url('/c\\'s.png')}"],
    'an import' => ["@import\t\"/a.css\"  screen;", '/c.css', "@import\t\"/c.css\"  screen;"],
    'where the name is escaped' => ['a{b:\75 rl(/a.png)}', '/c.png', 'a{b:\75 rl(/c.png)}'],
    'the first of two' => ['a{b:url(/a.png),url(/a.png)}', '/c.png', 'a{b:url(/c.png),url(/a.png)}'],
]);

it('refuses to write what would no longer be an address', function (): void {
    $reference = (new FieldReader())->read('a{b:url(/a.png)}', Notation::Css, new Rules())->references[0];
    (new Rewriter())->edits('a{b:url(/a.png)}', Notation::Css, new Rules(), [[$reference, '']]);
})->throws(EditConflict::class, 'would not be read back');

it('reads rules by the names that escapes spell', function (string $css, array $found): void {
    $references = (new FieldReader())->read($css, Notation::Css, new Rules())->references;
    expect(array_column($references, 'value'))->toBe($found);
})->with([
    'an import' => ['@\69mport "a.css";', ['a.css']],
    'an import in its middle' => ['@im\70 ort url(a.css);', ['a.css']],
    'a namespace' => ['@n\61mespace url(a.xml); p{background:url(b.png)}', ['b.png']],
    'another rule' => ['@m\65 dia x { a { b: url(c.png) } }', ['c.png']],
    'a longer name' => ['@\69mports "a.css";', []],
    'an escaped at sign' => ['\@import "a.css"; b{c:url(d.png)}', ['d.png']],
]);

it('reads strings of properties that a function takes for addresses', function (string $css, array $found): void {
    $rules = new Rules(mediaFolders: ['/media/']);
    $references = (new FieldReader())->read($css, Notation::Css, $rules)->references;
    expect(array_map(static fn (Reference $r): string => "{$r->role} {$r->value}", $references))->toBe($found);
})->with([
    'in a set' => ['a{--b: "c.webp"} d{background:image-set(var(--b) 1x)}', ['css image-set c.webp']],
    'in a source' => ["a{--b:'c.webp'} d{background:src(var(--b))}", ['css image-set c.webp']],
    'used nowhere here' => ['a{--b:"c.webp"}', []],
    'used nowhere here, but one of the site' => ['a{--b:"/media/c.webp"}', ['css image-set /media/c.webp']],
    'words' => ['a{--b:"Tides"} d{background:image-set(var(--b) 1x)}', []],
    'of another property' => ['a{content:"c.webp"} d{background:image-set(var(--b) 1x)}', []],
    'in a comment' => ['/* --b:"c.webp" */ d{background:image-set(var(--b) 1x)}', []],
    'an address' => ['a{--b:url("c.webp")} d{background:image-set(var(--b) 1x)}', ['css url c.webp']],
]);

it('takes no import from an attribute, where there are only declarations', function (string $html): void {
    $found = (new FieldReader())->read($html, Notation::Html, new Rules())->references;
    expect(array_column($found, 'value'))->toBe(['b.png']);
})->with([
    '<p style="@import \'a.css\'; background:url(b.png)">',
    "<p style='@import url(a.css);background:url(b.png)'>",
    '<svg><g style="@import url(a.css); fill:url(b.png)"></svg>',
]);
