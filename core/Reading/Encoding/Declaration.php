<?php

declare(strict_types=1);

namespace Ylema\Reading\Encoding;

use Ylema\Reading\Notation;

/**
 * Which encoding a text says that it is in, as browsers look for it: by its first bytes, by what came with it, and in
 * its beginning (HTML Standard, 13.2.3.2 "prescan"; CSS Syntax 3, 3.2; XML 1.0, appendix F).
 *
 * @internal
 */
final class Declaration
{
    /** A browser looks this far. */
    private const PRESCANNED = 1024;

    /** Byte order marks (Encoding Standard, 6 "BOM sniff"). */
    private const MARKS = ["\xEF\xBB\xBF" => 'UTF-8', "\xFE\xFF" => 'UTF-16BE', "\xFF\xFE" => 'UTF-16LE'];

    /** How text in two bytes a character begins that has no mark (XML 1.0, appendix F). */
    private const WIDE = ["\0<\0" => 'UTF-16BE', "\0{\0" => 'UTF-16BE', "\0[\0" => 'UTF-16BE'];

    /** Elements in which a tag is none. */
    private const RAW = 'script|style|title|textarea|xmp|noembed|noframes|iframe';

    /**
     * Each step of the prescan: a comment, a meta tag (1 its attributes), an element in which a tag is none, any other
     * tag with its attributes, what is read as a comment.
     */
    private const STEP = '~<!--(?:.*?-->|.*+)'
        .'|<meta(?=[\t\n\f\r /])((?:[^>"\']++|"[^"]*+"|\'[^\']*+\')*+)'
        .'|<('.self::RAW.')(?=[\t\n\f\r />])(?:[^>"\']++|"[^"]*+"|\'[^\']*+\')*+>?.*?(?:</\2(?=[\t\n\f\r />])|\z)'
        .'|</?[a-z](?:[^>"\']++|"[^"]*+"|\'[^\']*+\')*+|<[!/?][^>]*+~is';

    private const ATTRIBUTE = '~([^\t\n\f\r />=][^\t\n\f\r />=]*+)[\t\n\f\r ]*+(?:=[\t\n\f\r ]*+(?:"([^"]*+)"|\''
        .'([^\']*+)\''
        .'|([^\t\n\f\r >]++)))?+~';

    /**
     * @param  string|null  $transport the label that came with the text, such as in a Content-Type
     * @return array{string, string} name and label of the encoding; UTF-8 where nothing says another
     */
    public static function of(string $text, Notation $notation, ?string $transport = null): array
    {
        foreach ($text !== '' && $text[0] > "\xEE" ? self::MARKS : [] as $mark => $name) {
            if (str_starts_with($text, $mark)) {
                return [$name, $name];
            }
        }
        if ($transport !== null && ($name = Labels::name($transport)) !== null) {
            return [$name, $transport];
        }
        $wide = self::WIDE[substr($text, 0, 3)] ?? null;
        if ($wide !== null || (($text[1] ?? '') === "\0" && preg_match('~^[<{\[]\0[\x09-\x7E]\0~', $text) === 1)) {
            return [$wide ?? 'UTF-16LE', $wide ?? 'UTF-16LE'];
        }
        $label = self::label(substr($text, 0, self::PRESCANNED), $notation);
        $name = $label === null ? null : Labels::name($label);

        return match ($name) {
            null => ['UTF-8', 'UTF-8'],
            // What could be read up to here is not in two bytes a character.
            'UTF-16BE', 'UTF-16LE' => ['UTF-8', 'UTF-8'],
            'x-user-defined' => [$notation === Notation::Html ? 'windows-1252' : $name, (string) $label],
            default => [$name, (string) $label],
        };
    }

    private static function label(string $head, Notation $notation): ?string
    {
        $declaration = '~^<\?xml\s[^>]*?\bencoding\s*+=\s*+(?:"([^"]++)"|\'([^\']++)\')~';

        if (stripos($head, 'charset') === false && stripos($head, 'encoding') === false) {
            return null;
        }

        return match ($notation) {
            Notation::Html => self::prescan($head) ?? self::first($declaration, $head),
            Notation::Css => self::first('~^@charset "([^"]*+)";~', $head),
            Notation::Xml => self::first($declaration, $head),
            default => null,
        };
    }

    private static function first(string $pattern, string $head): ?string
    {
        return preg_match($pattern, $head, $m) === 1 ? (string) end($m) : null;
    }

    private static function prescan(string $head): ?string
    {
        preg_match_all(self::STEP, $head, $steps, PREG_SET_ORDER);
        foreach ($steps as $step) {
            $label = isset($step[1]) && $step[1] !== '' ? self::ofMeta($step[1]) : null;
            if ($label !== null && Labels::name($label) !== null) {
                return $label;
            }
        }

        return null;
    }

    private static function ofMeta(string $attributes): ?string
    {
        preg_match_all(self::ATTRIBUTE, $attributes, $all, PREG_SET_ORDER | PREG_UNMATCHED_AS_NULL);
        $values = [];
        foreach ($all as $m) {
            $values[strtolower((string) $m[1])] ??= (string) ($m[2] ?? $m[3] ?? $m[4] ?? '');
        }
        if (isset($values['charset'])) {
            return $values['charset'];
        }
        $isType = strcasecmp($values['http-equiv'] ?? '', 'content-type') === 0;
        // "Extracting a character encoding from a meta element" (HTML Standard, 2.5.5).
        $pattern = '~charset[\t\n\f\r ]*+=[\t\n\f\r ]*+(?:"([^"]++)"|\'([^\']++)\'|([^"\';\t\n\f\r ]++))~i';

        return $isType ? self::first($pattern, $values['content'] ?? '') : null;
    }
}
