<?php

declare(strict_types=1);

use Ylema\Addresses\Outcome;
use Ylema\Addresses\OutcomeKind;
use Ylema\Addresses\RenditionNames;
use Ylema\Addresses\Resolver;
use Ylema\Addresses\SiteAddresses;
use Ylema\Reading\Breaks;
use Ylema\Reading\CannotEncode;
use Ylema\Reading\FieldReader;
use Ylema\Reading\HtmlRoles;
use Ylema\Reading\Layer;
use Ylema\Reading\Layers\BareNumber;
use Ylema\Reading\Layers\CssUrl;
use Ylema\Reading\Layers\HtmlAttribute;
use Ylema\Reading\Layers\JavaScriptString;
use Ylema\Reading\Layers\JsonString;
use Ylema\Reading\Layers\MarkdownDestination;
use Ylema\Reading\Layers\Plain;
use Ylema\Reading\Layers\RawText;
use Ylema\Reading\Layers\SerializedString;
use Ylema\Reading\Layers\SrcsetCandidate;
use Ylema\Reading\Layers\XmlText;
use Ylema\Reading\Layers\YamlScalar;
use Ylema\Reading\Notation;
use Ylema\Reading\PathRule;
use Ylema\Reading\Readers\CssReader;
use Ylema\Reading\Readers\Html\CharacterReferences;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;
use Ylema\Reading\TokenPattern;
use Ylema\Usage\RecordState;

it('decodes character references as an attribute value does', function (string $raw, string $decoded): void {
    expect(CharacterReferences::decode($raw, 0)[0])->toBe($decoded);
})->with([
    'named' => ['a&amp;b', 'a&b'],
    'named without its semicolon' => ['a&amp b', 'a& b'],
    'bare before a letter stays' => ['a&ampb', 'a&ampb'],
    'bare before a digit stays' => ['a&copy2', 'a&copy2'],
    'bare before = stays' => ['?x&lt=1', '?x&lt=1'],
    'unknown names stay' => ['&nosuch;', '&nosuch;'],
    'a name that needs its semicolon' => ['&hellip; &hellip', '… &hellip'],
    'decimal' => ['&#65;&#228;', 'Aä'],
    'hexadecimal, both letters' => ['&#x41;&#XE4;', 'Aä'],
    'numeric without semicolon' => ['&#65 &#x42g', 'A Bg'],
    'leading zeros' => ['&#0000000000065;', 'A'],
    'windows-1252' => ['&#128;&#150;', '€–'],
    'NUL and too large' => ['&#0;&#x110000;', "\u{FFFD}\u{FFFD}"],
    'surrogates' => ['&#xD800;', "\u{FFFD}"],
    'far too large' => ['&#99999999999999999999;', "\u{FFFD}"],
    'no digits' => ['&#;&#x;', '&#;&#x;'],
    'carriage returns' => ["a\r\nb\rc", "a\nb\nc"],
    'a raw NUL' => ["a\0b", "a\u{FFFD}b"],
    'two code points' => ['&NotEqualTilde;', "\u{2242}\u{338}"],
    'nothing to decode' => ['/media/a.jpg', '/media/a.jpg'],
]);

it('decodes css escapes', function (string $raw, string $decoded): void {
    expect(CssReader::unescape($raw))->toBe($decoded);
})->with([
    ['plain', 'plain'],
    ['\61 b', 'ab'],
    ['\000061b', 'ab'],
    ["\\61\r\nb", 'ab'],
    ['\(\)', '()'],
    ["a\\\nb", 'ab'],
    ['\0', "\u{FFFD}"],
    ['\D800 x', "\u{FFFD}x"],
    ['\1F600', '😀'],
    ['\110000 ', "\u{FFFD}"],
]);

