<?php

declare(strict_types=1);

namespace App\Rest;

use RuntimeException;
use Throwable;
use Ylema\Failure;
use Ylema\Sites\WriteRefused;

/** The place of rest cannot take a file or give it back; the message says what to do. */
final class RestTrouble extends RuntimeException implements Failure
{
    public static function full(string $path, Throwable|string $why): self
    {
        return new self(
            "\"$path\" could not be laid to rest, and stays where it is ("
                .rtrim(self::said($why), '. ')
                .').'.($why instanceof WriteRefused ? '' : ' Make room on the disk, or give Ylema the right to write '
                    .'there, then try again.'),
        );
    }

    public static function link(string $path): self
    {
        return new self(
            "\"$path\" is a link, not a file of its own. Lay to rest what it leads to, or remove the link by hand.",
        );
    }

    public static function lost(string $path): self
    {
        return new self(
            "The resting bytes of \"$path\" are gone or damaged, so nothing was written. Restore the folder of Ylema’s "
                .'rest from a backup, then try again.',
        );
    }

    /** @param  list<string>  $copies where the same bytes are kept, each with its preposition */
    public static function damaged(string $path, array $copies): self
    {
        return new self(
            "The resting bytes of \"$path\" are damaged, so they were not given back. "
                .($copies === []
                    ? 'No other copy of them is known here: restore the folder of Ylema’s rest from a backup, then try '
                        .'again.'
                    : 'The same bytes are kept '.implode(', ', $copies).': take them from there.'),
        );
    }

    public static function back(string $path, Throwable|string $why): self
    {
        return new self(
            "\"$path\" could not come back, and rests on ("
                .self::said($why)
                .'). Give Ylema the right to write there, or make room, then try again.',
        );
    }

    private static function said(Throwable|string $why): string
    {
        return is_string($why) ? $why : $why->getMessage();
    }
}
