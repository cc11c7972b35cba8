<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

use Ylema\Reading\Collector;
use Ylema\Reading\Fetch;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layers\PathBelow;
use Ylema\Reading\Layers\Plain;
use Ylema\Reading\Names;
use Ylema\Reading\Notation;
use Ylema\Reading\Reader;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/** Several addresses in one value, between commas or bars: what sliders and galleries are given. */
final readonly class Addresses implements Reader
{
    private const LIST =
        '~^\s*+(?<one>[^\s,|?\#]+\.[a-z0-9]{2,5}(?:[?\#][^\s,|]*+)?)\s*+(?:[,|]\s*+(?&one)\s*+)++[,|]?\s*+$~iS';

    private const ADDRESS = '~^[^\s,|]+$~D';

    private const CANDIDATES = '~^\s*+[^\s,]\S*+\s++\d++(?:\.\d++)?[wxh](?:\s*+,|\s*+$)~iS';

    /** What a value is that should be one address, and is more; null where it is one. */
    public static function notation(string $value): ?Notation
    {
        if (strpbrk($value, ',|({[ ') === false) {
            return null;
        }
        $first = ltrim($value)[0] ?? '';

        return match (true) {
            ($first === '{' || $first === '[') && json_decode($value) !== null => Notation::Json,
            stripos($value, 'url(') !== false => Notation::Css,
            preg_match(self::CANDIDATES, $value) === 1 => Notation::Srcset,
            preg_match(self::LIST, $value) === 1 => Notation::Addresses,
            default => null,
        };
    }

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        preg_match_all('~[^\s,|]++~', $slice->text, $matches, PREG_OFFSET_CAPTURE);
        $layer = new Plain(Notation::Url, self::ADDRESS);
        foreach ($matches[0] as [$text, $offset]) {
            $below = $rules->below === null ? null : PathBelow::of($text, $rules->below, self::ADDRESS);
            $found->add(
                $slice, $offset, strlen($text), $below?->decode($text) ?? $text, Names::Address, $rules->role ?? 'url',
                $rules->fetch ?? Fetch::OnCondition, $below ?? $layer,
            );
        }
    }
}
