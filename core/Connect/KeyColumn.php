<?php

declare(strict_types=1);

namespace Ylema\Connect;

/**
 * The values of one column that nobody described, held against the keys of media: whether they could be such keys.
 *
 * A number is no name, and small numbers are keys of something in every table. So a share counts only where chance does
 * not give it, or where the column's name, or a list of numbers, says that these are keys.
 */
final class KeyColumn
{
    /** Old sites point at rows that are gone; so many of ten must be there. */
    public const SHARE = 0.8;

    /** A share that chance gives more often than once in a thousand columns says nothing. */
    private const CHANCE = 0.001;

    /** Numbers that lie close together say something by their spread alone from so many on. */
    private const SPREAD = 8;

    /** Distinct values that are no keys are told apart so far. */
    private const TOLD_APART = 5000;

    /** Bytes of a value that are looked at; a longer one is a text. */
    private const LONGEST = 4000;

    /** @var array<array-key, string> key of media → the first row that has it */
    private array $hits = [];

    /** @var array<array-key, true> */
    private array $misses = [];

    private int $others = 0;

    private int $rows = 0;

    private bool $hasLists = false;

    public function __construct(private readonly MediaKeys $media)
    {
    }

    /**
     * What a value may say of keys.
     *
     * @return list<string>|null null for one that is no key and no list of keys; empty for one that says nothing
     */
    public static function parts(string $value, MediaKeys $media): ?array
    {
        $value = trim($value);
        if (in_array($value, ['', '0', '-1', 'NULL', 'null', '[]', '{}'], true)) {
            return [];
        }
        if (strlen($value) > self::LONGEST) {
            return null;
        }
        if ($media->has($value)) {
            return [$value];
        }
        $key = $media->areNumbers ? '\d{1,18}+' : '[\w-]{1,64}+';
        if (preg_match('~^[\[({"\'\s,;|/]*+(?:'.$key.'["\'\s,;|/\])}]*+)++$~D', $value) !== 1) {
            return null;
        }

        return preg_split('~["\'\s,;|/\[\](){}]++~', $value, -1, PREG_SPLIT_NO_EMPTY) ?: null;
    }

    /**
     * @param  list<string>|null  $parts of one value
     * @param  string  $at key of its row
     */
    public function add(?array $parts, string $at): void
    {
        $this->rows++;
        foreach ($parts ?? [] as $part) {
            if ($this->media->has($part)) {
                $this->hits[$part] ??= $at;
            } elseif (count($this->misses) < self::TOLD_APART) {
                $this->misses[$part] = true;
            } else {
                $this->others++;
            }
        }
        $this->others += (int) ($parts === null);
        $this->hasLists = $this->hasLists || count($parts ?? []) > 1;
    }

    /** @return array<array-key, string> key of media → the first row that has it */
    public function hits(): array
    {
        return $this->hits;
    }

    /** In how many rows it says anything. */
    public function rows(): int
    {
        return $this->rows;
    }

    /** How many distinct values it has. */
    public function values(): int
    {
        return count($this->hits) + count($this->misses) + $this->others;
    }

    /**
     * Whether these could be keys of media.
     *
     * @param  list<string>  $names the column's name, and what else says what its values are
     */
    public function couldBeKeys(array $names): bool
    {
        $hits = count($this->hits);
        if ($hits === 0 || $hits < self::SHARE * $this->values()) {
            return false;
        }
        $numbers = array_filter(array_keys($this->hits + $this->misses), is_int(...));
        if ($numbers === [] || array_filter(array_keys($this->hits), is_string(...)) !== []) {
            // Digests and the like are nobody else's; words may be anybody's.
            return self::saysKey($names) || $this->hasTelling();
        }
        [$from, $to] = [min($numbers), max($numbers)];

        return $this->isBeyondChance($from, $to) || (! self::saysNumber($names) && (
            $this->hasLists || self::saysKey($names) || $this->isSpread($from, $to)
        ));
    }

    /**
     * Whether somebody should be asked about a column: what its name says counts or measures, everybody knows.
     *
     * @param  list<string>  $names the column's name, and what else says what its values are
     */
    public function areWorthAsking(array $names): bool
    {
        return $this->couldBeKeys($names) && ! self::saysNumber($names);
    }

    /**
     * Whether these most likely are keys of media, whatever else they could be.
     *
     * @param  list<string>  $names the column's name, and what else says what its values are
     */
    public function areLikelyKeys(array $names): bool
    {
        if (! $this->areWorthAsking($names) || self::saysSomebody($names)) {
            return false;
        }
        $numbers = array_filter(array_keys($this->hits + $this->misses), is_int(...));
        if ($numbers === [] || array_filter(array_keys($this->hits), is_string(...)) !== []) {
            return $this->hasTelling();
        }
        [$from, $to] = [min($numbers), max($numbers)];

        // Keys with gaps between them that all of these stand in, or what reaches as far and is called a key.
        return ($this->isSpread($from, $to) && ($this->hasLists || self::saysKey($names)))
            || ($this->misses === [] && pow($this->media->density($from, $to), count($this->hits)) < self::CHANCE);
    }

    private function hasTelling(): bool
    {
        foreach ($this->hits as $key => $_) {
            if (preg_match('~^(?=.*\d)[\w-]{8,}$~D', (string) $key) === 1) {
                return true;
            }
        }

        return false;
    }

    /**
     * How likely as many hits are among numbers of the same size, from half of the smallest to twice the largest, by
     * the bound of Chernoff in the form of Hoeffding (1963, theorem 1).
     */
    private function isBeyondChance(int $from, int $to): bool
    {
        $n = $this->values();
        if ($from === 1 && $to === $n) {
            // One after the other, as places in an order are.
            return false;
        }
        $share = count($this->hits) / $n;
        $chance = $this->media->density(intdiv($from, 2), 2 * $to);
        if ($chance >= $share) {
            return false;
        }
        $distance = $share * log($share / $chance)
            + ($share < 1 ? (1 - $share) * log((1 - $share) / (1 - $chance)) : 0);

        return exp(-$n * $distance) < self::CHANCE;
    }

    /** Numbers that go as far as the keys do, with gaps: no order of things, and no count of few. */
    private function isSpread(int $from, int $to): bool
    {
        $n = count($this->hits);

        return $n >= self::SPREAD
            && $n === $this->values()
            && $to - $from + 1 > $n
            && 2 * $to >= $this->media->highest();
    }

    /** @param  list<string>  $names */
    private static function saysKey(array $names): bool
    {
        foreach ($names as $name) {
            if (Hints::say(Hints::MEDIA, $name) || Hints::say(Hints::KEY, $name)) {
                return true;
            }
        }

        return false;
    }

    /** @param  list<string>  $names */
    private static function saysSomebody(array $names): bool
    {
        return array_filter($names, static fn (string $name): bool => Hints::say(Hints::SOMEBODY, $name)) !== [];
    }

    /** @param  list<string>  $names */
    private static function saysNumber(array $names): bool
    {
        foreach ($names as $name) {
            if (Hints::say(Hints::NUMBER, $name)) {
                return true;
            }
        }

        return false;
    }
}
