<?php

declare(strict_types=1);

use Ylema\Change\Rewriter;
use Ylema\Reading\ElementRule;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Names;
use Ylema\Reading\Notation;
use Ylema\Reading\Readers\Html\ForeignContent;
use Ylema\Reading\Readers\Html\RawTextEnd;
use Ylema\Reading\Readers\Html\ScriptType;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;

/*
 * The parts of the html reader, each by itself.
 */

it('finds the end of raw text', function (string $text, string $element): void {
    // "|" marks the end that is wanted; it is not part of the text.
    expect(RawTextEnd::of(str_replace('|', '', $text), $element, 0))->toBe(strpos($text, '|'));
})->with([
    'style' => ['a{}|</style>', 'style'],
    'in capitals' => ['a{}|</STYLE>', 'style'],
    'with a space behind the name' => ['a{}|</style >', 'style'],
    'with a slash behind the name' => ['a{}|</style/>', 'style'],
    'not at a longer name' => ['a{}</styles>|</style>', 'style'],
    'not without a name' => ['a{}</ style>|</style>', 'style'],
    'nowhere' => ['a{}</title>|', 'style'],
    'at once' => ['|</textarea>', 'textarea'],
    'plaintext never ends' => ['a</plaintext>|', 'plaintext'],
    'a script' => ['a()|</script>', 'script'],
    'a script in a comment without another script' => ['<!-- a()|</script> -->', 'script'],
    'a script in a comment with another script' => ['<!-- <script> </script> -->|</script>', 'script'],
    'the inner end tag ends only the inner script' => ['<!-- <script> </script> |</script> -->', 'script'],
    'a comment that ends before the inner script' => ['<!-- --><script>|</script>', 'script'],
    'a comment that is over at once' => ['<!--><script>|</script>', 'script'],
    'a comment that is over at once, with one dash more' => ['<!---><script>|</script>', 'script'],
    'a comment that ends in the inner script' => ['<!-- <script> -->|</script>', 'script'],
    'an inner name that is longer' => ['<!-- <scripts> |</script>', 'script'],
    'two inner scripts one after the other' => ['<!-- <script></script><script></script> -->|</script>', 'script'],
    'an inner script without end' => ['<!-- <script> </scripts>|', 'script'],
]);

it('says in which notation a script is', function (string $type, ?Notation $notation): void {
    expect(ScriptType::notation($type))->toBe($notation);
})->with([
    'none' => ['', Notation::JavaScript],
    'a module' => ['module', Notation::JavaScript],
    'as it was written for long' => ['text/javascript', Notation::JavaScript],
    'in capitals, with spaces' => [' TEXT/JavaScript ', Notation::JavaScript],
    'an experimental one' => ['application/x-javascript', Notation::JavaScript],
    'by the name of the standard' => ['application/ecmascript', Notation::JavaScript],
    'very old' => ['text/livescript', Notation::JavaScript],
    'structured data' => ['application/ld+json', Notation::Json],
    'plain json' => ['application/json', Notation::Json],
    'a map of modules' => ['importmap', Notation::Json],
    'what may be fetched beforehand' => ['speculationrules', Notation::Json],
    'a template of a library' => ['text/x-handlebars-template', Notation::Html],
    'markup' => ['text/html', Notation::Html],
    'something else' => ['text/plain', null],
    'a language of its own' => ['text/x-shader', null],
]);

it('knows where svg and math begin and end', function (string $text, bool $foreign): void {
    // The walk tells it of every svg and math element; the place asked about is the end of the text.
    $content = new ForeignContent();
    preg_match_all('~<(?:svg|math)(?=[\s/>])~i', $text, $starts, PREG_OFFSET_CAPTURE);
    foreach ($starts[0] as [, $offset]) {
        $content->enter($offset);
    }
    expect($content->holds($text, strlen($text)))->toBe($foreign);
})->with([
    'outside' => ['<p>', false],
    'inside' => ['<svg>', true],
    'inside of another element of it' => ['<svg><g>', true],
    'behind its end' => ['<svg></svg>', false],
    'behind the end of one in another' => ['<svg><svg></svg>', true],
    'an empty one' => ['<svg/>', false],
    'an empty one with attributes' => ['<svg class="a>b" />', false],
    'where html begins again' => ['<svg><foreignObject>', false],
    'behind where html began again' => ['<svg><foreignObject></foreignObject>', true],
    'in its title' => ['<svg><title>', false],
    'behind its title' => ['<svg><title>x</title>', true],
    'in an empty title' => ['<svg><title/>', true],
    'in its description' => ['<svg><desc>', false],
    'in a drawing where html began again' => ['<svg><foreignObject><svg>', true],
    'behind an element that ends it' => ['<svg><p>', false],
    'behind a heading, which ends it' => ['<svg><h2>', false],
    'behind an end tag that ends it' => ['<svg></p>', false],
    'behind an end tag that does not' => ['<svg></div>', true],
    'behind an element that ends it only where html began again' => ['<svg><foreignObject><p></foreignObject>', true],
    'behind a comment that looks like its end' => ['<svg><!-- </svg> -->', true],
    'behind an attribute that looks like its end' => ['<svg><g title="</svg>">', true],
    'math' => ['<math>', true],
    'in a token of math' => ['<math><mi>', false],
    'behind a token of math' => ['<math><mi>x</mi>', true],
    'math in a drawing is the drawing\'s' => ['<svg><math><mi>', true],
    'the end of what never began' => ['<svg></title>', true],
    'an element whose name only begins so' => ['<svg><titles>', true],
]);

it('knows where a CDATA section can stand', function (string $text, bool $section): void {
    $content = new ForeignContent();
    $content->enter(0);
    expect($content->holdsSections($text, strlen($text)))->toBe($section);
})->with([
    'in a drawing' => ['<svg>', true],
    'directly in its title, which is none of html\'s' => ['<svg><title>', true],
    'behind an element without an end tag there' => ['<svg><title><img src=x>', true],
    'in an element of html there' => ['<svg><title><b>', false],
    'behind the drawing' => ['<svg></svg>', false],
]);

it('passes over what is no markup', function (): void {
    $text = '<svg><![CDATA[</svg><p>]]>';
    $content = new ForeignContent();
    $content->enter(0);
    expect($content->holds($text, 5))->toBeTrue();
    $content->pass(strlen($text));
    expect($content->holds($text, strlen($text)))->toBeTrue();
});

it('reads ids of media in attributes of the site\'s own, and writes others there', function (string $markup): void {
    $rules = new Rules(
        lazyAttributes: [...Rules::LAZY, 'data-picture' => Notation::MediaId],
        elements: ['shot' => ['file' => new ElementRule(Notation::MediaId)]],
    );
    $references = (new FieldReader())->read($markup, Notation::Html, $rules)->references;
    $ids = array_values(array_filter($references, static fn (Reference $r): bool => $r->names === Names::MediaItem));
    expect(array_column($ids, 'value'))->toBe(['12']);
    $edits = (new Rewriter())->edits($markup, Notation::Html, $rules, [[$ids[0], '345']]);
    expect($edits->applyTo($markup))->toBe(str_replace('12', '345', $markup));
})->with([
    ['<figure class="a" data-picture="12"></figure>'],
    ["<p>x</p><img src=/a.jpg data-picture='12'>"],
    ['<IMG DATA-PICTURE=12 SRC="/a.jpg" SRCSET="/b.jpg 2x">'],
    ['<layout><shot size="l" file="12"/></layout>'],
    ['<a href="/x"><span data-picture=" 12 ">x</span></a>'],
]);
