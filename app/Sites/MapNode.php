<?php

declare(strict_types=1);

namespace App\Sites;

use Ylema\Reading\Notation;

/** One section of a field map, with its place, so that whatever is wrong in it can be said with its line. */
final readonly class MapNode
{
    /** @param  array<mixed>  $values */
    private function __construct(private array $values, private string $place, private MapLines $lines)
    {
    }

    /** @param  array<mixed>  $values */
    public static function root(array $values, MapLines $lines): self
    {
        return new self($values, '', $lines);
    }

    public function wrong(string $key, string $what): FieldMapError
    {
        $place = $this->placeOf($key);

        return FieldMapError::at($place, $what, $this->lines->of($place));
    }

    /**
     * A key that nobody reads is most likely one that somebody misspelt.
     *
     * @param  list<string>  $known
     *
     * @throws FieldMapError
     */
    public function only(array $known): self
    {
        foreach ($this->keys() as $key) {
            if (in_array($key, $known, true)) {
                continue;
            }
            $near = null;
            $distance = PHP_INT_MAX;
            foreach ($known as $word) {
                $steps = levenshtein(strtolower($key), $word);
                if ($steps < $distance) {
                    [$near, $distance] = [$word, $steps];
                }
            }
            throw $this->wrong(
                $key,
                'nothing is called so here. '
                    .($distance <= max(2, intdiv(strlen($key), 2))
                        ? "Did you mean \"$near\"?"
                        : 'Known: '.implode(', ', $known).'.'),
            );
        }

        return $this;
    }

    /**
     * The same section with nothing but these lines.
     *
     * @param  list<string>  $keys
     */
    public function part(array $keys): self
    {
        return new self(array_intersect_key($this->values, array_flip($keys)), $this->place, $this->lines);
    }

    /** @return list<string> */
    public function keys(): array
    {
        return array_map(strval(...), array_keys($this->values));
    }

    public function has(string $key): bool
    {
        return isset($this->values[$key]);
    }

    public function value(string $key): mixed
    {
        return $this->values[$key] ?? null;
    }

    /** @throws FieldMapError when it is missing or no section */
    public function section(string $key, string $what = 'this section is missing.'): self
    {
        $values = $this->values[$key] ?? null;

        return is_array($values)
            ? new self($values, $this->placeOf($key), $this->lines)
            : throw $this->wrong($key, $what);
    }

    /** An empty section where there is none. */
    public function optional(string $key, string $what): self
    {
        return $this->has($key) ? $this->section($key, $what) : new self([], $this->placeOf($key), $this->lines);
    }

    /** A section, or a word that stands for one with nothing but that word in it. */
    public function sectionOr(string $key, string $short, string $what): self
    {
        $value = $this->values[$key] ?? null;

        return is_string($value)
            ? new self([$short => $value], $this->placeOf($key), $this->lines)
            : $this->section($key, $what);
    }

    public function text(string $key): ?string
    {
        $value = $this->values[$key] ?? null;
        if ($value !== null && ! is_scalar($value)) {
            throw $this->wrong($key, 'a word or text belongs here.');
        }

        return $value === null ? null : self::scalar($value);
    }

    public function flag(string $key, bool $default): bool
    {
        $value = $this->values[$key] ?? $default;

        return is_bool($value) ? $value : throw $this->wrong($key, 'true or false belongs here.');
    }

    /** @return list<string> one word, or a list of them */
    public function texts(string $key): array
    {
        $value = $this->values[$key] ?? [];
        $list = is_array($value) ? array_values($value) : [$value];
        foreach ($list as $one) {
            if (! is_scalar($one)) {
                throw $this->wrong($key, 'a word or a list of words belongs here.');
            }
        }

        return array_map(self::scalar(...), $list);
    }

    /** Table and column names go into SQL, so only plain ones are taken. */
    public function identifier(string $key): string
    {
        return $this->plain($key, $this->values[$key] ?? null);
    }

    public function optionalIdentifier(string $key): ?string
    {
        return $this->has($key) ? $this->identifier($key) : null;
    }

    /** @return list<string> */
    public function identifiers(string $key): array
    {
        return array_map(fn (string $name): string => $this->plain($key, $name), $this->texts($key));
    }

    /** A column's name; one of a join has the join's name and a dot before it. */
    public function columnName(string $key, mixed $name): string
    {
        return $this->plain($key, $name);
    }

    /** @return list<string> one column, or a list of them */
    public function columnNames(string $key): array
    {
        return $this->identifiers($key);
    }

    /** The key itself is the name of a column. */
    public function column(string $key): string
    {
        return $this->plain($key, $key);
    }

    public function notation(string $key, string $at): Notation
    {
        $word = $this->values[$key] ?? null;
        $notation = is_string($word) ? Notation::tryFrom($word) : null;

        return $notation ??
            throw FieldMapError::at(
                $at,
                'the notation is one of '.implode(', ', array_column(Notation::cases(), 'value')).'.',
                $this->lines->of($at),
            );
    }

    public function place(): string
    {
        return $this->place;
    }

    private function plain(string $key, mixed $name): string
    {
        if (! is_string($name) || preg_match('~^[\pL\pN_$#@ -]+(?:\.[\pL\pN_$#@ -]+)?$~Du', $name) !== 1) {
            throw $this->wrong($key, 'the plain name of a table or column belongs here.');
        }

        return $name;
    }

    private function placeOf(string $key): string
    {
        return $this->place === '' ? $key : "$this->place.$key";
    }

    private static function scalar(mixed $value): string
    {
        return is_bool($value) ? ($value ? 'true' : 'false') : (is_scalar($value) ? (string) $value : '');
    }
}
