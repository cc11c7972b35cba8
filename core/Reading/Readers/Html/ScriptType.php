<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\Html;

use Ylema\Reading\Notation;

/**
 * What the type of a `script` element says about its content (HTML Standard, 4.12.1 "prepare the script element").
 *
 * @internal
 */
final class ScriptType
{
    private const JAVASCRIPT = '~^(?:text|application)/(?:x-)?(?:java|ecma|j|live)script\b~';

    /** Whether it is data about the page, for search engines (JSON-LD 1.1, 7). */
    public static function isLinkedData(string $type): bool
    {
        return str_contains(strtolower($type), 'ld+json');
    }

    /** @param  string  $type the value of the attribute, empty where there is none */
    public static function notation(string $type): ?Notation
    {
        $type = strtolower(trim($type, "\t\n\f\r "));

        return match (true) {
            str_contains($type, 'json') || $type === 'importmap' || $type === 'speculationrules' => Notation::Json,
            $type === '' || $type === 'module' || preg_match(self::JAVASCRIPT, $type) === 1 => Notation::JavaScript,
            // Templates of libraries are markup that a script puts on the page.
            str_contains($type, 'html') || str_contains($type, 'template') => Notation::Html,
            default => null,
        };
    }
}
