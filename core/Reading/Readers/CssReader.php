<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

use Ylema\Reading\Around\Declaration;
use Ylema\Reading\Collector;
use Ylema\Reading\Encoding\CodePoint;
use Ylema\Reading\Fetch;
use Ylema\Reading\FieldReader;
use Ylema\Reading\HtmlRoles;
use Ylema\Reading\Layers\CssUrl;
use Ylema\Reading\Layers\HtmlAttribute;
use Ylema\Reading\Layers\XmlText;
use Ylema\Reading\Names;
use Ylema\Reading\PatternGaveUp;
use Ylema\Reading\Reader;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/**
 * Style: `url()` in all its spellings, `@import`, and the strings of `image-set()`.
 *
 * Follows the tokens of CSS Syntax Module Level 3, section 4: a comment, a string or a longer name hides what looks
 * like `url(` inside it. PCRE skips every token that cannot matter in one match.
 */
final class CssReader implements Reader
{
    private const WS = '[\x20\t\r\n\f]';

    private const ESCAPE = '\\\\(?:[0-9a-f]{1,6}+(?:\r\n|[\x20\t\r\n\f])?+|[^\n\r\f0-9a-f])';

    /** A name's code points (4.3.11); bytes above ASCII are all part of one. */
    private const NAME = '(?:[\w\x80-\xFF-]|'.self::ESCAPE.')';

    private const STRING = '(?:"((?:[^"\\\\\n\r\f]++|\\\\(?:\r\n|(?s:.)))*+)(?:"|\z)|\'((?:[^\'\\\\\n\r\f]++'
        .'|\\\\(?:\r\n|(?s:.)))*+)(?:\'|\z))';

    private const COMMENT = '/\*(?:[^*]++|\*(?!/))*+(?:\*/|\z)';

