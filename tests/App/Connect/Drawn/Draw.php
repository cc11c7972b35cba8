<?php

declare(strict_types=1);

namespace Tests\App\Connect\Drawn;

use Random\Engine\Mt19937;
use Random\Randomizer;

/** Draws by a seed: the same seed draws the same site on every machine. */
final class Draw
{
    private readonly Randomizer $random;

    public function __construct(int $seed)
    {
        $this->random = new Randomizer(new Mt19937($seed));
    }

    public function number(int $from, int $to): int
    {
        return $this->random->getInt($from, $to);
    }

    /** @param  int  $percent of cases in which it is so */
    public function is(int $percent): bool
    {
        return $this->random->getInt(1, 100) <= $percent;
    }

    /**
     * @template T
     *
     * @param  non-empty-list<T>  $of
     * @return T
     */
    public function one(array $of): mixed
    {
        return $of[$this->random->getInt(0, count($of) - 1)];
    }

    /**
     * @template T
     *
     * @param  list<T>  $of
     * @return list<T> so many of them, or all if there are fewer, in the order that they stand in
     */
    public function some(array $of, int $many): array
    {
        if ($of === [] || $many < 1) {
            return [];
        }
        $keys = $this->random->pickArrayKeys($of, min($many, count($of)));
        sort($keys);

        return array_map(static fn (int|string $key): mixed => $of[$key], $keys);
    }
}
