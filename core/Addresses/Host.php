<?php

declare(strict_types=1);

namespace Ylema\Addresses;

/** The host of an address as the URL Standard parses and serialises it (https://url.spec.whatwg.org, section 3). */
final class Host
{
    /**
     * @param  string  $input between the slashes and the port, with brackets where it is an IPv6 address
     * @return string|null serialised; null where a browser refuses it
     */
    public static function parse(string $input): ?string
    {
        if ($input !== '' && $input[0] === '[') {
            $pieces = str_ends_with($input, ']') ? self::v6(substr($input, 1, -1)) : null;

            return $pieces === null ? null : '['.self::writeV6($pieces).']';
        }
        $domain = self::toAscii(rawurldecode($input));
        // The forbidden domain code points (3.3).
        if ($domain === null || $domain === '' || preg_match('~[\x00-\x20#%/:<>?@\[\\\\\]^|\x7F]~', $domain) === 1) {
            return null;
        }

        return self::endsInNumber($domain) ? self::v4($domain) : $domain;
    }

    /** Domain to ASCII (3.5), not strict. Plain ASCII without an encoded label needs no table. */
    private static function toAscii(string $domain): ?string
    {
        if (preg_match('~[^\x00-\x7F]|xn--~i', $domain) !== 1) {
            return strtolower($domain);
        }
        if (preg_match('//u', $domain) !== 1) {
            return null;
        }
        $ascii = idn_to_ascii(
            $domain,
            IDNA_NONTRANSITIONAL_TO_ASCII | IDNA_CHECK_BIDI | IDNA_CHECK_CONTEXTJ,
            INTL_IDNA_VARIANT_UTS46,
            $info,
        );
        /** @var array{errors: int} $info */
        if ($ascii !== false && $info['errors'] === 0) {
            return $ascii;
        }
        // An encoded label that does not decode stays as it is (IgnoreInvalidPunycode, UTS 46, section 4).
        $undecodable = ($info['errors'] & ~(IDNA_ERROR_PUNYCODE | IDNA_ERROR_INVALID_ACE_LABEL)) === 0;

        return $undecodable && preg_match('~[^\x00-\x7F]~', $domain) !== 1 ? strtolower($domain) : null;
    }

    /** 3.6, "ends in a number". */
    private static function endsInNumber(string $domain): bool
    {
        $labels = explode('.', str_ends_with($domain, '.') ? substr($domain, 0, -1) : $domain);
        $last = end($labels);

        return preg_match('~^(?:[0-9]+|0[xX][0-9a-fA-F]*)$~D', $last) === 1;
    }

    /** 3.6, the IPv4 parser: up to four parts, decimal, octal or hexadecimal; the last one fills what is left. */
    private static function v4(string $domain): ?string
    {
        $parts = explode('.', str_ends_with($domain, '.') ? substr($domain, 0, -1) : $domain);
        if (count($parts) > 4) {
            return null;
        }
        $numbers = [];
        foreach ($parts as $part) {
            $number = match (true) {
                preg_match('~^0[xX]([0-9a-fA-F]*)$~D', $part, $m) === 1 => strlen(ltrim($m[1], '0')) > 8
                    ? PHP_INT_MAX
                    : (int) hexdec($m[1]),
                preg_match('~^0[0-7]+$~D', $part) === 1 => strlen(ltrim($part, '0')) > 11
                    ? PHP_INT_MAX
                    : (int) octdec($part),
                preg_match('~^(?:0|[1-9][0-9]*)$~D', $part) === 1 => strlen($part) > 10 ? PHP_INT_MAX : (int) $part,
                default => null,
            };
            if ($number === null) {
                return null;
            }
            $numbers[] = $number;
        }
        $address = (int) array_pop($numbers);
        if ($address >= 256 ** (4 - count($numbers))) {
            return null;
        }
        foreach ($numbers as $i => $number) {
            if ($number > 255) {
                return null;
            }
            $address += $number * 256 ** (3 - $i);
        }

        return long2ip($address) ?: null;
    }

    /**
     * 3.6, the IPv6 parser.
     *
     * @return list<int>|null eight pieces of 16 bits
     */
    private static function v6(string $input): ?array
    {
        // Four decimal numbers without leading zeros may stand for the last two pieces.
        if (preg_match('~^(.*:)(\d+)\.(\d+)\.(\d+)\.(\d+)$~D', $input, $m) === 1) {
            $bytes = array_slice($m, 2);
            foreach ($bytes as $byte) {
                if ((strlen($byte) > 1 && $byte[0] === '0') || (int) $byte > 255) {
                    return null;
                }
            }
            $input = sprintf(
                '%s%x:%x',
                $m[1],
                (int) $bytes[0] * 256 + (int) $bytes[1],
                (int) $bytes[2] * 256 + (int) $bytes[3],
            );
        }
        $halves = explode('::', $input);
        if (count($halves) > 2 || $input === '' || str_contains($input, ':::')) {
            return null;
        }
        $pieces = [];
        foreach ($halves as $i => $half) {
            $pieces[$i] = $half === '' ? [] : explode(':', $half);
            foreach ($pieces[$i] as $piece) {
                if (preg_match('~^[0-9a-fA-F]{1,4}$~D', $piece) !== 1) {
                    return null;
                }
            }
        }
        $missing = 8 - count($pieces[0]) - count($pieces[1] ?? []);
        if (count($halves) === 1 ? $missing !== 0 : $missing < 1) {
            return null;
        }

        return array_map(static fn (string $piece): int => (int) hexdec($piece), [
            ...$pieces[0],
            ...array_fill(0, $missing, '0'),
            ...$pieces[1] ?? [],
        ]);
    }

    /**
     * 3.7, the IPv6 serialiser: the first longest run of two or more zeros is left out.
     *
     * @param  list<int>  $pieces
     */
    private static function writeV6(array $pieces): string
    {
        $written = implode(':', array_map(dechex(...), $pieces));
        $best = '';
        preg_match_all('~(?<![0-9a-f])0(?::0)+(?![0-9a-f])~', $written, $runs);
        foreach ($runs[0] as $run) {
            $best = strlen($run) > strlen($best) ? $run : $best;
        }
        if ($best === '') {
            return $written;
        }

        return preg_replace('~:?(?<![0-9a-f])'.$best.'(?![0-9a-f]):?~', '::', $written, 1) ?? $written;
    }
}