    /**
     * All tokens that cannot matter, then what may: groups 1 and 2 the name of a function and its parenthesis, 3 an at
     * sign and `import`, `namespace`, or a name with escapes, which could spell either.
     * A string without its end (4.3.5, a bad string) is skipped up to the line's end like any other.
     */
    private const WALK = '~\G(?:
          [^"\'\\\\/@\#\w\x80-\xFF-]++
        | (?!(?:url|src|(?:-webkit-)?image-set)\()[a-z_\x80-\xFF-][\w\x80-\xFF-]*+(?!\\\\)
        | '.self::COMMENT.' | /
        | "(?:[^"\\\\\n\r\f]++|\\\\(?:\r\n|(?s:.)))*+(?:"|\z|(?=[\n\r\f]))
        | \'(?:[^\'\\\\\n\r\f]++|\\\\(?:\r\n|(?s:.)))*+(?:\'|\z|(?=[\n\r\f]))
        | (?:[\d\#]'.self::NAME.'*+|@(?!(?:import|namespace)(?![\w\x80-\xFF-]))[\w\x80-\xFF-]*+(?!\\\\(?![\n\r\f]|\z))
            |@'.self::NAME.'{0,5}+(?!'.self::NAME.'))
        | \\\\(?=[\n\r\f]|\z)
        )*+
        (?: ('.self::NAME.'++)(\(?) | (@'.self::NAME.'++) )?+~ixS';

    /**
     * What may stand between `url(` and its `)`, from behind the parenthesis: group 1 or 2 a string, 3 a bare address
     * (4.3.6).
     */
    private const ADDRESS = '~'.self::WS.'*+(?:'.self::STRING.'|((?:[^"\'()\\\\\x00-\x20\x7F]++|'.self::ESCAPE.')*+)'
        .self::WS.'*+(?:\)|\z))~iAS';

    private const REMNANTS = '~(?!'.self::WS.'*+["\'])(?:[^)\\\\]++|\\\\(?s:.))*+\)?+~AS';

    /** What stands behind `@import`: a string, or the start of a function. */
    private const IMPORT = '~(?:'.self::WS.'++|'.self::COMMENT.')*+(?:'.self::STRING.'|(url|src)\()~iAS';

    /** One token inside of image-set(): 1 or 2 a string, 3 a function's name, 4 a parenthesis. */
    private const SET = '~(?:[^"\'()\\\\/a-z_\x80-\xFF-]++|'.self::COMMENT.'|/|'.self::NAME.'++(?!\()|\\\\)*+(?:'
        .self::STRING.'|('.self::NAME.'*+)(\()|(\)))~iAS';

    /**
     * Groups 1 and 2 a string, 3 the name of a custom property before its colon, 4 what ends a declaration; functions
     * are skipped, for the walk reads them.
     */
    private const PROPERTY = '~'.self::COMMENT.'|'.self::STRING.'|(?<![\w-])(--(?:[\w\x80-\xFF-]'
        .'|\\\\.)*+)(?='.self::WS.'*+:)'
        .'|(?:url|src|image-set)\([^)"\']*+(?:"[^"]*+"|\'[^\']*+\')?[^)"\']*+\)?|([;{}])~iS';

    /** What may stand before an import: comments, a charset, layers that are only named (CSS Cascade 5, 2). */
    private const BEFORE_IMPORT = '~^(?:'.self::WS.'++|'.self::COMMENT.'|<!--|-->|;'
        .'|@charset'.self::WS.'++"[^"]*+";|@layer'
        .self::WS.'++[^;{}]*+;)*+$~isD';

    /** Where nothing here stands, nothing can refer: escapes could spell any of it. */
    private const TELLING = '~url\(|src\(|image-set\(|@import|\\\\~i';

    /** @var array<string, CssUrl> quote → layer */
    private readonly array $layers;

    public function __construct()
    {
        $this->layers = ['"' => new CssUrl('"'), "'" => new CssUrl("'"), '' => new CssUrl('')];
    }

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        $text = $slice->text;
        $this->variables($slice, $found, $rules);
        if (preg_match(self::TELLING, $text) !== 1) {
            return;
        }
        $length = strlen($text);
        $at = $behind = 0;
        $mayImport = true;
        while ($at < $length && preg_match(self::WALK, $text, $m, 0, $at) === 1) {
            if ($m[0] === '') {
                // A byte that begins no token, such as a quote whose line ends at once.
                $at++;

                continue;
            }
            $at += strlen($m[0]);
            // Either has seven letters at least, and so more bytes where some are escapes.
            $rule = isset($m[3]) && strlen($m[3]) > 6 ? strtolower(self::unescape($m[3])) : '';
            if ($rule === '@namespace') {
                // Its address is a name, and leads nowhere (CSS Namespaces 3, 3).
                $at += strcspn($text, ';{', $at);
            } elseif ($rule === '@import' && self::isAttribute($slice)) {
                // There are only declarations in an attribute (CSS Style Attributes, 3).
                $at += strcspn($text, ';{}', $at);
            } elseif ($rule === '@import') {
                $mayImport = $mayImport
                    && preg_match(self::BEFORE_IMPORT, substr($text, $behind, $at - $behind - strlen($m[3]))) === 1;
                $at = $this->import($slice, $at, $found, $mayImport);
                $at += strcspn($text, ';{}', $at);
                $behind = $at;
            } elseif (isset($m[1])) {
                $at = $m[2] === ''
                    ? $at
                    : $this->call(strtolower(self::unescape($m[1])), $slice, $at, 'css url', $found);
            }
        }
        $found->gaveUp($slice, $at);
    }

    private static function isAttribute(Slice $slice): bool
    {
        $last = array_slice($slice->layers, -1)[0] ?? null;

        return $last instanceof HtmlAttribute || ($last instanceof XmlText && $last->isAttribute());
    }

    /**
     * Strings in custom properties, which a function may take for addresses where the property is used
     * (CSS Variables 1, 3): `--boat: "boat.jpg"` and `image-set(var(--boat) 1x)`.
     */
    private function variables(Slice $slice, Collector $found, Rules $rules): void
    {
        $text = $slice->text;
        if (! str_contains($text, '--') || strpbrk($text, '"\'') === false) {
            return;
        }
        $isUsed = stripos($text, 'var(') !== false && preg_match('~(?:image-set|src)\(~i', $text) === 1;
        $property = '';
        $at = 0;
        while (preg_match(self::PROPERTY, $text, $m, PREG_OFFSET_CAPTURE, $at) === 1) {
            $start = $m[0][1];
            $at = $start + max(1, strlen($m[0][0]));
            if (isset($m[4])) {
                $property = '';
            } elseif (isset($m[3])) {
                $property = $m[3][0];
            } elseif (isset($m[1]) && $property !== '') {
                $raw = $m[2][0] ?? $m[1][0];
                $value = self::unescape($raw);
                $matters = $isUsed
                    ? preg_match(HtmlRoles::FILE, $value) === 1 || $rules->looksLikeAddress($value)
                    : TextReader::isTelling($value, $rules) && $rules->looksLikeAddress($value);
                if ($matters) {
                    $this->add($slice, $m, 'css image-set', Fetch::OnCondition, $start, $found);
                }
            }
        }
        $found->gaveUp($slice, $at);
    }

    /**
     * Escapes of CSS Syntax 4.3.7: up to six hex digits and one white space, a newline that is skipped, or the
     * character itself.
     */
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

                    return CodePoint::character($point === 0 ? 0xFFFD : $point);
                }

