<?php

declare(strict_types=1);

use Masterminds\HTML5;
use Sabberworm\CSS\Parser as CssParser;
use Sabberworm\CSS\Value\URL as CssUrl;
use Standin\Content\Catalogue;
use Standin\Content\Scenario;
use Tests\Core\Generators\BrokenMarkup;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Rules;

/** @return list<string> `element[attribute]=value` in the order of the document */
function inTree(DOMNode $node): array
{
    $found = [];
    if ($node instanceof DOMElement) {
        foreach ($node->attributes as $attribute) {
            $value = trim($attribute->value, "\t\n\f\r ");
            if (
                in_array($attribute->name, BrokenMarkup::ATTRIBUTES[strtolower($node->tagName)] ?? [], true)
                && $value !== ''
                && $value[0] !== '#'
            ) {
                $found[] = strtolower($node->tagName).'['.$attribute->name.']='.$value;
            }
        }
    }
    foreach ($node->childNodes as $child) {
        array_push($found, ...inTree($child));
    }

    return $found;
}

/** @return list<string> the demo's markup */
function demoMarkup(): array
{
    return array_map(
        static fn (array $row): string => (string) $row['body'],
        (new Scenario(new Catalogue()))->tables['entries'],
    );
}

it('finds what masterminds/html5 finds on the demo\'s markup', function (): void {
    foreach (demoMarkup() as $html) {
        expect(BrokenMarkup::read($html))->toBe(
            inTree((new HTML5(['disable_html_ns' => true]))->loadHTMLFragment($html)),
        );
    }
});

it('finds what libxml finds on the demo\'s markup', function (): void {
    libxml_use_internal_errors(true);
    foreach (demoMarkup() as $html) {
        $dom = new DOMDocument();
        $dom->loadHTML('<meta http-equiv="Content-Type" content="text/html; charset=utf-8"><body>'.$html);
        expect(BrokenMarkup::read($html))->toBe(inTree($dom));
    }
});

/** @return list<array{pattern: string, example: string, ours: list<string>, theirs: list<string>, same?: bool, clause: string}> */
function differences(string $parser): array
{
    return json_decode(
        (string) file_get_contents(__DIR__.'/differences.json'),
        true,
        flags: JSON_THROW_ON_ERROR,
    )[$parser];
}

/** @return list<string> */
function inMasterminds(string $html): array
{
    return inTree((new HTML5(['disable_html_ns' => true]))->loadHTMLFragment($html));
}

/** @return list<string> */
function inLibxml(string $html): array
{
    libxml_use_internal_errors(true);
    $dom = new DOMDocument();
    $dom->loadHTML('<meta http-equiv="Content-Type" content="text/html; charset=utf-8"><body>'.$html);

    return inTree($dom);
}

it('differs from other parsers on broken markup only where the list of differences says so', function (
    string $parser,
    callable $theirs,
): void {
    $known = differences($parser);
    $unlisted = [];
    $drawn = new BrokenMarkup(5, BrokenMarkup::PLAIN);
    for ($i = 0; $i < 2000; $i++) {
        $html = $drawn->draw();
        if (
            BrokenMarkup::read($html) !== $theirs($html)
            && array_filter($known, static fn (array $d): bool => preg_match($d['pattern'], $html) === 1) === []
        ) {
            $unlisted[] = [$html, BrokenMarkup::read($html), $theirs($html)];
        }
    }
    expect($unlisted)->toBe([]);
    foreach ($known as $difference) {
        expect(BrokenMarkup::read($difference['example']))
            ->toBe($difference['ours'], $difference['clause'])
            ->and($theirs($difference['example']))
            ->toBe($difference['theirs'], $difference['clause'])
            ->and(preg_match($difference['pattern'], $difference['example']))
            ->toBe(1);
    }
})->with([['masterminds/html5', inMasterminds(...)], ['libxml', inLibxml(...)]]);

/** @return list<string> sorted */
function inSabberworm(string $css): array
{
    $found = array_map(
        static fn (CssUrl $url): string => $url->getURL()->getString(),
        array_values(
            array_filter(
                (new CssParser($css))->parse()->getAllValues(),
                static fn (mixed $v): bool => $v instanceof CssUrl,
            ),
        ),
    );
    $found = array_filter($found, static fn (string $address): bool => $address !== '');
    sort($found);

    return $found;
}

/** @return list<string> sorted */
function inOurCss(string $css): array
{
    $found = array_column((new FieldReader())->read($css, Notation::Css, new Rules())->references, 'value');
    sort($found);

    return $found;
}

it('finds the addresses that sabberworm/php-css-parser finds in the demo\'s style sheets', function (): void {
    foreach ((new Scenario(new Catalogue()))->tables['styles'] as $row) {
        expect(inOurCss((string) $row['css']))->toBe(inSabberworm((string) $row['css']));
    }
});

it(
    'misses nothing in broken style that sabberworm/php-css-parser finds, but where the list of differences says so',
    function (): void {
        $known = differences('sabberworm/php-css-parser');
        $pieces = [
            'a{background:url(/a.png)}',
            'b{background:url("/b.png")}',
            "c{background:url('/c.png') no-repeat}",
            '/* url(/no.png) */',
            'd{content:"url(/no.png)"}',
            '@import "/e.css";',
            '@import url(/f.css) screen;',
            '@media print{g{background:url(/g.png)}}',
            '@font-face{src:url(/h.woff)}',
            'i{background:url( /i.png )}',
            'j{background:URL(/j.png)}',
            'k{background:url(/k\2e png)}',
            'l{background:url(/l.png',
            '}',
            '{',
            ';',
            ')',
            '(',
            'm{color:red;;background:url(/m.png);}',
            'n{--v:url(/n.png)}',
            'o{background:url("/o.png"',
            'p{background:url(/p q.png)}',
            '"',
            "'",
            '/*',
            '*/',
            's{x:myurl(/no.png)}',
            "u{background:url(\n/u.png\n)}",
            'v:hover>w{background:#fff url(/v.png) 0 0/cover}',
        ];
        $random = new Random\Randomizer(new Random\Engine\Mt19937(3));
        $unlisted = [];
        for ($i = 0; $i < 1500; $i++) {
            $css = '';
            for ($n = $random->getInt(1, 6); $n > 0; $n--) {
                $css .= $pieces[$random->getInt(0, count($pieces) - 1)]."\n";
            }
            $missed = array_values(array_diff(inSabberworm($css), inOurCss($css)));
            if (
                $missed !== []
                && array_filter($known, static fn (array $d): bool => preg_match($d['pattern'], $css) === 1) === []
            ) {
                $unlisted[] = [$css, $missed];
            }
        }
        expect($unlisted)->toBe([]);
        foreach ($known as $difference) {
            expect(inOurCss($difference['example']))
                ->toBe($difference['ours'])
                ->and(inSabberworm($difference['example']))
                ->toBe($difference['theirs']);
        }
        $extra = differences('only ours, in style')['example'];
        expect(inSabberworm($extra))
            ->toBe([])
            ->and(inOurCss($extra))
            ->toBe(['/a.png']);
    },
);
