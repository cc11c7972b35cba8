<?php

declare(strict_types=1);

namespace Ylema\Reading\Around;

use Ylema\Reading\Encoding\LegacyDecoder;
use Ylema\Reading\Readers\Html\CharacterReferences;

/**
 * The attributes of one start tag as a browser sees them (HTML Standard, 13.2.5.32–40): names in lower case,
 * values decoded, the first of two with one name.
 *
 * @internal
 */
final class Attributes
{
    private const ONE = '~[\t\n\f\r\x20/]*+([^\t\n\f\r\x20/>][^\t\n\f\r\x20/>=]*+)(?:[\t\n\f\r\x20]*+=[\t\n\f\r\x20]*+(?|"([^"]*+)"|\'([^\']*+)\'|([^\t\n\f\r\x20>"\'][^\t\n\f\r\x20>]*+))?+)?+~AS';

    /**
     * @param  int  $at where the attributes begin in the text, behind the element's name
     * @param  Document|null  $document whose encoding counts where the text is not UTF-8
     * @return array<string, string>
     */
    public static function of(string $text, int $at, ?Document $document = null): array
    {
        preg_match_all(self::ONE, $text, $matches, 0, $at);
        [, $names, $values] = $matches;
        // Most tags have nothing to decode, which one look at all of it tells.
        $all = implode('', $values);
        if (strpbrk($all, "&\r\0") !== false || LegacyDecoder::isNeeded($all)) {
            foreach ($values as $i => $value) {
                $values[$i] = CharacterReferences::decode(LegacyDecoder::text($value, $document?->charset), 0)[0];
            }
        }
        $attributes = [];
        foreach ($names as $i => $name) {
            $attributes[strtolower($name)] ??= $values[$i];
        }

        return $attributes;
    }

    /**
     * Where the value of one attribute stands: the first of its name.
     *
     * @return array{int, string, string}|null offset of the value, the value as it is written, its quote
     */
    public static function place(string $text, int $at, string $attribute): ?array
    {
        while (preg_match(self::ONE, $text, $m, PREG_OFFSET_CAPTURE, $at) === 1) {
            $end = $m[0][1] + strlen($m[0][0]);
            if (strtolower($m[1][0]) === $attribute) {
                if (! isset($m[2])) {
                    return null;
                }
                $before = $m[2][1] > 0 ? $text[$m[2][1] - 1] : '';

                return [$m[2][1], $m[2][0], $before === '"' || $before === "'" ? $before : ''];
            }
            $at = $end;
        }

        return null;
    }

    /**
     * Where a whole attribute stands, the blanks before it included.
     *
     * @return array{int, int}|null start and end
     */
    public static function span(string $text, int $at, string $attribute): ?array
    {
        while (preg_match(self::ONE, $text, $m, PREG_OFFSET_CAPTURE, $at) === 1) {
            $end = $m[0][1] + strlen($m[0][0]);
            if (strtolower($m[1][0]) === $attribute) {
                return [$m[0][1], $end];
            }
            $at = $end;
        }

        return null;
    }
}
