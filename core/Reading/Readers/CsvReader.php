<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

use Ylema\Reading\Collector;
use Ylema\Reading\Decoding;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layers\CsvCell;
use Ylema\Reading\PatternGaveUp;
use Ylema\Reading\Reader;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/**
 * A table in text (RFC 4180), with commas or what else people put between cells. Where the first row is names and
 * nothing else, the path of a cell is the name of its column; else its number, from 1.
 */
final readonly class CsvReader implements Reader
{
    private const SEPARATORS = [',', ';', "\t", '|'];

    private StructuredValues $values;

    public function __construct()
    {
        $this->values = new StructuredValues();
    }

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        $text = $slice->text;
        $at = str_starts_with($text, "\xEF\xBB\xBF") ? 3 : 0;
        $separator = self::separator(substr($text, $at, strcspn($text, "\r\n", $at)));
        $sign = preg_quote($separator, '~');
        // What stands behind a closing quote belongs to no cell.
        $cell = '~(?:"((?:[^"]++|"")*+)"?+[^'.$sign.'\r\n]*+|([^'.$sign.'\r\n]*+))('.$sign.'|\r\n?|\n|\z)~A';
        $names = null;
        $row = [];
        while ($at < strlen($text) && preg_match($cell, $text, $m, PREG_OFFSET_CAPTURE, $at) === 1) {
            $at = $m[0][1] + max(1, strlen($m[0][0]));
            $isQuoted = $m[1][1] >= 0;
            [$raw, $offset] = $isQuoted ? $m[1] : $m[2];
            if ($names === null) {
                $row[] = [$raw, $offset, $isQuoted];
            } elseif ($raw !== '') {
                $name = $names[count($row)] ?? (string) (count($row) + 1);
                $row[] = null;
                $this->cell($slice, $raw, $offset, $isQuoted, $separator, $name, $found, $rules, $others);
            } else {
                $row[] = null;
            }
            if ($m[3][0] === $separator) {
                continue;
            }
            if ($names === null) {
                $names = self::names(array_column(array_filter($row), 0), $rules);
                foreach ($names === [] ? array_filter($row) : [] as $n => [$first, $place, $quoted]) {
                    $path = (string) ($n + 1);
                    $this->cell($slice, $first, $place, $quoted, $separator, $path, $found, $rules, $others);
                }
            }
            $row = [];
        }
        PatternGaveUp::check();
    }

    private function cell(
        Slice $slice, string $raw, int $offset, bool $isQuoted, string $separator, string $name, Collector $found,
        Rules $rules, FieldReader $others,
    ): void {
        if (! $isQuoted) {
            $before = strspn($raw, ' ');
            [$raw, $offset] = [trim($raw, ' '), $offset + $before];
        }
        $decoding = new Decoding($raw, $offset);
        for ($at = $isQuoted ? strpos($raw, '""') : false; $at !== false; $at = strpos($raw, '""', $at + 2)) {
            $decoding->replace($at, 2, '"');
        }
        [$text, $breaks] = $decoding->done();
        $inner = $slice->inner($text, $offset, $breaks, new CsvCell($isQuoted, $separator), $name);
        $this->values->read($inner, $found, $rules, $others);
    }

    /** What stands most often in the first line. */
    private static function separator(string $line): string
    {
        $counts = [];
        foreach (self::SEPARATORS as $separator) {
            $counts[$separator] = substr_count($line, $separator);
        }
        arsort($counts);

        return (string) array_key_first($counts);
    }

    /**
     * @param  list<string>  $cells of the first row
     * @return list<string> the names of the columns; empty where these are no names
     */
    private static function names(array $cells, Rules $rules): array
    {
        foreach ($cells as $cell) {
            if (preg_match('~^\s*(?:[\d.,:-]*|\S*\.[a-z0-9]{2,5}|\S*/\S*)\s*$~i', $cell) === 1
                || $rules->looksLikeAddress($cell)) {
                return [];
            }
        }
        PatternGaveUp::check();
        $names = array_map(trim(...), $cells);

        return count(array_unique($names)) === count($names) ? $names : [];
    }
}
