<?php

declare(strict_types=1);

namespace Ylema\Reading\Layers;

use Ylema\Reading\CannotEncode;
use Ylema\Reading\Layer;
use Ylema\Reading\Notation;

/** A value in one of the site's own tokens, or in a comment; no character is escaped there, so some cannot be said. */
final readonly class TokenText implements Layer
{
    /**
     * @param  string  $place what it stands in, for a sentence
     * @param  string  $forbidden a PCRE of what would end it early
     */
    private function __construct(private string $place, private string $forbidden)
    {
    }

    /** @param  string  $quote `"`, `'`, or empty for a value without quotes */
    public static function attribute(string $quote): self
    {
        return new self('a token', match ($quote) {
            '"' => '~["<>\[\]{}]~',
            "'" => '~[\'<>\[\]{}]~',
            default => '~[\s"\'<>\[\]{}=]~',
        });
    }

    public static function content(): self
    {
        return new self('a token', '~[<>\[\]{}]~');
    }

    public static function comment(): self
    {
        return new self('a comment', '~--!?>|<!--~');
    }

    public function notation(): Notation
    {
        return Notation::Token;
    }

    public function encode(string $value): string
    {
        if (preg_match($this->forbidden, $value) === 1) {
            throw CannotEncode::in($this->place, $value, 'it would end it early');
        }

        return $value;
    }
}
