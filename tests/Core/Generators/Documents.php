<?php

declare(strict_types=1);

namespace Tests\Core\Generators;

use Random\Engine\Mt19937;
use Random\Randomizer;
use Ylema\Reading\Notation;

/**
 * Draws documents in every notation and nesting, each value spelt with the escapes that its place allows, chosen at
 * random. The same seed gives the same document. Decoys, which no reader may take for references, stand between.
 */
final class Documents
{
    private Randomizer $random;

    /** @var array<string, string> letters of values that the encoding of the document does not have, and its own */
    private array $letters = [];

    /** How deep in documents inside of attributes. */
    private int $depth = 0;

    public function __construct(int $seed)
    {
        $this->random = new Randomizer(new Mt19937($seed));
    }

    /** @return array{Piece, Notation} */
    public function document(): array
    {
        return match ($this->number(0, 20)) {
            0, 1 => [$this->css(), Notation::Css],
            2, 3 => [$this->json($this->tree(2)), Notation::Json],
            4, 5 => [$this->serialized($this->tree(2)), Notation::PhpSerialized],
            6 => [
                $this->json([
                    'in' => $this->serialized(['a' => $this->html(), 'b' => $this->serialized(['c' => $this->html()])]),
                ]),
                Notation::Json,
            ],
            7 => [$this->markdown(), Notation::Markdown],
            8 => [$this->xml(), Notation::Xml],
            9 => [$this->script(), Notation::JavaScript],
            10 => [$this->declared('windows-1252', []), Notation::Html],
            11 => [$this->declared('windows-1251', ['ü' => 'ы', 'ß' => 'ж', 'é' => 'й']), Notation::Html],
            12 => [$this->declared('Shift_JIS', ['ü' => '港', 'ß' => '表', 'é' => 'ソ']), Notation::Html],
            13 => [
                $this->blocks()->encoded(static fn (string $t): string => (string) preg_replace('~\r?\n~', "\r\n", $t)),
                Notation::Markdown,
            ],
            14 => [$this->blocks(), Notation::Markdown],
            15 => [Piece::of("\u{FEFF}", $this->json($this->tree(1))), Notation::Json],
            16 => [$this->table(), Notation::Csv],
            17 => [$this->yaml(), Notation::Yaml],
            default => [$this->html(), Notation::Html],
        };
    }

    /** A new value to write, with all that can go wrong in it. */
    public function value(): string
    {
        $pieces = [
            '/media/',
            'boat',
            'ü',
            ' ',
            '&',
            '&amp;',
            'é',
            '"',
            "'",
            '(',
            ')',
            '%20',
            ',',
            '<',
            '>',
            '=',
            '.jpg',
            '?v=1&x=2',
            '#a',
            '\\',
            '😀',
            '/',
            '2x',
        ];
        $value = '/media/';
        for ($n = $this->number(1, 6); $n > 0; $n--) {
            $value .= $pieces[$this->number(0, count($pieces) - 1)];
        }

        return trim($value).'z';
    }

    public function number(int $from, int $to): int
    {
        return $this->random->getInt($from, $to);
    }

    /** Cuts, doubles or garbles bytes, as databases and hands do. */
    public function damage(string $text): string
    {
        for ($n = $this->number(1, 4); $n > 0 && $text !== ''; $n--) {
            $at = $this->number(0, strlen($text) - 1);
            $text = match ($this->number(0, 3)) {
                0 => substr($text, 0, $at),
                1 => substr($text, 0, $at)
                    .[
                        '"',
                        "'",
                        '<',
                        '>',
                        '&',
                        '\\',
                        "\0",
                        '{',
                        ':',
                        "\xFF",
                        '</script>',
                        '/*',
                        '<![CDATA[',
                        '<svg>',
                        '-->',
                        '`',
                        '${',
                    ][$this->number(0, 16)]
                    .substr($text, $at),
                2 => substr($text, 0, $at).substr($text, $at + $this->number(1, 9)),
                default => substr($text, 0, $at).substr($text, max(0, $at - 20)),
            };
        }

        return $text;
    }

    private function often(int $percent): bool
    {
        return $this->number(1, 100) <= $percent;
    }

    /**
     * A page that says its encoding, and whose words are of it.
     *
     * @param  array<string, string>  $letters
     */
    private function declared(string $charset, array $letters): Piece
    {
        $this->letters = $letters;

        return Piece::of("<meta charset='$charset'>", $this->html())->encoded(
            static fn (string $t): string => (string) mb_convert_encoding($t, $charset, 'UTF-8'),
        );
    }