it('writes each value so that its own notation reads it back', function (
    Layer $layer,
    string $value,
    string $written,
): void {
    expect($layer->encode($value))->toBe($written);
})->with([
    'html, double' => [new HtmlAttribute('"'), 'a"b\'c<d>', 'a&quot;b\'c<d>'],
    'html, single' => [new HtmlAttribute("'"), 'a"b\'c', 'a"b&#39;c'],
    'html, unquoted' => [new HtmlAttribute(''), "a b\"'`=<>", 'a&#32;b&quot;&#39;&#96;&#61;&lt;&gt;'],
    'html, unquoted and empty' => [new HtmlAttribute(''), '', '""'],
    'html, only the ampersand that would be read' => [
        new HtmlAttribute('"'),
        'a & b &amp; c&d',
        'a & b &amp;amp; c&amp;d',
    ],
    'html, an ampersand at the end' => [new HtmlAttribute('"'), 'a&', 'a&amp;'],
    'html, a carriage return' => [new HtmlAttribute('"'), "a\rb", 'a&#13;b'],
    'candidate' => [new SrcsetCandidate(), ',a b,c,', '%2Ca%20b,c%2C'],
    'css, double' => [new CssUrl('"'), 'a"b\\c', 'a\"b\\\\c'],
    'css, single' => [new CssUrl("'"), "a'b\"", "a\\'b\""],
    'css, unquoted' => [new CssUrl(''), 'a b(c)', 'a\20 b\(c\)'],
    'css, a line break' => [new CssUrl('"'), "a\nb", 'a\a b'],
    'json' => [new JsonString(false, false), "a\"/ü\n", 'a\"/ü\n'],
    'json, slashes escaped' => [new JsonString(true, false), '/ü', '\/ü'],
    'json, all but ASCII escaped' => [new JsonString(false, true), '/ü😀', '/\u00fc\ud83d\ude00'],
    'serialized' => [new SerializedString(0, 1, 1), "a\"b;\n", "a\"b;\n"],
    'markdown, bare' => [new MarkdownDestination(false), 'a b(c)<', 'a%20b\(c\)\<'],
    'markdown, in angles' => [new MarkdownDestination(true), 'a b<c>', 'a b\<c\>'],
    'markdown, what would be an entity' => [new MarkdownDestination(false), '?a&amp;b', '?a\&amp;b'],
    'xml, double' => [new XmlText('"'), "a\"b'<&\n", "a&quot;b'&lt;&amp;&#10;"],
    'xml, single' => [new XmlText("'"), "a\"b'", 'a"b&apos;'],
    'xml, text' => [new XmlText(''), 'a"b]]>', 'a"b]]&gt;'],
    'xml, cdata' => [new XmlText(XmlText::CDATA), 'a<b>&', 'a<b>&'],
    'script, double' => [new JavaScriptString('"', false), "a\"b\\c\n", 'a\"b\\\\c\n'],
    'script, template' => [new JavaScriptString('`', false), 'a`${b}', 'a\`\${b}'],
    'script, slashes escaped' => [new JavaScriptString("'", true), "/a'", "\\/a\\'"],
    'front matter, single' => [new YamlScalar("'"), "a'b", "a''b"],
    'front matter, double' => [new YamlScalar('"'), 'a"\\b', 'a\"\\\\b'],
    'front matter, plain' => [new YamlScalar(''), '/media/a b.jpg', '/media/a b.jpg'],
    'number' => [new BareNumber(Notation::Json), '-12', '-12'],
    'raw text' => [new RawText('style'), 'a<b>&"', 'a<b>&"'],
]);

it('refuses what a notation has no way to say', function (Layer $layer, string $value, string $says): void {
    expect(fn () => $layer->encode($value))->toThrow(CannotEncode::class, $says);
})->with([
    [new HtmlAttribute('"'), "a\0", 'NUL'],
    [new RawText('style'), 'a</STYLE>', 'end the element early'],
    [new RawText('script'), '<!--', 'end the element early'],
    'bytes that are no text' => [new JsonString(false, false), "\xFF", 'not UTF-8'],
    [new BareNumber(Notation::Json), '1.5', 'whole number'],
    [new BareNumber(Notation::PhpSerialized), '007', 'whole number'],
    [new MarkdownDestination(false), "a\nb", 'line break'],
    [new XmlText(XmlText::CDATA), 'a]]>', 'end the section early'],
    'what xml has no sign for' => [new XmlText(''), "\x01", 'no xml document'],
    [new YamlScalar(''), ': a', 'need quotes'],
    [new YamlScalar(''), 'a: b', 'need quotes'],
    [new YamlScalar('"'), "a\nb", 'line break'],
    [new Plain(Notation::MediaId, '~^\d+$~D'), 'x', 'would not recognise'],
]);

