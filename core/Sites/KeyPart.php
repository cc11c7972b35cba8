<?php

declare(strict_types=1);

namespace Ylema\Sites;

/** Where the value of a field stands in the key of its record; writing the field gives the record another key. */
final readonly class KeyPart
{
    /**
     * @param  int  $position of it among the parts, from 0
     * @param  int  $parts how many there are
     */
    public function __construct(private int $position, private int $parts)
    {
    }

    /**
     * One text for several values. None may run into the next, so what parts them is written otherwise within.
     *
     * @param  list<string>  $values
     */
    public static function join(array $values): string
    {
        return count($values) === 1
            ? $values[0]
            : implode(
                '/',
                array_map(static fn (string $value): string => strtr($value, ['%' => '%25', '/' => '%2F']), $values),
            );
    }

    /** @return list<string>|null the values that a text stands for; null where it has not so many */
    public static function split(string $key, int $parts): ?array
    {
        if ($parts === 1) {
            return [$key];
        }
        $values = explode('/', $key);

        return count($values) === $parts
            ? array_map(static fn (string $value): string => strtr($value, ['%2F' => '/', '%25' => '%']), $values)
            : null;
    }

    /** The key with another value at this place. */
    public function in(string $key, string $value): string
    {
        $values = self::split($key, $this->parts);
        if ($values === null || ! isset($values[$this->position])) {
            return $key;
        }
        $values[$this->position] = $value;

        return self::join(array_values($values));
    }
}
