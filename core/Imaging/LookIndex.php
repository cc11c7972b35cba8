<?php

declare(strict_types=1);

namespace Ylema\Imaging;

use Generator;

/**
 * Finds fingerprints that differ in few bits without comparing each with each. A fingerprint is cut into four bands of
 * sixteen bits: of two that differ in up to seven bits, at least one band differs in one bit at most, so it is enough
 * to look under each band and its sixteen neighbours (multi-index hashing). Of those that differ in a few bits more,
 * most are found as well.
 */
final class LookIndex
{
    public const DISTANCE = 10;

    private const BANDS = [0, 16, 32, 48];

    /** @var array<int, array<int, list<int>>> band → its value → numbers of fingerprints */
    private array $bands = [];

    /** @var list<int> */
    private array $prints = [];

    /** @var list<int> number of bits in each sixteen: looked up here, since it is asked for a million times a second */
    private array $bits = [0];

    public function __construct()
    {
        for ($value = 1; $value < 0x10000; $value++) {
            $this->bits[] = $this->bits[$value >> 1] + ($value & 1);
        }
    }

    /** @return int the number under which it is found */
    public function add(int $print): int
    {
        $number = count($this->prints);
        $this->prints[] = $print;
        foreach (self::BANDS as $band) {
            $this->bands[$band][($print >> $band) & 0xFFFF][] = $number;
        }

        return $number;
    }

    /**
     * All pairs that are near each other, each once or a few times.
     *
     * @return Generator<int, array{int, int}> two numbers, the lower first
     */
    public function pairs(int $distance = self::DISTANCE): Generator
    {
        [$prints, $bits] = [$this->prints, $this->bits];
        foreach ($this->bands as $lists) {
            foreach ($lists as $value => $list) {
                foreach ($list as $i => $one) {
                    $print = $prints[$one];
                    for ($j = $i + 1, $end = count($list); $j < $end; $j++) {
                        $x = $print ^ $prints[$list[$j]];
                        if (
                            $distance >=
                            $bits[$x & 0xFFFF] +
                                $bits[($x >> 16) & 0xFFFF] +
                                $bits[($x >> 32) & 0xFFFF] +
                                $bits[($x >> 48) & 0xFFFF]
                        ) {
                            yield [$one, $list[$j]];
                        }
                    }
                }
                for ($bit = 0; $bit < 16; $bit++) {
                    $near = $value ^ (1 << $bit);
                    // Each two lists meet once.
                    if ($near < $value || ! isset($lists[$near])) {
                        continue;
                    }
                    foreach ($list as $one) {
                        $print = $prints[$one];
                        foreach ($lists[$near] as $other) {
                            $x = $print ^ $prints[$other];
                            if (
                                $distance >=
                                $bits[$x & 0xFFFF] +
                                    $bits[($x >> 16) & 0xFFFF] +
                                    $bits[($x >> 32) & 0xFFFF] +
                                    $bits[($x >> 48) & 0xFFFF]
                            ) {
                                yield $one < $other ? [$one, $other] : [$other, $one];
                            }
                        }
                    }
                }
            }
        }
    }

    /**
     * Those that are near one fingerprint.
     *
     * @return list<int> numbers, rising
     */
    public function near(int $print, int $distance = self::DISTANCE): array
    {
        $found = [];
        [$prints, $bits] = [$this->prints, $this->bits];
        foreach ($this->bands as $band => $lists) {
            $value = ($print >> $band) & 0xFFFF;
            for ($bit = -1; $bit < 16; $bit++) {
                foreach ($lists[$bit < 0 ? $value : $value ^ (1 << $bit)] ?? [] as $number) {
                    $x = $print ^ $prints[$number];
                    if (
                        $distance >=
                        $bits[$x & 0xFFFF] +
                            $bits[($x >> 16) & 0xFFFF] +
                            $bits[($x >> 32) & 0xFFFF] +
                            $bits[($x >> 48) & 0xFFFF]
                    ) {
                        $found[$number] = true;
                    }
                }
            }
        }
        ksort($found);

        return array_keys($found);
    }
}
