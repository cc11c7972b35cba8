<?php

declare(strict_types=1);

namespace Tests\Core\Generators;

use Random\Engine\Mt19937;
use Random\Randomizer;
use Ylema\Reading\Notation;

/**
 * Texts that say one thing again and again, whole or cut off: whatever a reader looks for, it may be there by the
 * thousand, and without its end.
 */
final class Repetition
{
    /** Stands before what is repeated, and leads into the places where other rules hold. */
    private const BEGINNINGS = [
        'html' => [
            '', '<svg>', '<svg><desc>', '<math><mtext>', '<svg><style>', '<template>', '<select>', '<script>',
            '<style>', '<p style="', "<img srcset='", '<iframe srcdoc="', '<script type=text/html>',
            '<script type=application/json>', '<!--', '<a onclick="', '<x-y a="', '<noscript>', '<textarea>',
            '<picture>', '<body><frameset>', '<p data-x="',
        ],
        'css' => ['', '@import ', '@media x {', 'a{--b:', 'image-set(', 'url(', '/*', '"', '@namespace '],
        'srcset' => ['', 'a ', 'a (', ','],
        'json' => ['', '[', '{"a":', '["', '[[', '{"', '["<p>', '["{', '["a:1:{'],
        'php-serialized' => ['', 'a:1:{', 'a:9999999:{', 's:9:"', 'a:1:{i:0;', 'O:1:"A":1:{'],
        'markdown' => [
            '', "---\n", "+++\n", "{\n", '[', '![', '`', '> ', '- ', '<div>', "```\n", "---\na: [",
            "---\na: |\n ", "---\na: \"", '<A b={', '{{< a ',
        ],
        'xml' => ['', '<a>', '<a b="', '<![CDATA[', '<!--', '<?xml-stylesheet ', '<svg>', '<style>', '<a xmlns="x"'],
        'javascript' => ['', 'a=', '"', '`', '`${', '/*', '"a"+', '(', '[', 'JSON.parse("'],
        'text' => ['', '/media/', 'https://'],
        'addresses' => ['', '/media/a.jpg,', '{'],
    ];

