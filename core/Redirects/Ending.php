<?php

declare(strict_types=1);

namespace Ylema\Redirects;

/**
 * What a web server tells addresses apart by before it asks whatever makes the pages: most give out files of common
 * endings themselves, and then a redirect that the site keeps in a table of its own is never looked up.
 */
final readonly class Ending
{
    /** Endings of addresses that are made by programs or are pages, so that they count as none. */
    public const OF_PAGES = ['', 'html', 'htm', 'xhtml', 'php', 'phtml', 'asp', 'aspx', 'jsp', 'cgi', 'pl'];

    /** PCRE and POSIX alike: the ending of a path without its query, as the only group. */
    public const PATTERN = '\.([A-Za-z0-9]{1,8})$';

    private function __construct()
    {
    }

    /**
     * @param  string  $from see Entry::$from
     * @return string in lower case and without a dot; empty for pages
     */
    public static function of(string $from): string
    {
        $path = strstr("$from?", '?', true);
        $ending = preg_match('~'.self::PATTERN.'~D', (string) $path, $m) === 1 ? strtolower($m[1]) : '';

        return in_array($ending, self::OF_PAGES, true) ? '' : $ending;
    }
}
