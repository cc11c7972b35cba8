<?php

declare(strict_types=1);

namespace Ylema\Reading\Encoding;

/** @internal */
final class CodePoint
{
    /** @return string the character in UTF-8; U+FFFD where there is none, such as for a lone surrogate */
    public static function character(int $point): string
    {
        $character = mb_chr($point, 'UTF-8');

        // Not "?:", for the digit zero is a character, too.
        return $character === false ? "\u{FFFD}" : $character;
    }

    /** The character that two surrogates make together (UTF-16). */
    public static function ofSurrogates(int $high, int $low): string
    {
        return self::character(0x10000 + (($high & 0x3FF) << 10) + ($low & 0x3FF));
    }
}
