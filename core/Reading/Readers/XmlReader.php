<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

use Ylema\Reading\Breaks;
use Ylema\Reading\Collector;
use Ylema\Reading\Decoding;
use Ylema\Reading\Encoding\CodePoint;
use Ylema\Reading\Fetch;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layers\XmlText;
use Ylema\Reading\Names;
use Ylema\Reading\Notation;
use Ylema\Reading\Reader;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/**
 * XML 1.0, for feeds (RSS 2.0, RFC 4287), sitemaps with images, and drawings (SVG 2).
 *
 * Attributes and elements that hold addresses are known by name; other text is read by what it plainly is,
 * so that the escaped markup of a feed's description is found, too.
 */
final readonly class XmlReader implements Reader
{
    private const TOKENS = '~\G(?:([^<]++)|<!--(?:[^-]++|-(?!->))*+(?:-->|\z)|<!\[CDATA\[((?:[^\]]++|\](?!\]>))*+)(?:\]\]>|\z)|<\?(?!xml-stylesheet\s)(?:[^?]++|\?(?!>))*+(?:\?>|\z)|<![^>]*+(?:>|\z)|<(/?+)(\?xml-stylesheet(?=\s)|[^\s/>\x00?]++)((?:\s++|/(?!>)|\?(?!>)|[^\s/>=?]++(?:\s*+=\s*+(?:"[^"<]*+"|\'[^\'<]*+\'))?+)*+)([/?]?+)>)~S';

    /** The longest reference that is decoded: ten hundred thousand in decimal with its marks. */
    private const LONGEST = 10;

    private const ATTRIBUTES = [
        'url' => true, 'href' => true, 'xlink:href' => true, 'src' => true, 'poster' => true, 'data' => true,
    ];

    private const ELEMENTS = [
        'loc' => true, 'image:loc' => true, 'video:thumbnail_loc' => true, 'video:content_loc' => true, 'url' => true,
        'link' => true, 'icon' => true, 'logo' => true, 'media:thumbnail' => true,
    ];

    private StructuredValues $values;

    public function __construct()
    {
        $this->values = new StructuredValues;
    }

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        $text = $slice->text;
        $element = '';
        $at = 0;
        while (preg_match(self::TOKENS, $text, $m, PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL, $at) === 1) {
            $at = $m[0][1] + strlen((string) $m[0][0]);
            if (isset($m[4][0])) {
                $element = $m[3][0] === '/' || $m[6][0] !== '' ? '' : $m[4][0];
                if ($m[3][0] !== '/' && $m[5][0] !== null && $m[5][0] !== '') {
                    $this->attributes($slice, ltrim($m[4][0], '?'), $m[5][0], $m[5][1], $found, $rules, $others);
                }
            } elseif (isset($m[2][0])) {
                $this->text($slice, $element, $m[2][0], $m[2][1], XmlText::CDATA, $found, $rules, $others);
            } elseif (isset($m[1][0])) {
                $this->text($slice, $element, $m[1][0], $m[1][1], '', $found, $rules, $others);
            }
        }
        if ($at < strlen($text)) {
            $found->problem($slice->outer($at), 'The xml is damaged here; what follows was not read.');
        }
    }

    private function attributes(
        Slice $slice, string $element, string $section, int $start, Collector $found, Rules $rules, FieldReader $others,
    ): void {
        preg_match_all(
            '~([^\s/>=]++)\s*+=\s*+(?:"([^"]*+)"|\'([^\']*+)\')~S', $section, $matches,
            PREG_SET_ORDER | PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL,
        );
        foreach ($matches as $m) {
            $name = (string) $m[1][0];
            $quote = isset($m[2][0]) ? '"' : "'";
            [$raw, $offset] = isset($m[2][0]) ? $m[2] : ($m[3] ?? ['', 0]);
            [$value, $breaks] = self::decode((string) $raw, $start + $offset);
            $inner = $slice->inner($value, $start + $offset, $breaks, new XmlText($quote));
            if ($name === 'style') {
                $others->into($inner, Notation::Css, $found, $rules);
            } elseif (isset(self::ATTRIBUTES[$name])) {
                $this->address(
                    $inner, "{$element}[$name]",
                    in_array($element, ['image', 'use', 'feImage', 'xml-stylesheet'], true)
                        ? Fetch::Always
                        : Fetch::WhenFollowed,
                    $found,
                );
            }
        }
    }

    private function text(
        Slice $slice, string $element, string $raw, int $start, string $place, Collector $found, Rules $rules,
        FieldReader $others,
    ): void {
        if (trim($raw) === '') {
            return;
        }
        [$value, $breaks] = $place === XmlText::CDATA ? [$raw, null] : self::decode($raw, $start);
        $inner = $slice->inner($value, $start, $breaks, new XmlText($place), $element);
        if (isset(self::ELEMENTS[$element])) {
            $this->address($inner, $element, Fetch::WhenFollowed, $found);
        } elseif ($element === 'style') {
            $others->into($inner, Notation::Css, $found, $rules);
        } else {
            $this->values->read($inner, $found, $rules, $others);
        }
    }

    private function address(Slice $inner, string $role, Fetch $fetch, Collector $found): void
    {
        $trimmed = trim($inner->text);
        if ($trimmed !== '' && $trimmed[0] !== '#') {
            $found->add(
                $inner, (int) strpos($inner->text, $trimmed), strlen($trimmed), $trimmed, Names::Address, $role, $fetch,
            );
        }
    }

    /**
     * The five predefined entities and character references (XML 1.0, 4.1 and 4.6); others stay as they are.
     *
     * @return array{string, Breaks|null}
     */
    private static function decode(string $raw, int $start): array
    {
        $decoding = new Decoding($raw, $start);
        for ($at = strpos($raw, '&'); $at !== false; $at = strpos($raw, '&', $at + 1)) {
            if (preg_match('~&(?:#x([0-9a-fA-F]{1,6})|#([0-9]{1,7})|(amp|lt|gt|quot|apos));~A', substr($raw, $at, self::LONGEST), $m) === 1) {
                $decoding->replace($at, strlen($m[0]), match (true) {
                    isset($m[3]) => ['amp' => '&', 'lt' => '<', 'gt' => '>', 'quot' => '"', 'apos' => "'"][$m[3]],
                    isset($m[2]) => CodePoint::character((int) $m[2]),
                    default => CodePoint::character((int) hexdec($m[1])),
                });
                $at += strlen($m[0]) - 1;
            }
        }

        return $decoding->done();
    }
}
