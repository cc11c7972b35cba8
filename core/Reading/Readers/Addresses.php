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
use Ylema\Reading\PatternGaveUp;
use Ylema\Reading\Reader;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/** Several addresses in one value, between commas, bars, semicolons or blanks: what sliders and galleries are given. */
final readonly class Addresses implements Reader
{
    private const LIST = [
        ',|' => '~^[,|]?\s*+(?<one>[^\s,|?\#]+\.[a-z0-9]{2,5}(?:[?\#][^\s,|]*+)?)'
            .'(?:(?:\s*+[,|]\s*+|\s++)(?&one))*+\s*+[,|]?$~iS',
        ';' => '~^(?<one>[^\s;?\#]+\.[a-z0-9]{2,5}(?:[?\#][^\s;]*+)?)(?:(?:\s*+;\s*+|\s++)(?&one))++\s*+;?$~iS',
    ];

    private const ADDRESS = '~^[^\s,;|]+$~D';

    private const IN_ARRAY = '~(?|(?<one>[^\s,{}"]++)|"(?<one>[^"\\\\]++)")|"(?:[^"\\\\]|\\\\.)*+"(*SKIP)(*F)~s';

    private const BARE = '~^[^\s,{}"\\\\]+$~D';

    private const QUOTED = '~^[^"\\\\]+$~D';

    private const CANDIDATES = '~^\s*+[^\s,]\S*+\s++\d++(?:\.\d++)?[wxh](?:\s*+,|\s*+$)~iS';

    /** What a value is that should be one address, and is more; null where it is one. */
    public static function notation(string $value): ?Notation
    {
        if (strpbrk($value, ",;|({[ \t\n") === false) {
            return null;
        }
        $first = ltrim($value)[0] ?? '';
        $notation = match (true) {
            ($first === '{' || $first === '[') && json_decode($value) !== null => Notation::Json,
            stripos($value, 'url(') !== false => Notation::Css,
            preg_match(self::CANDIDATES, $value) === 1 => Notation::Srcset,
            preg_match(self::LIST[self::separators($value)], trim($value)) === 1 => Notation::Addresses,
            default => null,
        };
        PatternGaveUp::check();

        return $notation;
    }

    /** Semicolons separate where nothing else does, for an address may hold one. */
    private static function separators(string $value): string
    {
        return strpbrk($value, ',|') === false ? ';' : ',|';
    }

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        // Around those of an array, PostgreSQL writes braces, and quotes where it must (its manual, 8.15.2).
        $isArray = preg_match('~^\s*\{.*\}\s*$~s', $slice->text) === 1;
        $pattern = $isArray ? self::IN_ARRAY : '~(?<one>[^\s'.self::separators($slice->text).']++)~';
        // One by one, so that a long list does not fill the memory.
        for ($at = 0; preg_match($pattern, $slice->text, $match, PREG_OFFSET_CAPTURE, $at) === 1;) {
            [$text, $offset] = $match['one'];
            $at = $match[0][1] + max(1, strlen($match[0][0]));
            $allowed = match (true) {
                ! $isArray => self::ADDRESS,
                $offset > 0 && $slice->text[$offset - 1] === '"' => self::QUOTED,
                default => self::BARE,
            };
            $below = $rules->below === null ? null : PathBelow::of($text, $rules->below, $allowed);
            $found->add(
                $slice, $offset, strlen($text), $below?->decode($text) ?? $text, Names::Address, $rules->role ?? 'url',
                $rules->fetch ?? Fetch::OnCondition, $below ?? new Plain(Notation::Url, $allowed),
            );
        }
        $found->gaveUp($slice, $at);
    }
}
