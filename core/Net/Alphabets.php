<?php

declare(strict_types=1);

namespace Ylema\Net;

use Ylema\Reading\Encoding\Charset;

/**
 * In which of the older encodings of the web (Encoding Standard, 4.2 "names and labels") names can be written, by the
 * alphabets that their letters are of.
 *
 * @internal
 */
final class Alphabets
{
    /** A letter of an alphabet, which no other encoding than these can say. */
    private const ENCODINGS = [
        '[\x{C0}-\x{FF}]' => ['windows-1252', 'macintosh', 'windows-1250', 'ISO-8859-2', 'windows-1254'],
        '[\x{100}-\x{24F}]' => [
            'windows-1250', 'ISO-8859-2', 'windows-1254', 'windows-1257', 'ISO-8859-4', 'windows-1258',
        ],
        '\p{Han}' => ['Shift_JIS', 'EUC-JP', 'gb18030', 'Big5', 'EUC-KR'],
        '[\p{Hiragana}\p{Katakana}]' => ['Shift_JIS', 'EUC-JP', 'gb18030'],
        '\p{Hangul}' => ['EUC-KR'],
        '\p{Cyrillic}' => ['windows-1251', 'KOI8-U', 'ISO-8859-5', 'IBM866', 'x-mac-cyrillic'],
        '\p{Greek}' => ['windows-1253', 'ISO-8859-7'],
        '\p{Hebrew}' => ['windows-1255', 'ISO-8859-8'],
        '\p{Arabic}' => ['windows-1256', 'ISO-8859-6'],
        '\p{Thai}' => ['windows-874'],
    ];

    /** @var array<string, true> pattern → whether a name has such a letter */
    private array $met = [];

    public function meet(string $name): void
    {
        foreach (self::ENCODINGS as $letter => $_) {
            if (! isset($this->met[$letter]) && preg_match("~$letter~u", $name) === 1) {
                $this->met[$letter] = true;
            }
        }
    }

    /** @return list<Charset> the commonest first, where a name has other letters than those of ASCII */
    public function charsets(): array
    {
        $labels = array_merge(['windows-1252'], ...array_values(array_intersect_key(self::ENCODINGS, $this->met)));

        return array_values(array_filter(array_map(Charset::called(...), array_values(array_unique($labels)))));
    }
}
