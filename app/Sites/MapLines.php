<?php

declare(strict_types=1);

namespace App\Sites;

/** Finds the line on which a place of a YAML text stands; the parser itself keeps no lines. */
final readonly class MapLines
{
    /** @var list<string> */
    private array $lines;

    public function __construct(string $yaml)
    {
        $this->lines = preg_split('~\r\n?|\n~', $yaml) ?: [];
    }

    /**
     * @param  string  $place dotted, such as `records.page.fields.body`; a key that is not there is looked for no
     *       further
     */
    public function of(string $place): ?int
    {
        $line = null;
        $from = 0;
        $indent = -1;
        foreach (explode('.', $place) as $key) {
            $found = $this->find($key, $from, $indent);
            if ($found === null) {
                break;
            }
            [$line, $indent] = $found;
            // In braces the next key may stand on the same line.
            $from = $line;
        }

        return $line === null ? null : $line + 1;
    }

    /** @return array{int, int}|null line from 0, and its indent */
    private function find(string $key, int $from, int $indent): ?array
    {
        $name = '["\']?'.preg_quote($key, '~').'["\']?\s*:';
        for ($i = $from; $i < count($this->lines); $i++) {
            $text = $this->lines[$i];
            if (trim($text) === '' || ltrim($text)[0] === '#') {
                continue;
            }
            $own = strspn($text, ' ');
            if ($i > $from && $own <= $indent) {
                return null;
            }
            if (preg_match("~^\\s*(?:- )?$name~", $text) === 1 && $own > $indent) {
                return [$i, $own];
            }
            if (preg_match("~[{,]\\s*$name~", $text) === 1) {
                return [$i, $own];
            }
        }

        return null;
    }
}
