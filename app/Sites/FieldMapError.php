<?php

declare(strict_types=1);

namespace App\Sites;

use RuntimeException;
use Ylema\Failure;

/** A field map that cannot be used; the message names line and place and says what belongs there. */
final class FieldMapError extends RuntimeException implements Failure
{
    private const LONGEST = 600;

    private function __construct(
        string $message,
        public readonly string $place,
        public readonly ?int $mapLine,
        public readonly string $what,
    ) {
        // A map may quote a value of any length in what is wrong with it.
        parent::__construct(mb_strimwidth($message, 0, self::LONGEST, '…'));
    }

    /** @param  string  $place such as `records.page.fields.body` */
    public static function at(string $place, string $what, ?int $line = null): self
    {
        return new self(
            'In the field map, '.($line === null ? '' : "line $line, ")."$place: $what",
            $place,
            $line,
            $what,
        );
    }

    public static function tooLong(int $bytes, int $limit): self
    {
        $what = 'it has '.number_format($bytes).' bytes, and '.number_format($limit).' are the most. Leave out kinds '
            .'that hold no media, and comments.';

        return new self("The field map is too long: $what", '', null, $what);
    }

    public static function unreadable(string $why, ?int $line = null): self
    {
        return new self("The field map is not readable YAML: $why", '', $line, $why);
    }
}