it('knows the outermost bytes of every decoded byte, through layers', function (): void {
    $text = '{"h":"<img alt=\"x\" src=\"/\u00fc&amp;.jpg\">"}';
    $reference = (new FieldReader())->read($text, Notation::Json, new Rules())->references[0];
    expect(substr($text, $reference->start, $reference->length))
        ->toBe('/\u00fc&amp;.jpg')
        ->and($reference->value)
        ->toBe('/ü&.jpg')
        ->and($reference->layerPath())
        ->toBe('json>html');
    $whole = Slice::whole('abc&amp;def');
    $inner = $whole->inner('c&d', 2, new Breaks(pack('VV', 2, 8)), new HtmlAttribute('"'));
    expect([$whole->outer(4), $inner->outer(0), $inner->outer(1), $inner->outer(2), $inner->outer(3)])
        ->toBe([4, 2, 3, 8, 9])
        ->and($inner->lengthsOf(1, 2))
        ->toBe([1]);
});

it('matches paths in structured values', function (string $rule, string $path, bool $matches): void {
    expect((new PathRule($rule, Notation::Url))->matches($path))->toBe($matches);
})->with([
    ['hero.picture', 'hero.picture', true],
    ['hero.picture', 'hero.pictures', false],
    ['blocks[].html', 'blocks[12].html', true],
    ['blocks[].html', 'blocks.html', false],
    ['[].picture', '[0].picture', true],
    ['*.html', 'left.html', true],
    ['*.html', 'a.b.html', false],
    ['a[][]', 'a[1][2]', true],
    ['a.b', 'axb', false],
    ['list[]', 'list[x]', false],
]);

it('tells what is plainly an address from what is not', function (string $value, bool $is): void {
    expect((new Rules(mediaFolders: ['/media/']))->looksLikeAddress($value))->toBe($is);
})->with([
    ['/media/a.jpg', true],
    ['media/a.jpg', true],
    ['https://x.example/a.jpg', true],
    ['//x.example/a.jpg', true],
    ['http://', false],
    ['/visit', false],
    ['a media/a.jpg', false],
    ['', false],
    ["https://x.example/a\nb", false],
    ['https://x.example/<b>', false],
    [str_repeat('/media/', 400), false],
]);

it('says what a token pattern lacks', function (string $pattern, ?string $names, string $says): void {
    expect(fn () => TokenPattern::of('t', $pattern, $names))->toThrow(InvalidArgumentException::class, $says);
})->with([['%x%', 'slot', 'needs a group'], ['%(?<key>x)%', null, 'needs a group']]);

it('takes names of renditions apart and puts them together', function (
    string $pattern,
    string $path,
    ?string $original,
): void {
    $names = new RenditionNames($pattern);
    expect($names->originalsOf($path))->toBe($original === null ? [] : [$original]);
    if ($original !== null && preg_match('~(\d+)[x_](\d+)~', substr($path, strlen(dirname($path))), $m) === 1) {
        expect($names->renditionOf($original, (int) $m[1], (int) $m[2]))->toBe($path);
    }
})->with([
    ['{name}-{width}x{height}.{ext}', 'm/a-480x320.jpg', 'm/a.jpg'],
    ['{name}-{width}x{height}.{ext}', 'm/a-b-480x320.jpg', 'm/a-b.jpg'],
    ['{name}-{width}x{height}.{ext}', 'm/a.jpg', null],
    ['{name}-{width}x{height}.{ext}', 'm/a-480.jpg', null],
    ['{name}_{width}_{height}.{ext}', 'm/a_480_320.png', 'm/a.png'],
    ['{name}@{width}x{height}.{ext}', 'm/a@2x2.webp', 'm/a.webp'],
]);

