<?php

declare(strict_types=1);

namespace Ylema\Reading\Around;

use Ylema\Reading\Readers\CharacterReferences;
use Ylema\Reading\Readers\LegacyDecoder;

/**
 * The attributes of one start tag as a browser sees them (HTML Standard, 13.2.5.32–40): names in lower case,
 * values decoded, the first of two with one name.
 *
 * @internal
 */
final class Attributes
{
    private const ONE = '~\G[\t\n\f\r\x20/]*+([^\t\n\f\r\x20/>][^\t\n\f\r\x20/>=]*+)(?:[\t\n\f\r\x20]*+=[\t\n\f\r\x20]*+(?|"([^"]*+)"|\'([^\']*+)\'|([^\t\n\f\r\x20>"\'][^\t\n\f\r\x20>]*+))?+)?+~';

    /**
     * @param  string  $section the tag from behind its `<`, or more of the text
     * @param  int  $at where the attributes begin in it
     * @return array<string, string>
     */
    public static function of(string $section, int $at): array
    {
        preg_match_all(self::ONE, $section, $matches, PREG_SET_ORDER, $at);
        $attributes = [];
        foreach ($matches as $m) {
            $attributes[strtolower($m[1])] ??= CharacterReferences::decode(LegacyDecoder::text($m[2] ?? ''), 0)[0];
        }

        return $attributes;
    }
}
