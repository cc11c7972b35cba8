<?php

declare(strict_types=1);

namespace App\Sites\Packed;

/** Base64 (RFC 4648): with padding or without, in either alphabet, in one line or in several. */
final readonly class Base64 implements PackedText
{
    /** Characters in a line, as RFC 2045 (6.8) and RFC 7468 (2) have it. */
    private const LINES = [76, 64];

    private function __construct(
        private string $text,
        private bool $isPadded,
        private bool $isForAddresses,
        /** @var int<1, max> */
        private int $line,
        private string $break,
        private string $end,
    ) {
    }

    public static function of(string $raw): ?self
    {
        $bare = preg_replace('~\s+~', '', $raw) ?? '';
        $text = preg_match('~^[\w+/-]*={0,2}$~D', $bare) === 1 ? base64_decode(strtr($bare, '-_', '+/'), true) : false;
        if ($text === false || $bare === '') {
            return null;
        }
        preg_match('~\s*$~D', $raw, $behind);
        preg_match('~\S(\s+)\S~', $raw, $between);
        foreach (isset($between[1]) ? self::LINES : [PHP_INT_MAX] as $line) {
            $own = new self(
                $text,
                // What needs no padding tells nothing of it, and most have some.
                str_ends_with($bare, '=') || strlen($text) % 3 === 0,
                strpbrk($bare, '-_') !== false,
                $line,
                $between[1] ?? '',
                $behind[0] ?? '',
            );
            if ($own->pack($text) === $raw) {
                return $own;
            }
        }

        return null;
    }

    public function text(): string
    {
        return $this->text;
    }

    public function pack(string $text): string
    {
        $packed = base64_encode($text);
        $packed = $this->isPadded ? $packed : rtrim($packed, '=');
        $packed = $this->isForAddresses ? strtr($packed, '+/', '-_') : $packed;

        return implode($this->break, str_split($packed, $this->line)).$this->end;
    }
}