    private function html(): Piece
    {
        $html = Piece::of();
        for ($n = $this->number(1, 6); $n > 0; $n--) {
            $html = Piece::of($html, $this->element());
        }

        return $html;
    }

    private function element(): Piece
    {
        $name = $this->name();
        $attribute = fn (string $quote, Piece $value): Piece => Piece::of(
            $quote,
            $value->encoded(fn (string $t): string => $this->htmlEscaped($t, $quote)),
            $quote,
        );
        $quote = ['"', "'"][$this->number(0, 1)];
        $address = $attribute($quote, Piece::reference($name));

        // What the site itself expands before a browser sees the page stands in no document of its own.
        return match ($this->number(0, $this->depth === 0 ? 25 : 22)) {
            0 => Piece::of('<img alt="a > b" src=', $address, '>'),
            1 => Piece::of("<IMG\r\n SRC = ", $address, '/>'),
            2 => Piece::of(
                '<img src=',
                $attribute(
                    '',
                    Piece::reference(strtr($name, [' ' => '', '"' => '', "'" => '', '`' => '', '>' => '', '=' => ''])),
                ),
                ' width=9>',
            ),
            3, 4 => Piece::of(
                '<img class="x" srcset=',
                $attribute($quote, $this->candidates()),
                ' src=',
                $address,
                ' sizes="(min-width: 9em) 50vw, 100vw">',
            ),
            5 => Piece::of(
                '<p style=',
                $attribute($quote, Piece::of('color:red;background:', $this->cssAddress())),
                '>x</p>',
            ),
            6 => Piece::of("<a title='it' href=", $address, "><b>x</b></a>\r\n"),
            7 => Piece::of('<style>', $this->css(), '</style>'),
            8 => Piece::of('<script>', $this->script(), '</script>'),
            9 => Piece::of(
                '<script type="application/ld+json">',
                $this->json(['image' => Piece::reference('/media/'.$this->word().'.jpg')]),
                '</script>',
            ),
            10 => Piece::of('<div data-background=', $address, '>é</div>'),
            11 => Piece::of(
                '<video poster=',
                $address,
                '><source src=',
                $attribute("'", Piece::reference($this->name())),
                '></video>',
            ),
            12 => Piece::plain(
                '<!-- <img src="/media/no.jpg"> --> 1 < 2 &amp; <textarea><img src="/media/no.jpg"></textarea><a '
                    .'src=/media/no.jpg><img href="/media/no.jpg">',
            ),
            13 => Piece::of('<svg><![CDATA[ <img src="/media/no.jpg"> ]]><image xlink:href=', $address, '/></svg>'),
            14 => Piece::of('<img src="" data-src=', $address, ' src="/media/no.jpg" loading=lazy>'),
            15 => Piece::of(
                '<svg><style>',
                // Style in a drawing is text as any other, and its references to characters are read.
                $attribute('', $this->css()),
                '</style><rect fill=',
                $attribute($quote, $this->cssAddress()),
                '/><use href="#a"/><a xlink:href=',
                $address,
                '>é</a></svg>',
            ),
            16 => Piece::of('<img src=', $address, ' onerror=', $attribute($quote, $this->script()), '>'),
            17 => Piece::of('<noscript><img src=', $address, '></noscript>'),
            18 => $this->inside($attribute, $quote),
            19 => Piece::of('<table><tr background=', $address, '><td>é</table><frame src=', $address, '>'),
            20 => Piece::of(
                '<p>Look at ',
                Piece::reference('/media/'.['boat', 'sea-2'][$this->number(0, 1)].'.jpg'),
                ', it is new.</p>',
            ),
            21 => Piece::of('<object data=', $address, '><param name="movie" value=', $address, '></object>'),
            23 => Piece::of(
                '<!-- block ',
                $this->json(['image' => Piece::reference('/media/'.$this->word().'.jpg')]),
                ' --><p>é</p><!-- {"image": "/media/no.jpg"} -->',
            ),
            24 => Piece::of(
                "[film wide src=$quote",
                Piece::reference('/media/'.$this->word().'.mp4'),
                "$quote] [films src='no.mp4']",
            ),
            25 => Piece::of('[box]<img src=', $address, '>[/box]'),
            default => Piece::plain(
                "<h2>Grüße</h2>\n<script><!-- <script>'/media/no.jpg' </script> --></script><p title='<img "
                    ."src=/media/no.jpg>'>",
            ),
        };
    }

