<?php

declare(strict_types=1);

namespace App\Sites\Packed;

/** Markup whose special characters are entities, as where a form's text was escaped before it was kept. */
final readonly class Escaped implements PackedText
{
    /** Which quotes are escaped, and as what; whether entities that were there already were escaped as well. */
    private const WAYS = [
        [ENT_QUOTES | ENT_HTML401, true],
        [ENT_COMPAT | ENT_HTML401, true],
        [ENT_NOQUOTES, true],
        [ENT_QUOTES | ENT_HTML5, true],
        [ENT_QUOTES | ENT_HTML401, false],
        [ENT_COMPAT | ENT_HTML401, false],
        [ENT_NOQUOTES, false],
    ];

    private function __construct(private string $text, private int $flags, private bool $again)
    {
    }

    public static function of(string $raw): ?self
    {
        foreach (self::WAYS as [$flags, $again]) {
            $own = new self(htmlspecialchars_decode($raw, $flags), $flags, $again);
            if ($own->pack($own->text) === $raw) {
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
        // Of an encoding of one byte a character, all bytes pass as they are.
        return htmlspecialchars($text, $this->flags, 'ISO-8859-1', $this->again);
    }
}
