<?php

declare(strict_types=1);

use League\CommonMark\CommonMarkConverter;
use Ylema\Change\Rewriter;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\PathRule;
use Ylema\Reading\Reading;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;

function markdownRules(): Rules
{
    return new Rules(mediaFolders: ['/media/'], paths: [
        new PathRule('cover', Notation::Url),
        new PathRule('hero.picture', Notation::Url),
        new PathRule('gallery[].file', Notation::Url),
    ]);
}

function inMarkdown(string $text): Reading
{
    return (new FieldReader())->read($text, Notation::Markdown, markdownRules());
}

/** @return list<string> */
function saidInMarkdown(string $text): array
{
    return array_map(static fn (Reference $r): string => "{$r->role} {$r->value}", inMarkdown($text)->references);
}

it('reads what stands before a text, in three notations', function (string $front, array $found): void {
    $said = array_map(
        static fn (Reference $r): string => "{$r->path} {$r->value}",
        inMarkdown("$front\n![Pier](/media/z.jpg)\n")->references,
    );
    expect($said)->toBe([...$found, ' /media/z.jpg']);
})->with([
    'TOML' => ["+++\ntitle = \"Tides\" # cover = \"no.jpg\"\ncover = 'a.jpg'\n+++", ['cover a.jpg']],
    'tables' => [
        "+++\n[hero]\npicture = \"a.jpg\"\nalt = 'x'\n[other]\npicture = \"no.jpg\"\n+++",
        ['hero.picture a.jpg'],
    ],
    'arrays of tables' => [
        "+++\n[[gallery]]\nfile = \"a.jpg\"\n\n[[gallery]]\nfile = \"\"\"b.jpg\"\"\"\n+++",
        ['gallery[0].file a.jpg', 'gallery[1].file b.jpg'],
    ],
    'arrays and inline tables' => [
        "+++\nhero = { picture = 'a.jpg', alt = \"x\" }\nall = [\n  \"/media/b.jpg\", # one\n  '/media/c.jpg',\n]\n+++",
        ['hero.picture a.jpg', 'all[0] /media/b.jpg', 'all[1] /media/c.jpg'],
    ],
    'dotted keys' => ["+++\nhero.picture = 'a.jpg'\n+++", ['hero.picture a.jpg']],
    'escapes of TOML' => ["+++\ncover = \"a\\u002Djpg\\\\b.jpg\"\n+++", ['cover a-jpg\\b.jpg']],
    'numbers and dates of TOML' => [
        "+++\nn = 1.5\nd = 2019-05-27T07:32:00Z\nt = true\ncover = \"a.jpg\"\n+++",
        ['cover a.jpg'],
    ],
    'JSON' => [
        "{\n  \"cover\": \"a.jpg\",\n  \"hero\": {\"picture\": \"b}.jpg\"}\n}\n",
        ['cover a.jpg', 'hero.picture b}.jpg'],
    ],
    'YAML' => ["---\ncover: a.jpg\nhero:\n  alt: x\n  picture: b.jpg\n---", ['cover a.jpg', 'hero.picture b.jpg']],
    'lists of YAML' => [
        "---\ngallery:\n- file: a.jpg\n- alt: x\n  file: b.jpg\nhero:\n    picture: c.jpg\n---",
        ['gallery[0].file a.jpg', 'gallery[1].file b.jpg', 'hero.picture c.jpg'],
    ],
    'lists of YAML, further in' => ["---\ngallery:\n  - file: a.jpg\n  - file: b.jpg\n---", [
        'gallery[0].file a.jpg',
        'gallery[1].file b.jpg',
    ]],
    'flow collections' => ["---\nhero: {picture: a.jpg, alt: x}\n---", ['hero.picture a.jpg']],
    'a rule by the last key' => ["---\npage:\n  cover: a.jpg\n---", ['cover a.jpg']],
]);

it('reads front matter of any size', function (string $line, string $fence): void {
    $cover = $fence === '+++' ? "cover = 'a.jpg'" : 'cover: a.jpg';
    $text = "$fence\n".str_repeat($line, 60_000)."$cover\n$fence\n![x](/media/b.jpg)";
    expect(strlen($text))->toBeGreaterThan(1_000_000)
        ->and(saidInMarkdown($text))
        ->toBe(['url a.jpg', 'image /media/b.jpg']);
})->with([["note: 'Tides and boats'\n", '---'], ["note = 'Tides and boats'\n", '+++']]);

it('says where TOML is damaged', function (): void {
    expect(inMarkdown("+++\ncover = 'a.jpg'\nx = \"\"\"no end\n+++\n")->problems[0]->message)->toContain('TOML');
});