    /**
     * A document in an attribute; none deeper than two, for its escapes double with each.
     *
     * @param  callable(string, Piece): Piece  $attribute
     */
    private function inside(callable $attribute, string $quote): Piece
    {
        if ($this->depth === 2) {
            return Piece::plain('<iframe srcdoc=""></iframe>');
        }
        $this->depth++;
        $inside = Piece::of('<iframe srcdoc=', $attribute($quote, $this->element()), '></iframe>');
        $this->depth--;

        return $inside;
    }

    private function candidates(): Piece
    {
        $list = Piece::of();
        for ($n = $this->number(1, 4), $i = 1; $i <= $n; $i++) {
            $value = trim(strtr($this->name(), [' ' => '%20']), ',');
            $list = Piece::of(
                $list,
                $i === 1 ? '' : [', ', ",\n  "][$this->number(0, 1)],
                Piece::reference($value),
                " {$i}".['00w', 'x', '.5x'][$this->number(0, 2)],
            );
        }

        return $list;
    }

    private function css(): Piece
    {
        return Piece::of(
            'a { background: ',
            $this->cssAddress(),
            " } /* url(/media/no.jpg) */\n@import ",
            $this->cssString(),
            '; b { content: "url(/media/no.jpg)"; --c: image-set(',
            $this->cssString(),
            ' 1x type("image/png"), ',
            $this->cssAddress(),
            ' 2x) }',
        );
    }

    private function cssAddress(): Piece
    {
        $ws = ['', ' ', "\n"][$this->number(0, 2)];

        return Piece::of(
            ['url(', 'URL(', 'u\72 l('][$this->number(0, 2)],
            $ws,
            $this->often(40)
                ? Piece::reference($this->name())->encoded(fn (string $t): string => $this->cssEscaped($t, ''))
                : $this->cssString(),
            $ws,
            ')',
        );
    }

    private function cssString(): Piece
    {
        $quote = ['"', "'"][$this->number(0, 1)];

        return Piece::of(
            $quote,
            Piece::reference($this->name())->encoded(fn (string $t): string => $this->cssEscaped($t, $quote)),
            $quote,
        );
    }

    private function script(): Piece
    {
        $literal = function (string $quote): Piece {
            $value = '/media/'.$this->word().'.jpg';

            return Piece::of(
                $quote,
                Piece::reference($value)->encoded(fn (string $t): string => $this->scriptEscaped($t, $quote)),
                $quote,
            );
        };

        return Piece::of(
            'var a = ',
            $literal("'"),
            ', r = /["\']/, b = ',
            $literal('"'),
            "; // it's '/media/no.jpg'\nload(",
            $literal('`'),
            '); /* "/media/no.jpg" */',
        );
    }

    private function markdown(): Piece
    {
        $plain = fn (): Piece => Piece::reference('/media/'.$this->word().'.jpg');
        $angled = Piece::reference(strtr($this->name(), ['&' => 'n', '"' => '']))->encoded(
            static fn (string $t): string => strtr($t, ['\\' => '\\\\', '<' => '\\<', '>' => '\\>']),
        );

        return Piece::of(
            "---\ncover: ",
            $plain(),
            "\nlist:\n  - '",
            $plain(),
            "'\n---\n# Tides\n\n![a](",
            $plain(),
            ') [b](<',
            $angled,
            "> 'x')\n\n[c]: ",
            $plain(),
            "\n\n`![no](/media/no.jpg)`\n\n```\n![no](/media/no.jpg)\n```\n\n<img src=\"",
            $plain(),
            "\">\n",
        );
    }