    /** What is repeated: wholes, halves, and the signs that begin or end something. */
    private const UNITS = [
        'html' => [
            '<', '<a', '<a ', '<a href', '<a href=', '<a href="', "<a href='", '<a href=/x>',
            '<img src=/media/a.jpg>', '<img src="/media/a.jpg" srcset="/media/b.jpg 2x">', '<!--', '-->',
            '<!-->', '--!>', '<![CDATA[', ']]>', '<![CDATA[x]]>', '<svg>', '</svg>', '<desc>', '</desc>',
            '<math>', '<mtext>', '<title>', '</title>', '<style>', '</style>', '<script>', '</script>',
            '<script><!--', '<template>', '</template>', '<noscript>', '<iframe>', '<iframe srcdoc="',
            '<object data=a>', '<picture>', '<source srcset=a>', '</picture>', '&', '&amp;', '&#x26', '&amp',
            '/media/a.jpg ', '<p style="', '<p style="a:url(b)">', '<p a=b c=d>',
            '<p onclick="a(\'/media/a.jpg\')">', '"', "'", '>', '/', '=', ' ', "\n", "\r", "\0", "\xE9", '<?',
            '<!', '</', '</a', '</a>', '<meta content="0;url=', '<base href=a>', '<link rel=icon href=a>',
            '<body background=a>', '<frame src=a>', '<h2>', '</h2>', '<figure>', '<td background=a>',
            '<b-c d="/media/a.jpg">', '<p data-x="{&quot;a&quot;:&quot;/media/a.jpg&quot;}">',
            '<p data-x="/media/', '{{', '[a ',
        ],
        'css' => [
            'url(', 'url("', 'url(a)', 'url("a")', ')', '(', '"', "'", '\\', '\\61 ', '@import', '@import "a";',
            '@media', '@\\69mport ', '/*', '*/', '/**/', 'image-set(', 'image-set("a" 1x)',
            '-webkit-image-set(', 'src(', 'type(', ';', '{', '}', '--a:"b";', 'var(--a)', ',', ' ', "\n", "\f",
            'a:b;', '<!--', '-->', '@charset "a";', '@layer a;', '@namespace "a";', '#', '\\"', "\xE9",
        ],
        'srcset' => [',', ' ', 'a ', 'a,', '(', ')', 'a 1x,', 'a 1w 1h,', '1x', "\n", 'data:,'],
        'json' => [
            '[', ']', '{', '}', '"', '\\', '\\"', '\\u', '\\u00', '\\u0041', '\\ud83d', ',', ':', '"a":',
            '"a",', '["/media/a.jpg"],', '{"/media/a.jpg":1},', '"\\/media\\/a.jpg",', '1,', '-', ' ', "\n",
            'true,', '<img src=\\"a\\">', 'a:1:{', '](/media/a', "\xE9", '/media/a.jpg;', '/media/a.jpg, ',
            '"[]",', '"{}",', '"[1,2]",',
        ],
        'php-serialized' => [
            'a:1:{', 'i:0;', '}', 's:1:"a";', 's:12:"/media/a.jpg";', 's:1:', 'N;', 'b:1;', 'O:1:"A":1:{',
            'a:0:{}', '"', ';', 'd:1;', 'i:1', 'C:1:"A":1:{}', 'r:1;', "\xE9",
        ],
        'markdown' => [
            '[', ']', '(', ')', '![', '](', '](a', '](a)', '[a](b)', '![a](b)', '[a]: b', "[a]: b\n", '`', '``',
            '`a`', '\\', '<', '>', '<a', '<a>', '<a href="b">', '<http://a', '<http://a>', '*', "\n", "\n\n",
            ' ', '    ', "\t", '- ', '1. ', '> ', '#', '```', "~~~\n", '---', "---\n", "+++\n", '"', "'",
            '"a" ', '&amp;', '<!--', '-->', '<?', '<![CDATA[', '<div>', "<div>\n", '{{<', '>}}',
            '{{< a b="/media/a.jpg" >}}', '{%', '%}', '<A b={"/media/a.jpg"} />', '<A b={', "a: b\n",
            "- a: b\n", 'a: [', "a:\n  - ", "|\n", "/media/a.jpg\n", "\r\n", "\xE9", "<pre>\n",
        ],
        'xml' => [
            '<', '<a', '<a ', '<a b', '<a b="', '<a b="c"', '<a b="c"/>', '<a>', '</a>', '</', '/>', '>',
            '<!--', '-->', '<![CDATA[', ']]>', '<?', '?>', '<?xml-stylesheet href="a"?>', '<!', '<!DOCTYPE a [',
            '&', '&amp;', '&#x41;', '&#', '"', "'", '/media/a.jpg ', '<link>/a</link>', '<url>', ' xmlns:a="b"',
            '<style>', '</style>', '<image href="a"/>', ' ', "\n", "\xE9", '<svg>', '<p style="a:url(b)"/>',
            'srcset="a 1x"',
        ],
        'javascript' => [
            '"', "'", '`', '${', '}', '{', '(', ')', '[', ']', '"a"', '"a"+', '+', "'/media/'+a+",
            '"/media/a.jpg",', '`/media/${', '`a${b}`+', '/', '//', '/*', '*/', '/a/', '=/', '=/[', '\\', '\\u',
            '\\u{41}', "\n", ' ', ';', ',', 'a', 'a.b', '<!--', '"<img src=\'a\'>"+', '"url(a)"+', '"{}"',
            '"[1,2]"+', 'return ', "\xE9", '"](a/b"+', '.', '?.', '"a\\\n',
        ],
        'text' => [
            '/media/', '/media/a.jpg', '/media/a.jpg ', '/media/a.jpg;', 'https://', 'https://a', '/', '.', ')',
            '(', ':', ';', ',', ' ', "\n", '"', '=', '#', '//', '!', "\xE9", '?a=/media/b',
        ],
        'addresses' => [',', '|', ';', ' ', '/media/a.jpg,', 'a.jpg ', '"', '{', '}', '\\', '"a",', '""'],
    ];

    private Randomizer $random;

    public function __construct(int $seed)
    {
        $this->random = new Randomizer(new Mt19937($seed));
    }

    /**
     * @return list<array{Notation, string, string}> each unit of each notation behind one of its beginnings: notation,
     *       beginning, unit
     */
    public static function all(): array
    {
        $all = [];
        foreach (self::UNITS as $notation => $units) {
            foreach (self::BEGINNINGS[$notation] as $beginning) {
                foreach ($units as $unit) {
                    $all[] = [Notation::from($notation), $beginning, $unit];
                }
            }
        }

        return $all;
    }

    /** @return array{Notation, string, string} one to four units together, behind a beginning */
    public function draw(): array
    {
        $notation = $this->of(array_keys(self::UNITS));
        $unit = '';
        for ($n = $this->random->getInt(1, 4); $n > 0; $n--) {
            $unit .= $this->of(self::UNITS[$notation]);
        }

        return [Notation::from($notation), $this->of(self::BEGINNINGS[$notation]), $unit];
    }

    public static function text(string $beginning, string $unit, int $length): string
    {
        return $beginning.str_repeat($unit, intdiv($length, strlen($unit)));
    }

    /**
     * @template T
     *
     * @param  non-empty-list<T>  $from
     * @return T
     */
    private function of(array $from): mixed
    {
        return $from[$this->random->getInt(0, count($from) - 1)];
    }
}
