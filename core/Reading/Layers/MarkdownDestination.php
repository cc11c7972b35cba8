<?php

declare(strict_types=1);

namespace Ylema\Reading\Layers;

use Ylema\Reading\CannotEncode;
use Ylema\Reading\Layer;
use Ylema\Reading\Notation;

/** A link destination, bare or in angle brackets (CommonMark 0.31.2, 6.3). */
final readonly class MarkdownDestination implements Layer
{
    public function __construct(private bool $inAngles)
    {
    }

    public function notation(): Notation
    {
        return Notation::Markdown;
    }

    public function encode(string $value): string
    {
        if (preg_match('~[\x00-\x1F\x7F]~', $value) === 1) {
            throw CannotEncode::in('a Markdown link', $value, 'it holds a line break or a control character');
        }
        // A backslash or an ampersand that would be read as an escape must be one.
        $value = preg_replace(
            ['~\\\\(?=[!-/:-@\[-`{-\~]|$)~', '~&(?=[#A-Za-z])~'], ['\\\\\\\\', '\\\\&'], $value,
        ) ?? throw CannotEncode::tooLong($value);
        if ($this->inAngles) {
            return strtr($value, ['<' => '\\<', '>' => '\\>']);
        }

        // A bare destination ends at a space; an address says it in its own way.
        return strtr($value, [' ' => '%20', '(' => '\\(', ')' => '\\)', '<' => '\\<']);
    }
}
