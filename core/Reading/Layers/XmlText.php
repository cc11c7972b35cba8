<?php

declare(strict_types=1);

namespace Ylema\Reading\Layers;

use Ylema\Reading\CannotEncode;
use Ylema\Reading\Layer;
use Ylema\Reading\Notation;

/** Character data or an attribute value in XML, or the inside of a CDATA section (XML 1.0, 2.3, 2.4 and 2.7). */
final readonly class XmlText implements Layer
{
    public const CDATA = 'cdata';

    /** @param  string  $place `"` or `'` for an attribute, empty for text between tags, or CDATA */
    public function __construct(private string $place)
    {
    }

    public function isAttribute(): bool
    {
        return $this->place === '"' || $this->place === "'";
    }

    public function notation(): Notation
    {
        return Notation::Xml;
    }

    public function encode(string $value): string
    {
        if (preg_match('~[\x00-\x08\x0B\x0C\x0E-\x1F]~', $value) === 1) {
            throw CannotEncode::in('xml', $value, 'it holds a character that no xml document may hold');
        }
        if ($this->place === self::CDATA) {
            return str_contains($value, ']]>')
                ? throw CannotEncode::in('a CDATA section', $value, 'it would end the section early')
                : $value;
        }
        $value = strtr($value, ['&' => '&amp;', '<' => '&lt;', ']]>' => ']]&gt;', "\r" => '&#13;']);

        return match ($this->place) {
            '"' => strtr($value, ['"' => '&quot;', "\n" => '&#10;', "\t" => '&#9;']),
            "'" => strtr($value, ["'" => '&apos;', "\n" => '&#10;', "\t" => '&#9;']),
            default => $value,
        };
    }
}
