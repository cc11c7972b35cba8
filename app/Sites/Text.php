<?php

declare(strict_types=1);

namespace App\Sites;

/** A value of a database as the text that a site would see. */
final class Text
{
    public static function of(mixed $value): string
    {
        return match (true) {
            is_bool($value) => $value ? 'true' : 'false',
            is_resource($value) => (string) stream_get_contents($value),
            is_scalar($value) => (string) $value,
            default => '',
        };
    }
}