    /** Markdown with items, quotes and code in each other. */
    private function blocks(): Piece
    {
        $text = Piece::of();
        for ($n = $this->number(1, 6); $n > 0; $n--) {
            $picture = Piece::of('![x](', Piece::reference('/media/'.$this->word().'.jpg'), ')');
            $no = '![no](/media/no.jpg)';
            $text = Piece::of($text, ...match ($this->number(0, 9)) {
                0 => ["- one\n\n    ", $picture, "\n\n      ", "$no\n"],
                1 => ["- ```\n  $no\n  ```\n- ", $picture, "\n"],
                2 => ['> ', $picture, "\n>\n>     $no\n"],
                3 => ["1. one\n\n   ~~~ txt\n   $no\n   ~~~\n\n   ", $picture, "\n"],
                4 => ["words\n    ", $picture, "\n\n    $no\n"],
                5 => ["<div>\n```\n", $this->element(), "\n</div>\n"],
                6 => ['[![x](', Piece::reference('/media/'.$this->word().'.jpg'), ' =9x9)](<',
                    Piece::reference('/media/a b.html'), "> 'x')\n"],
                7 => ["`$no` [film src=", Piece::reference('/media/'.$this->word().'.mp4'), "]\n"],
                8 => ["![x][one]\n\n[one]:\n  <", Piece::reference('/media/'.$this->word().'.jpg'), ">\n  'Title'\n"],
                default => ["- one\n    - two\n\n\t\t", $picture, "\n"],
            }, ...["\nand\n\n"]);
        }

        return $text;
    }

    private function xml(): Piece
    {
        $escaped = static fn (Piece $piece): Piece => $piece->encoded(
            static fn (string $t): string => strtr($t, [
                '&' => '&amp;',
                '<' => '&lt;',
                '>' => '&#62;',
                '"' => '&quot;',
                "\r" => '&#13;',
            ]),
        );
        $inner = Piece::of('<img src="', Piece::reference('/media/'.$this->word().'.jpg'), '">');

        return Piece::of(
            '<?xml version="1.0"?><rss><item><enclosure url="',
            $escaped(Piece::reference($this->name())),
            '"/><loc> ',
            $escaped(Piece::reference(trim($this->name()))),
            ' </loc><!-- <enclosure url="/media/no.jpg"/> --><d><![CDATA[',
            $inner,
            ']]></d><e>',
            $escaped($inner),
            '</e></item></rss>',
        );
    }

    /** @return array<array-key, mixed> */
    private function tree(int $depth): array
    {
        $tree = [
            'a' => Piece::reference('/media/'.$this->word().'.jpg'),
            'h' => $this->html(),
            'n' => $this->number(0, 99),
            'ü' => null,
            't' => true,
            'c' => Piece::of('background:url(', Piece::reference('/media/'.$this->word().'.jpg'), ')'),
        ];
        if ($depth > 0) {
            $tree['list'] = [
                $this->tree($depth - 1),
                $this->serialized([Piece::reference('/media/'.$this->word().'.jpg')]),
            ];
        }

        return $tree;
    }

    /** @param  array<array-key, mixed>  $tree */
    private function json(array $tree): Piece
    {
        $list = array_is_list($tree);
        $json = Piece::plain($list ? '[' : '{ ');
        $first = true;
        foreach ($tree as $key => $value) {
            $json = Piece::of(
                $json,
                $first ? '' : ', ',
                $list ? '' : json_encode((string) $key).': ',
                match (true) {
                    $value instanceof Piece => Piece::of('"', $value->encoded($this->jsonEscaped(...)), '"'),
                    is_array($value) => $this->json($value),
                    default => (string) json_encode($value),
                },
            );
            $first = false;
        }

        return Piece::of($json, $list ? ']' : ' }');
    }

    /** @param  array<array-key, mixed>  $tree */
    private function serialized(array $tree): Piece
    {
        $text = Piece::plain('a:'.count($tree).':{');
        foreach ($tree as $key => $value) {
            $text = Piece::of(
                $text,
                serialize($key),
                match (true) {
                    $value instanceof Piece => Piece::of('s:'.strlen($value->text()).':"', $value, '";'),
                    is_array($value) => $this->serialized($value),
                    default => serialize($value),
                },
            );
        }

        return Piece::of($text, '}');
    }

    private function table(): Piece
    {
        $sign = [',', ';', "\t"][$this->number(0, 2)];
        $end = ["\n", "\r\n"][$this->number(0, 1)];
        $quoted = static fn (Piece $cell): Piece => Piece::of('"', $cell->encoded(
            static fn (string $text): string => str_replace('"', '""', $text),
        ), '"');
        $table = Piece::plain(implode($sign, ['name', 'words', 'photo', 'more']).$end);
        for ($n = $this->number(1, 4); $n > 0; $n--) {
            $table = Piece::of(
                $table,
                'It was'.$sign,
                $quoted($this->html()),
                $sign,
                Piece::reference('/media/'.$this->word().'.jpg'),
                $sign,
                $this->often(50) ? '' : $quoted(Piece::reference('/media/'.$this->word().'.jpg')),
                $end,
            );
        }

        return $table;
    }

