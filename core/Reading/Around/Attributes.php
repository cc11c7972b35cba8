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
     * @return array<string, string>
     */
    public static function of(string $text, int $at): array
    {
        preg_match_all(self::ONE, $text, $matches, 0, $at);
        // Most tags have nothing to decode, which one look at all of it tells.
        $all = implode('', $matches[2]);
        $isPlain = strpbrk($all, "&\r\0") === false && ! LegacyDecoder::isNeeded($all);
        $attributes = [];
        foreach ($matches[1] as $i => $name) {
            $value = $matches[2][$i];
            $attributes[strtolower($name)] ??= $isPlain ? $value : CharacterReferences::decode(LegacyDecoder::text($value), 0)[0];
        }

        return $attributes;
    }
}
