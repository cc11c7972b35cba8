<?php

declare(strict_types=1);

namespace Ylema\Adopt;

/** A file that lies in its own address (RFC 2397). */
final readonly class DataUri
{
    private function __construct(public string $type, public string $bytes)
    {
    }

    /** @return self|null null for what is none, or cannot be unpacked */
    public static function parse(string $value): ?self
    {
        if (preg_match('~^\s*data:([a-z0-9.+/-]*)((?:;[^;,]*)*),(.*)$~is', $value, $m) !== 1) {
            return null;
        }
        $bytes = preg_match('~;\s*base64\s*$~i', $m[2]) === 1
            ? base64_decode(preg_replace('~\s+~', '', rawurldecode($m[3])) ?? '', true)
            : rawurldecode($m[3]);

        return $bytes === false || $bytes === '' ? null : new self(strtolower($m[1]), $bytes);
    }
}
