<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\Markdown;

use Ylema\Reading\Breaks;
use Ylema\Reading\Collector;
use Ylema\Reading\Decoding;
use Ylema\Reading\Encoding\CodePoint;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layers\TomlString;
use Ylema\Reading\Readers\StructuredValues;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/**
 * The TOML before a Markdown text, read string by string (TOML 1.0.0): tables, arrays of tables, arrays and inline
 * tables, with strings of all four kinds. Nothing but strings can name a file.
 *
 * @internal
 */
final readonly class TomlMatter
{
    /**
     * Behind blanks and comments: 1 to 4 a string, of many lines or one, basic or literal; 5 a bare key or value; 6 a
     * mark or the end of a line.
     */
    private const TOKENS = '~(?:[ \t\r]++|\#[^\n]*+)*+(?:"""((?:[^"\\\\]++|\\\\.|"(?!""))*+)"""|\'\'\''
        .'((?:[^\']++|\'(?!\'\'))*+)\'\'\''
        .'|"((?:[^"\\\\\n]++|\\\\.)*+)"|\'([^\'\n]*+)\'|([^\s=\[\]{},."\'\#]++)|([=\[\]{},.\n]))~As';

    private const ESCAPES = [
        'n' => "\n", 't' => "\t", 'r' => "\r", 'b' => "\x08", 'f' => "\f", 'e' => "\x1B", "\n" => '',
    ];

    private const QUOTES = [1 => '"""', 2 => "\'\'\'", 3 => '"', 4 => "'"];

    public function __construct(private StructuredValues $values)
    {
    }

    /** @param  int  $start where the TOML begins in the slice */
    public function read(
        Slice $slice, string $toml, int $start, Collector $found, Rules $rules, FieldReader $others,
    ): void {
        $table = '';
        /** @var list<string> $key */
        $key = [];
        /** @var list<array{string, int}> $in open arrays and inline tables: path, position; below 0 in a table */
        $in = [];
        $isValue = $isTable = false;
        /** @var array<string, int> $tables */
        $tables = [];
        $at = 0;
        while (preg_match(self::TOKENS, $toml, $m, PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL, $at) === 1) {
            $at = $m[0][1] + strlen((string) $m[0][0]);
            $mark = $m[6][0] ?? null;
            if ($mark === null) {
                $group = self::group($m);
                [$raw, $offset] = $m[$group] ?? ['', 0];
                if (! $isValue) {
                    $key[] = (string) $raw;
                } elseif ($group < 5) {
                    $path = self::path($table, $key, $in);
                    $this->value($slice, (string) $raw, $start + $offset, $group, $path, $found, $rules, $others);
                }

                continue;
            }
            if ($mark === '=') {
                $isValue = true;
            } elseif ($mark === '[' && ! $isValue) {
                $isTable = true;
                $key = [];
            } elseif ($mark === ']' && $isTable) {
                $table = $key === [] ? $table : implode('.', $key);
                // Another bracket behind it, and each is one of several (4.10).
                if (($toml[$at] ?? '') === ']') {
                    $entry = $tables[$table] = ($tables[$table] ?? -1) + 1;
                    $table .= "[$entry]";
                    $at++;
                }
                $isTable = false;
                $key = [];
            } elseif ($mark === '[' || $mark === '{') {
                $in[] = [self::path($table, $key, $in), $mark === '[' ? 0 : -1];
                [$isValue, $key] = [$mark === '[', []];
            } elseif ($mark === ']' || $mark === '}') {
                array_pop($in);
                [$isValue, $key] = [$in !== [], []];
            } elseif ($mark === ',' && $in !== []) {
                $last = count($in) - 1;
                $isValue = $in[$last][1] >= 0;
                $in[$last][1] += $isValue ? 1 : 0;
                $key = [];
            } elseif ($mark === "\n" && $in === []) {
                [$isValue, $isTable, $key] = [false, false, []];
            }
        }
        if (! $found->gaveUp($slice, $start + $at) && trim(substr($toml, $at)) !== '') {
            $found->problem($slice->outer($start + $at), 'The TOML is damaged here; what follows was not read.');
        }
    }

    /** @param  array<int|string, mixed>  $m */
    private static function group(array $m): int
    {
        foreach ([1, 2, 3, 4] as $group) {
            if (is_array($m[$group] ?? null) && $m[$group][0] !== null) {
                return $group;
            }
        }

        return 5;
    }

    /**
     * @param  list<string>  $key
     * @param  list<array{string, int}>  $in
     */
    private static function path(string $table, array $key, array $in): string
    {
        $last = end($in);
        $path = $last === false ? $table : $last[0].($last[1] < 0 ? '' : "[$last[1]]");

        return ltrim($path.($key === [] ? '' : '.'.implode('.', $key)), '.');
    }

    private function value(
        Slice $slice, string $raw, int $offset, int $group, string $path, Collector $found, Rules $rules,
        FieldReader $others,
    ): void {
        if ($raw !== '') {
            [$text, $breaks] = $group % 2 === 1 ? self::decode($raw, $offset) : [$raw, null];
            $this->values->read(
                $slice->inner($text, $offset, $breaks, new TomlString(self::QUOTES[$group]), $path), $found, $rules,
                $others,
            );
        }
    }

    /**
     * What a backslash stands for in a basic string (4.7); one at the end of a line takes all blanks behind it.
     *
     * @return array{string, Breaks|null}
     */
    private static function decode(string $raw, int $start): array
    {
        $decoding = new Decoding($raw, $start);
        for ($at = strpos($raw, '\\'); $at !== false; $at = strpos($raw, '\\', $at)) {
            preg_match('~\\\\(?:u([0-9a-fA-F]{4})|U([0-9a-fA-F]{8})|[ \t\r]*+\n\s*+|.|$)~As', $raw, $m, 0, $at);
            $whole = $m[0] ?? '\\';
            $hex = ($m[1] ?? '').($m[2] ?? '');
            $decoding->replace($at, strlen($whole), match (true) {
                $hex !== '' => CodePoint::character((int) hexdec($hex)),
                str_contains($whole, "\n") => '',
                default => self::ESCAPES[$whole[1] ?? ''] ?? ($whole[1] ?? ''),
            });
            $at += strlen($whole);
        }

        return $decoding->done();
    }
}
