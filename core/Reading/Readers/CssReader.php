<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

use Ylema\Reading\Collector;
use Ylema\Reading\Fetch;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layers\CssUrl;
use Ylema\Reading\Names;
use Ylema\Reading\Reader;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/**
 * Style: `url()` in all its spellings, `@import`, and the strings of `image-set()`.
 *
 * Follows the tokens of CSS Syntax Module Level 3: a comment or a string hides what looks like `url(` inside it.
 */
final readonly class CssReader implements Reader
{
    private const TOKENS = <<<'PCRE'
        ~(?:
            /\*(?:[^*]++|\*(?!/))*+(?:\*/|\z)
          | (?<url>(?<![\w-])(?<name>url|src)\()[\x20\t\r\n\f]*+(?:
                "(?<double>(?:[^"\\\n\r\f]++|\\(?s:.))*+)"
              | '(?<single>(?:[^'\\\n\r\f]++|\\(?s:.))*+)'
              | (?<bare>(?:[^"'()\\\x00-\x20\x7F]++|\\(?:[0-9a-f]{1,6}+(?:\r\n|[\x20\t\r\n\f])?+|[^\n\r\f0-9a-f]))*+)
            )[\x20\t\r\n\f]*+(?:\)|\z)
          | "(?<dstring>(?:[^"\\\n\r\f]++|\\(?s:.))*+)(?:"|(?=[\n\r\f])|\z)
          | '(?<sstring>(?:[^'\\\n\r\f]++|\\(?s:.))*+)(?:'|(?=[\n\r\f])|\z)
          | (?<import>@import(?![\w-]))
          | (?<set>(?<![\w-])(?:-webkit-)?image-set\()
          | (?<other>(?<![\w-])[a-z-]++\((?!\s*+["']?+\s*+\)))
          | (?<open>\()
          | (?<close>\))
          | (?<stop>[;{}])
          | \\(?s:.)
        )~ixS
        PCRE;

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        $text = $slice->text;
        // The dear part is the token walk; most inline styles hold nothing that could refer.
        if (stripos($text, 'url(') === false && stripos($text, '@import') === false && stripos($text, 'image-set(') === false && stripos($text, 'src(') === false) {
            return;
        }
        $layers = ['"' => new CssUrl('"'), "'" => new CssUrl("'"), '' => new CssUrl('')];
        $importing = false;
        $depth = 0;
        /** @var list<int> $sets depths at which an image-set() is open */
        $sets = [];
        $at = 0;
        $blockStart = 0;
        while (preg_match(self::TOKENS, $text, $m, PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL, $at) === 1) {
            $offset = $m[0][1];
            $at = $offset + max(1, strlen((string) $m[0][0]));
            $quote = null;
            $token = null;
            if (isset($m['url'][0])) {
                [$token, $quote] = match (true) {
                    isset($m['double'][0]) => [$m['double'], '"'],
                    isset($m['single'][0]) => [$m['single'], "'"],
                    default => [$m['bare'], ''],
                };
                // src() takes only a string; unquoted it is not an address (CSS Values 4, 4.5).
                if ($quote === '' && strtolower((string) $m['name'][0]) === 'src') {
                    $token = null;
                }
            } elseif (isset($m['dstring'][0]) || isset($m['sstring'][0])) {
                if ($importing || ($sets !== [] && end($sets) === $depth)) {
                    [$token, $quote] = isset($m['dstring'][0]) ? [$m['dstring'], '"'] : [$m['sstring'], "'"];
                }
            } elseif (isset($m['import'][0])) {
                $importing = true;
            } elseif (isset($m['set'][0])) {
                $sets[] = ++$depth;
            } elseif (isset($m['other'][0]) || isset($m['open'][0])) {
                $depth++;
            } elseif (isset($m['close'][0])) {
                if ($sets !== [] && end($sets) === $depth) {
                    array_pop($sets);
                }
                $depth = max(0, $depth - 1);
            } elseif (isset($m['stop'][0])) {
                $importing = false;
                $depth = 0;
                $sets = [];
                if ($m['stop'][0] !== ';') {
                    $blockStart = $offset + 1;
                }
            }
            if ($token === null || $quote === null || $token[0] === null || $token[0] === '') {
                continue;
            }
            $import = $importing;
            $importing = false;
            $found->add(
                $slice, $token[1], strlen($token[0]), self::unescape($token[0]), Names::Address,
                $import ? 'css import' : ($sets !== [] ? 'css image-set' : 'css url'),
                $import ? Fetch::Always : Fetch::OnCondition,
                $layers[$quote],
                within: self::declaration($text, $offset, $blockStart),
            );
        }
    }

    /** Escapes of CSS Syntax 4.3.7: up to six hex digits and one white space, a newline that is skipped, or the character itself. */
    public static function unescape(string $token): string
    {
        if (! str_contains($token, '\\')) {
            return $token;
        }

        return preg_replace_callback(
            '~\\\\(?:([0-9a-f]{1,6})(?:\r\n|[ \t\r\n\f])?|(\r\n|[\n\r\f])|(.))~is',
            static function (array $m): string {
                if ($m[1] !== '') {
                    $point = (int) hexdec($m[1]);

                    return $point === 0 || $point > 0x10FFFF || ($point >= 0xD800 && $point <= 0xDFFF)
                        ? "\u{FFFD}" : (string) mb_chr($point, 'UTF-8');
                }

                return $m[3] ?? '';
            },
            $token,
        ) ?? $token;
    }

    /** Selector and property around an offset, for the eye of the maintainer. */
    private static function declaration(string $text, int $offset, int $blockStart): ?string
    {
        $before = substr($text, max($blockStart, $offset - 400), min(400, $offset - $blockStart));
        $cut = strrpos($before, ';');
        $declaration = trim($cut === false ? $before : substr($before, $cut + 1));
        $colon = strpos($declaration, ':');
        $property = $colon === false ? $declaration : substr($declaration, 0, $colon);
        $selector = '';
        if ($blockStart > 0 && $text[$blockStart - 1] === '{') {
            $head = substr($text, max(0, $blockStart - 201), min(200, $blockStart - 1));
            $from = strrpos(strtr($head, '{;', '}}'), '}');
            $selector = trim(preg_replace('~/\*.*?\*/~s', '', $from === false ? $head : substr($head, $from + 1)) ?? '');
        }
        $words = trim($selector.($selector === '' ? '' : ' · ').$property);

        return $words === '' ? null : $words;
    }
}