it('has a sentence for every outcome, and knows which are findings and which are broken', function (
    OutcomeKind $kind,
): void {
    $sentence = (new Outcome($kind, 'media/a.jpg', [], 'media/A.jpg'))->sentence();
    expect($sentence)
        ->toEndWith('.')
        ->and(strlen($sentence))
        ->toBeGreaterThan(12)
        ->and($kind->isBroken() && ! $kind->isFinding())
        ->toBeFalse();
})->with(OutcomeKind::cases());

it('folds paths that people mistake for each other, and no others', function (string $a, string $b, bool $same): void {
    expect(Resolver::fold($a) === Resolver::fold($b))->toBe($same);
})->with([
    ['media/A.JPG', 'media/a.jpg', true],
    ["media/u\u{308}.jpg", 'media/ü.jpg', true],
    ['media/a%20b.jpg', 'media/a b.jpg', true],
    ['media/a.jpg', 'media/b.jpg', false],
    ['media/a.jpg', 'media/a.png', false],
    ['x/a.jpg', 'y/a.jpg', false],
]);

it('gives the address of a path and finds the path again', function (string $path): void {
    $site = new SiteAddresses('https://site.example/sub/');
    expect($site->locate($site->addressOf($path))?->path)->toBe($path);
})->with([
    'media/a.jpg',
    'media/a b.jpg',
    'media/ü%.jpg',
    'media/a?b#c.jpg',
    'media/tea & talk (hall).jpg',
    "media/o'clock.jpg",
    '',
]);

it('refuses a site address that is none', function (string $address): void {
    expect(fn () => new SiteAddresses($address))->toThrow(InvalidArgumentException::class, 'with its scheme');
})->with(['site.example', '/media/', 'mailto:a@b.example', '']);

it('takes the worse of two states', function (): void {
    foreach (RecordState::cases() as $a) {
        expect(RecordState::ofWord($a->word()))->toBe($a);
        foreach (RecordState::cases() as $b) {
            expect($a->and($b)->value)->toBe(max($a->value, $b->value));
        }
    }
});

it('reads every attribute of the table of roles, in markup that holds nothing else', function (
    string $element,
    string $attribute,
    Notation $notation,
): void {
    $value = match ($notation) {
        Notation::Css => 'background:url(/media/x.png)',
        Notation::Srcset => '/media/x.png 2x',
        Notation::Html => '&lt;img src=/media/x.png&gt;',
        default => '/media/x.png',
    };
    $extra = match ($element) {
        'link' => ' rel="icon"',
        'meta' => ' property="og:image"',
        'input' => ' type="image"',
        'param' => ' name="movie"',
        default => '',
    };
    $references = (new FieldReader())->read(
        (in_array($element, ['image', 'svg:script'], true) ? '<svg>' : '')
            .'<'
            .($element === '*' ? 'p' : str_replace('svg:', '', $element))
            ."$extra $attribute=\"$value\">",
        Notation::Html,
        new Rules(),
    )->references;
    expect(array_map(static fn ($r): string => $r->value, $references))->toBe(['/media/x.png']);
})->with(function (): Generator {
    foreach (HtmlRoles::TABLE as $element => $attributes) {
        foreach ($attributes as $attribute => [$notation]) {
            yield "$element $attribute" => [$element, $attribute, $notation];
        }
    }
});

it('reads each lazy-loading attribute, and one of the site\'s own', function (
    string $attribute,
    Notation $notation,
): void {
    $rules = new Rules(lazyAttributes: Rules::LAZY + ['data-bay' => Notation::Url]);
    $value = $notation === Notation::Srcset ? '/media/x.png 2x' : '/media/x.png';
    $reference = (new FieldReader())->read("<div class=a $attribute='$value'>", Notation::Html, $rules)->references[0];
    expect($reference->value)->toBe('/media/x.png')->and($reference->fetch->value)->toBe('on-condition');
})->with(function (): Generator {
    foreach (Rules::LAZY + ['data-bay' => Notation::Url] as $attribute => $notation) {
        yield $attribute => [$attribute, $notation];
    }
});
