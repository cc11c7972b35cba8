<?php

declare(strict_types=1);

namespace App\Sites\Packed;

/**
 * How a site keeps a text in a column otherwise than as it is. Whoever writes into it packs it as it was, so that only
 * what was changed differs.
 */
enum Packing: string
{
    case Base64 = 'base64';

    /** With its special characters as entities, as htmlspecialchars() makes them. */
    case Escaped = 'escaped';

    /** With slashes before its quotes, as addslashes() and old servers put them. */
    case Slashed = 'slashed';

    /** @return PackedText|null null where a value is not packed so, or could not be packed the same again */
    public function open(string $raw): ?PackedText
    {
        return match ($this) {
            self::Base64 => Base64::of($raw),
            self::Escaped => Escaped::of($raw),
            self::Slashed => Slashed::of($raw),
        };
    }
}
