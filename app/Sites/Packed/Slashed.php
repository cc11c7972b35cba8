<?php

declare(strict_types=1);

namespace App\Sites\Packed;

/** Text with slashes before its quotes that the site's own code takes away again. */
final readonly class Slashed implements PackedText
{
    /** Before which characters they stand. */
    private const WAYS = ["'\"\\", '"\\', "'\\", "'\"", '"', "'"];

    private function __construct(private string $text, private string $before)
    {
    }

    public static function of(string $raw): ?self
    {
        foreach (self::WAYS as $before) {
            $text = preg_replace('~\\\\(['.preg_quote($before, '~').'])~', '$1', $raw) ?? $raw;
            $own = new self($text, $before);
            // Where backslashes stand for themselves, none may be left before a quote.
            $isWhole = str_contains($before, '\\') || preg_match('~\\\\["\']~', $text) !== 1;
            if ($isWhole && $own->pack($text) === $raw) {
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
        return addcslashes($text, $this->before);
    }
}
