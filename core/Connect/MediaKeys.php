<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** The keys of all rows in a site's list of media, and how dense their numbers lie. */
final class MediaKeys
{
    /** @var array<array-key, true> */
    private array $keys = [];

    /** @var list<int> */
    private array $numbers = [];

    /** Whether all of them are whole numbers. */
    public readonly bool $areNumbers;

    /** @param  iterable<string>  $keys */
    public function __construct(iterable $keys)
    {
        $areNumbers = true;
        foreach ($keys as $key) {
            $this->keys[$key] = true;
            if (preg_match('~^\d{1,18}$~D', $key) === 1) {
                $this->numbers[] = (int) $key;
            } else {
                $areNumbers = false;
            }
        }
        sort($this->numbers);
        $this->areNumbers = $areNumbers;
    }

    public function isEmpty(): bool
    {
        return $this->keys === [];
    }

    public function has(string $key): bool
    {
        return isset($this->keys[$key]);
    }

    public function highest(): int
    {
        return $this->numbers === [] ? 0 : $this->numbers[count($this->numbers) - 1];
    }

    /** @return float which share of the whole numbers from one to another, both included, are keys: 0 to 1 */
    public function density(int $from, int $to): float
    {
        return $to < $from ? 0.0 : ($this->below($to + 1) - $this->below($from)) / ($to - $from + 1);
    }

    /** How many numbers are smaller than this one. */
    private function below(int $limit): int
    {
        [$low, $high] = [0, count($this->numbers)];
        while ($low < $high) {
            $middle = ($low + $high) >> 1;
            $this->numbers[$middle] < $limit ? $low = $middle + 1 : $high = $middle;
        }

        return $low;
    }
}
