<?php

declare(strict_types=1);

namespace App\Sites;

use Ylema\Reading\Notation;

/** The words of field maps, for whoever writes one: what may be said where. docs/field-map.md explains them. */
final readonly class MapWords
{
    /** @return array<string, list<string>> place → lines; `*` stands for a name that the map's writer gives */
    public static function lines(): array
    {
        return [
            '' => FieldMap::LINES,
            'files' => FieldMap::OF_FILES,
            'media' => ['table', 'key', 'path', 'page', 'where', 'joins', 'sizes', ...MediaMap::WORDS],
            'media.sizes' => ['table', 'media', 'path', 'where'],
            'media.joins.*' => Joins::LINES,
            'redirects' => ['table', 'from', 'to', 'code'],
            'records.*' => array_values(array_unique([...KindSection::LINES, ...FileSection::LINES])),
            'records.*.fields.*' => [...KindSection::FIELD, 'by', 'of'],
            'records.*.joins.*' => Joins::LINES,
            'records.*.box' => ['width', 'height'],
        ];
    }

    /** @return list<string> */
    public static function notations(): array
    {
        return array_map(static fn (Notation $notation): string => $notation->value, Notation::cases());
    }
}
