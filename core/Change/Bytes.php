<?php

declare(strict_types=1);

namespace Ylema\Change;

/** Bytes as JSON can hold them: text as it is, anything else in base64 (RFC 4648, 4) under a key of its own. */
final class Bytes
{
    /** @return string|array{base64: string} */
    public static function pack(string $bytes): string|array
    {
        return mb_check_encoding($bytes, 'UTF-8') && ! str_contains($bytes, "\0")
            ? $bytes
            : ['base64' => base64_encode($bytes)];
    }

    public static function unpack(mixed $packed): string
    {
        if (is_string($packed)) {
            return $packed;
        }
        $text = is_array($packed) && is_string($packed['base64'] ?? null)
            ? base64_decode($packed['base64'], true)
            : false;

        return $text === false ? '' : $text;
    }
}
