<?php

declare(strict_types=1);

namespace Tests\Core\Generators;

use Closure;

/**
 * Text in the making that knows where its references stand: a list of stretches, each plain or a planted value as it is
 * written so far. Wrapping it in a notation encodes every stretch by itself, so the places stay known to the byte.
 */
final readonly class Piece
{
    /** @param  list<array{string, string|null}>  $stretches [text, the value that it means; null where it is no reference] */
    private function __construct(private array $stretches)
    {
    }

    public static function plain(string $text): self
    {
        return new self([[$text, null]]);
    }

    public static function reference(string $value): self
    {
        return new self([[$value, $value]]);
    }

    public static function of(self|string ...$parts): self
    {
        $stretches = [];
        foreach ($parts as $part) {
            array_push($stretches, ...$part instanceof self ? $part->stretches : [[$part, null]]);
        }

        return new self($stretches);
    }

    /** @param  Closure(string): string  $encode must give the same for two stretches as for both in one */
    public function encoded(Closure $encode): self
    {
        return new self(
            array_map(static fn (array $stretch): array => [$encode($stretch[0]), $stretch[1]], $this->stretches),
        );
    }

    public function text(): string
    {
        return implode('', array_column($this->stretches, 0));
    }

    /** @return list<array{int, int, string}> start, length and value of what was planted */
    public function planted(): array
    {
        $planted = [];
        $at = 0;
        foreach ($this->stretches as [$text, $value]) {
            if ($value !== null) {
                $planted[] = [$at, strlen($text), $value];
            }
            $at += strlen($text);
        }

        return $planted;
    }
}
