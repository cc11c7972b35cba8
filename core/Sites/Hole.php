<?php

declare(strict_types=1);

namespace Ylema\Sites;

/**
 * What stands in braces in a text with columns: a column, maybe a part of its value, and behind a bar what is said
 * where that is empty: `{slug}`, `{made.year}`, `{sha.1-2}`, `{id.06}` for a number of six digits and `{id.06.1-3}` for
 * the first three of them, `{title->en}`, `{up.address|en}`.
 */
final readonly class Hole
{
    /** Where holes are in a text; what stands in one is the only group. */
    public const PATTERN = '~\{([^{}]+)\}~';

    /** Parts of a date, as PHP's date() has them. */
    public const DATES = ['year' => 'Y', 'month' => 'm', 'day' => 'd'];

    /**
     * @param  string  $column with its join before it, where it is of one
     * @param  string|null  $date one of DATES
     * @param  array{int, int}|null  $letters the first and the last letter that are taken, from 1
     * @param  int|null  $digits to which zeros before it make a number
     * @param  string|null  $key of the json that the column holds, dotted
     */
    private function __construct(
        public string $column,
        public string $else,
        public ?string $date = null,
        public ?array $letters = null,
        public ?string $key = null,
        public ?int $digits = null,
    ) {
    }

    /** @param  string  $text what stands between the braces */
    public static function of(string $text): self
    {
        [$said, $else] = [...explode('|', $text, 2), ''];

        return match (true) {
            preg_match('~^(.+?)->([\w.-]+)$~D', $said, $m) === 1 => new self($m[1], $else, key: $m[2]),
            preg_match('~^(.+?)(?:\.0([1-9]|1\d))?\.(\d{1,3})-(\d{1,3})$~D', $said, $m) === 1 => new self(
                $m[1],
                $else,
                letters: [max(1, (int) $m[3]), (int) $m[4]],
                digits: $m[2] === '' ? null : (int) $m[2],
            ),
            preg_match('~^(.+)\.0([1-9]|1\d)$~D', $said, $m) === 1 => new self($m[1], $else, digits: (int) $m[2]),
            preg_match('~^(.+)\.(year|month|day)$~D', $said, $m) === 1 => new self($m[1], $else, $m[2]),
            default => new self($said, $else),
        };
    }

    /** Whether the whole value of the column stands there. */
    public function isWhole(): bool
    {
        return $this->date === null && $this->letters === null && $this->key === null && $this->digits === null;
    }

    /**
     * The part that stands there; empty where there is none.
     *
     * @param  string  $value of the column; for a part of a date one that begins as ISO 8601 has it
     */
    public function said(string $value): string
    {
        if ($this->digits !== null && ctype_digit($value)) {
            $value = str_pad($value, $this->digits, '0', STR_PAD_LEFT);
        }

        return match (true) {
            $this->date !== null => preg_match('~^(\d{4})-(\d\d)-(\d\d)~', $value, $m) === 1
                ? $m[1 + (int) array_search($this->date, array_keys(self::DATES), true)]
                : '',
            $this->letters !== null => mb_substr(
                $value,
                $this->letters[0] - 1,
                $this->letters[1] - $this->letters[0] + 1,
            ),
            $this->key !== null => self::inside($value, $this->key),
            default => $value,
        };
    }

    private static function inside(string $json, string $key): string
    {
        $data = json_decode($json, true);
        foreach (explode('.', $key) as $step) {
            $data = is_array($data) ? $data[$step] ?? null : null;
        }

        return is_scalar($data) ? (string) $data : '';
    }
}
