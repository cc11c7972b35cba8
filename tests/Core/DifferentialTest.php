<?php

declare(strict_types=1);

use Masterminds\HTML5;
use Sabberworm\CSS\Parser as CssParser;
use Sabberworm\CSS\Value\URL as CssUrl;
use Standin\Content\Catalogue;
use Standin\Content\Scenario;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;

/** Attributes that hold one address each; candidate lists and style are held against their own parsers. */
const ADDRESS_ATTRIBUTES = ['img' => ['src'], 'a' => ['href'], 'source' => ['src'], 'video' => ['src', 'poster'], 'link' => [], 'audio' => ['src']];

/** @return list<string> `element[attribute]=value` in the order of the document */
function inTree(DOMNode $node): array
{
    $found = [];
    if ($node instanceof DOMElement) {
        foreach ($node->attributes as $attribute) {
            $value = trim($attribute->value, "\t\n\f\r ");
            if (in_array($attribute->name, ADDRESS_ATTRIBUTES[strtolower($node->tagName)] ?? [], true) && $value !== '' && $value[0] !== '#') {
                $found[] = strtolower($node->tagName).'['.$attribute->name.']='.$value;
            }
        }
    }
    foreach ($node->childNodes as $child) {
        array_push($found, ...inTree($child));
    }

    return $found;
}

/** @return list<string> */
function inOurs(string $html): array
{
    $found = [];
    foreach ((new FieldReader)->read($html, Notation::Html, new Rules(lazyAttributes: []))->references as $reference) {
        if (preg_match('~^(\w+)\[(\w+)\]$~', $reference->role, $m) === 1 && in_array($m[2], ADDRESS_ATTRIBUTES[$m[1]] ?? [], true) && $reference->layerPath() === 'html') {
            $found[] = $reference->role.'='.$reference->value;
        }
    }

    return $found;
}

/** @return list<string> the demo's markup, whole and in pieces broken in the ways of editors and databases */
function documents(int $broken): array
{
    static $documents = null;
    if ($documents === null) {
        $documents = [];
        foreach ((new Scenario(new Catalogue))->tables['entries'] as $row) {
            $documents[] = (string) $row['body'];
        }
    }
    if ($broken === 0) {
        return $documents;
    }
    $random = new Random\Randomizer(new Random\Engine\Mt19937($broken));
    $pieces = ['<p', '</p>', '<b>', '<img src=/x.jpg alt=a>', '<IMG SRC="/y.jpg"/>', "<a href='/z?a=1&amp;b=2'>", '</a>', '<!-- x -->', '<br>', 'text & more', ' < ', '<img src="/q.jpg" src="/w.jpg">', '<div class="a b">', '<img alt="x>y" src=/e.jpg>', '<video poster=/p.jpg>', '<i title=\'a"b\'>', '<img/src=/s.jpg>', '<img src = "/t.jpg" >', '</>', '<img src=/u.jpg', '>', '<textarea><img src=/no.jpg></textarea>', '<title><img src=/no.jpg></title>', '<style>a{}</style>'];

    return array_map(static function () use ($random, $pieces): string {
        $html = '';
        for ($n = $random->getInt(1, 14); $n > 0; $n--) {
            $html .= $pieces[$random->getInt(0, count($pieces) - 1)];
        }

        return $html.' ';
    }, range(1, 800));
}

it('finds what masterminds/html5 finds on the demo\'s markup', function (): void {
    foreach (documents(0) as $html) {
        expect(inOurs($html))->toBe(inTree((new HTML5(['disable_html_ns' => true]))->loadHTMLFragment($html)));
    }
});

it('finds what libxml finds on the demo\'s markup', function (): void {
    libxml_use_internal_errors(true);
    foreach (documents(0) as $html) {
        $dom = new DOMDocument;
        $dom->loadHTML('<meta http-equiv="Content-Type" content="text/html; charset=utf-8"><body>'.$html);
        expect(inOurs($html))->toBe(inTree($dom));
    }
});

it('differs from masterminds/html5 on broken markup only where the list of differences says so', function (): void {
    $known = array_keys(json_decode((string) file_get_contents(__DIR__.'/differences.json'), true)['html']);
    $unlisted = [];
    foreach (documents(5) as $html) {
        $theirs = inTree((new HTML5(['disable_html_ns' => true]))->loadHTMLFragment($html));
        if (inOurs($html) !== $theirs) {
            $why = array_values(array_filter($known, static fn (string $pattern): bool => preg_match($pattern, $html) === 1));
            $why === [] && $unlisted[] = [$html, inOurs($html), $theirs];
        }
    }
    expect($unlisted)->toBe([]);
});

it('finds the addresses that sabberworm/php-css-parser finds in the demo\'s style sheets', function (): void {
    foreach ((new Scenario(new Catalogue))->tables['styles'] as $row) {
        $css = (string) $row['css'];
        $theirs = array_map(static fn (CssUrl $url): string => $url->getURL()->getString(), array_values(array_filter((new CssParser($css))->parse()->getAllValues(), static fn (mixed $v): bool => $v instanceof CssUrl)));
        $ours = array_map(static fn (Reference $r): string => $r->value, (new FieldReader)->read($css, Notation::Css, new Rules)->references);
        sort($theirs);
        sort($ours);
        expect($ours)->toBe($theirs);
    }
});