    private function yaml(): Piece
    {
        $double = static fn (Piece $value): Piece => Piece::of('"', $value->encoded(
            static fn (string $text): string => strtr(
                $text,
                ['\\' => '\\\\', '"' => '\\"', "\n" => '\\n', "\r" => '\\r'],
            ),
        ), '"');
        $single = static fn (Piece $value): Piece => Piece::of("'", $value->encoded(
            static fn (string $text): string => str_replace("'", "''", $text),
        ), "'");
        $yaml = Piece::plain("# people\n");
        for ($n = $this->number(1, 4); $n > 0; $n--) {
            $picture = Piece::reference('/media/'.$this->word().'.jpg');
            $yaml = Piece::of(
                $yaml,
                "- name: It was\n  photo: ",
                match ($this->number(0, 2)) {
                    0 => $picture,
                    1 => $double($picture),
                    default => $single($picture),
                },
                " # here\n  words: ",
                $double($this->html()),
                "\n  more: {a: ",
                $single(Piece::reference('/media/'.$this->word().'.jpg')),
                ", n: 3}\n",
            );
        }

        return $yaml;
    }

    private function name(): string
    {
        return '/media/'
            .strtr([
                'boat',
                'a & b',
                'x"y',
                "o'clock",
                'grüße',
                'a,b',
                'q?a=1&b=2',
                'e=f',
                'p(1)',
                'back\\slash',
                'a&copy;',
                'lt<gt>',
                '%C3%BC',
            ][$this->number(0, 12)], $this->letters)
            .'.jpg';
    }

    private function word(): string
    {
        return strtr(['boat', 'sea-2', 'grüße', 'a.b', 'x%20y'][$this->number(0, 4)], $this->letters);
    }

    private function htmlEscaped(string $text, string $quote): string
    {
        return $this->each(
            $text,
            fn (string $c): string => match (true) {
                $c === '&' => ['&amp;', '&#38;', '&#x26;', '&AMP;'][$this->number(0, 3)],
                $c === "\r" => '&#13;',
                $c === $quote, $quote === '' && strpbrk($c, " \t\n\f\"'=<>`") !== false => $c === '"'
                && $this->often(50)
                    ? '&quot;'
                    : '&#'.ord($c).';',
                $this->often(6) => '&#'
                    .[(string) mb_ord($c), 'x'.dechex(mb_ord($c)), 'X00'.strtoupper(dechex(mb_ord($c)))][
                        $this->number(0, 2)
                    ]
                    .';',
                default => $c,
            },
        );
    }

    private function cssEscaped(string $text, string $quote): string
    {
        return $this->each(
            $text,
            fn (string $c): string => match (true) {
                $c === '\\', $c === $quote, $quote === '' && strpbrk($c, " \"'()") !== false => $this->often(50)
                && $c !== ' '
                    ? '\\'.$c
                    : sprintf('\\%x ', ord($c)),
                $this->often(6) => sprintf(['\\%x ', '\\%06X '][$this->number(0, 1)], mb_ord($c)),
                default => $c,
            },
        );
    }

    private function jsonEscaped(string $text): string
    {
        return $this->each(
            $text,
            fn (string $c): string => match (true) {
                $c === '/' && $this->often(30) => '\\/',
                $this->often(6), $c < ' ', $c === '"', $c === '\\' => substr(
                    (string) json_encode(
                        $c,
                        $this->often(50) ? JSON_HEX_QUOT | JSON_HEX_TAG | JSON_HEX_AMP | JSON_HEX_APOS : 0,
                    ),
                    1,
                    -1,
                ),
                default => $c,
            },
        );
    }

    private function scriptEscaped(string $text, string $quote): string
    {
        return $this->each(
            $text,
            fn (string $c): string => match (true) {
                $c === $quote, $c === '\\' => '\\'.$c,
                $this->often(6) => mb_ord($c) < 256 && $this->often(50)
                    ? sprintf('\\x%02x', mb_ord($c))
                    : sprintf('\\u{%x}', mb_ord($c)),
                default => $c,
            },
        );
    }

    /** @param  callable(string): string  $encode */
    private function each(string $text, callable $encode): string
    {
        return implode('', array_map($encode, mb_str_split($text, 1, 'UTF-8')));
    }
}