it('reads what programs put into a text', function (string $text, array $found): void {
    expect(saidInMarkdown($text))->toBe($found);
})->with([
    'a call' => ['{{< plate src="/media/a.jpg" words="x" >}}', ['call /media/a.jpg']],
    'a call without blanks' => ["{{%plate '/media/a.jpg'%}}", ['call /media/a.jpg']],
    'a bare word' => ['{% plate /media/a.jpg wide %}', ['call /media/a.jpg']],
    'a filter' => ['![x]({{ "/media/a.jpg" | at }})', ['call /media/a.jpg']],
    'several' => ['{{ row("/media/a.jpg", \'/media/b.jpg\') }}', ['call /media/a.jpg', 'call /media/b.jpg']],
    'a call in code' => ['`{{ "/media/a.jpg" }}`', []],
    'a call that another begins in' => ['{{ x {{ "/media/a.jpg" }}', ['call /media/a.jpg']],
    'words' => ['{{ page.title }} {% if a %} either/or {% end %}', []],
    'a component' => ['<Plate src="./a.jpg" wide alt="x" />', ['Plate[src] ./a.jpg']],
    'a component over lines' => ["<Plate\n  picture=\"/media/a.jpg\"\n/>", ['Plate[picture] /media/a.jpg']],
    'script in a component' => [
        "<Plate all={['/media/a.jpg', \"/media/b.jpg\"]} n={3} />",
        ['script /media/a.jpg', 'script /media/b.jpg'],
    ],
    'an object in a component' => [
        '<Plate style={{ backgroundImage: "url(/media/a.jpg)" }}>x</Plate>',
        ['css url /media/a.jpg'],
    ],
    'a component named like an element' => ['<Img src="/media/a.jpg" />', ['Img[src] /media/a.jpg']],
    'components in each other' => ["<Row>\n  <Plate src=\"/media/a.jpg\" />\n</Row>", ['Plate[src] /media/a.jpg']],
    'an import' => ["import pier from './pier.jpg'\n\nWords", ['import ./pier.jpg']],
    'words that begin like one' => ['import the file "a.jpg" now', ['import a.jpg']],
    'an element' => ['<img src="/media/a.jpg">', ['img[src] /media/a.jpg']],
]);

it('writes into front matter and calls', function (string $text, string $to, string $after): void {
    $reference = inMarkdown($text)->references[0];
    $edits = (new Rewriter())->edits($text, Notation::Markdown, markdownRules(), [[$reference, $to]]);
    expect($edits->applyTo($text))->toBe($after);
})->with([
    ["+++\ncover = \"a.jpg\"\n+++\n", 'b"\\.jpg', "+++\ncover = \"b\\\"\\\\.jpg\"\n+++\n"],
    ["+++\ncover = 'a.jpg'\n+++\n", 'b\\c.jpg', "+++\ncover = 'b\\c.jpg'\n+++\n"],
    ["{\"cover\": \"a.jpg\"}\n\nx", 'b.jpg', "{\"cover\": \"b.jpg\"}\n\nx"],
    ['{{< plate src="/media/a.jpg" >}}', '/media/b.jpg', '{{< plate src="/media/b.jpg" >}}'],
    ["<Plate all={['/media/a.jpg']} />", "/media/'b.jpg", "<Plate all={['/media/\\'b.jpg']} />"],
]);

it('takes for links what CommonMark does, on drawn documents', function (): void {
    $converter = new CommonMarkConverter(['html_input' => 'allow', 'allow_unsafe_links' => true]);
    $units = [
        '[', ']', '(', ')', '![', '`', '``', '\\', '*', "\n", "\n\n", "\n\n", ' ', '    ', '- ', '1. ', '> ',
        '# ', "~~~\n", "===\n",
        'word ', '"t"', ' "t"', '<b>', '</b>', "<div>\n", "</div>\n", "<x-y>\n", '&amp;', '<',
        '<http://u.example/Z>', '![a](/Z)',
        '[a](/Z)', '[a](/Z "t")', '[a]( /Z )', '[a](<Z b>)', "![a](\n/Z)", "[a](\n\n/Z)", "\n\n[r]: /Z\n",
        "\n\n[r]: /Z\n\"t\"\n", '[r]', '![r]',
        '<img src="/Z">', "<img\nsrc=\"/Z\">", "[a\nb](/Z)", '[![i](/Z)](/Z)', '[a [b](/Z)](/Z)', '`[a](/Z)`',
        "\n    [a](/Z)\n", '](/Z)',
        "](/Z \"a\n\nb\")",
    ];
    $differ = [];
    for ($seed = 0; $seed < 1200; $seed++) {
        mt_srand($seed);
        $text = '';
        for ($n = mt_rand(2, 12), $k = 0; $n > 0; $n--) {
            $text .= preg_replace_callback(
                '~Z~', static fn (): string => 'u'.(++$k).'.png', $units[mt_rand(0, count($units) - 1)],
            );
        }
        $html = (string) $converter->convert($text);
        $wanted = (new FieldReader())->read($html, Notation::Html, new Rules())->references;
        $read = (new FieldReader())->read($text, Notation::Markdown, new Rules())->references;
        $wanted = array_map(rawurldecode(...), array_column($wanted, 'value'));
        $found = array_map(rawurldecode(...), array_column($read, 'value'));
        // A definition names a file whether it is used or not.
        $isLink = static fn (Reference $r): bool => $r->role !== 'reference definition';
        $links = array_map(rawurldecode(...), array_column(array_filter($read, $isLink), 'value'));
        if (array_diff($wanted, $found) !== [] || array_diff($links, $wanted) !== []) {
            $differ[] = $seed.': '.json_encode($text);
        }
    }
    expect($differ)->toBe([]);
});