                return $m[3] ?? '';
            },
            $token,
        ) ?? throw new PatternGaveUp(preg_last_error_msg());
    }

    /**
     * A function that may hold an address.
     *
     * @param  int  $at behind its parenthesis
     * @return int where to go on
     */
    private function call(string $name, Slice $slice, int $at, string $role, Collector $found): int
    {
        if (str_ends_with($name, 'image-set')) {
            return $name === 'image-set' || $name === '-webkit-image-set' ? $this->imageSet($slice, $at, $found) : $at;
        }
        if ($name !== 'url' && $name !== 'src') {
            return $at;
        }
        if (preg_match(self::ADDRESS, $slice->text, $m, PREG_OFFSET_CAPTURE, $at) !== 1) {
            PatternGaveUp::check();

            // A bare address with a quote or a parenthesis inside hides all up to its end (4.3.14); a broken string
            // does not.
            return $name === 'url' && preg_match(self::REMNANTS, $slice->text, $m, 0, $at) === 1
                ? $at + strlen($m[0])
                : $at;
        }
        // src() takes only a string; unquoted it is not an address (CSS Values 4, 4.5).
        if ($name === 'url' || ! isset($m[3])) {
            $this->add($slice, $m, $role, Fetch::OnCondition, $at, $found);
        }

        return $at + strlen($m[0][0]);
    }

    /**
     * The strings and addresses of an image-set(), but not what its functions such as type() hold (CSS Images 4, 2.4).
     */
    private function imageSet(Slice $slice, int $at, Collector $found): int
    {
        for ($depth = 1; $depth > 0 && preg_match(self::SET, $slice->text, $m, PREG_OFFSET_CAPTURE, $at) === 1;) {
            $start = $at;
            $at += strlen($m[0][0]);
            if (isset($m[5])) {
                $depth--;
            } elseif (isset($m[4])) {
                $name = strtolower(self::unescape($m[3][0]));
                // An address is read with its parenthesis; anything else opens a level, be it another set.
                $behind = $name === 'url' || $name === 'src'
                    ? $this->call($name, $slice, $at, 'css image-set', $found)
                    : $at;
                $depth += $behind === $at ? 1 : 0;
                $at = $behind;
            } elseif ($depth === 1) {
                $this->add($slice, $m, 'css image-set', Fetch::OnCondition, $start, $found);
            }
        }

        PatternGaveUp::check();

        return $at;
    }

    /** @return int behind the address */
    private function import(Slice $slice, int $at, Collector $found, bool $mayImport): int
    {
        if (preg_match(self::IMPORT, $slice->text, $m, PREG_OFFSET_CAPTURE, $at) !== 1) {
            PatternGaveUp::check();

            return $at;
        }
        $behind = $at + strlen($m[0][0]);
        if (isset($m[3])) {
            if (preg_match(self::ADDRESS, $slice->text, $m, PREG_OFFSET_CAPTURE, $behind) !== 1) {
                return $behind;
            }
            $behind += strlen($m[0][0]);
        }
        $fetch = $mayImport && self::isUnconditional($slice->text, $behind) ? Fetch::Always : Fetch::OnCondition;
        $this->add($slice, $m, 'css import', $fetch, $at, $found);

        return $behind;
    }

    /** Whether nothing behind an imported address makes it wait; the name of a layer does not (CSS Cascade 5, 2). */
    private static function isUnconditional(string $text, int $at): bool
    {
        $rest = substr($text, $at, strcspn($text, ';{}', $at));
        $rest = preg_replace('~'.self::COMMENT.'~s', ' ', $rest) ?? $rest;

        return preg_match('~^\s*+(?:layer(?:\([^)]*+\))?(?![\w(-]))?\s*+(?:all)?\s*+$~iD', $rest) === 1;
    }

    /** @param  array<array-key, array{string, int}>  $m groups 1 to 3: in double quotes, in single ones, bare */
    private function add(Slice $slice, array $m, string $role, Fetch $fetch, int $from, Collector $found): void
    {
        $group = isset($m[3]) ? 3 : (isset($m[2]) ? 2 : 1);
        [$raw, $offset] = $m[$group];
        // What begins with a number sign stands in the document itself (CSS Values 4, 4.5.1).
        if ($raw !== '' && $raw[0] !== '#') {
            [$outside, $anchor] = $found->surroundings();
            $found->add(
                $slice, $offset, strlen($raw), self::unescape($raw), Names::Address, $role, $fetch,
                $this->layers[['', '"', "'", ''][$group]], surroundings: new Declaration(
                    $outside, $anchor, $slice->text, $from,
                ),
            );
        }
    }
}
