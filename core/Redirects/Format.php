<?php

declare(strict_types=1);

namespace Ylema\Redirects;

use Generator;
use Ylema\Addresses\PageResolver;
use Ylema\Addresses\SiteAddresses;
use Ylema\Csv;

/** The forms in which a list of redirects is handed to whatever serves a site. */
enum Format: string
{
    /** Blocks of `map` for nginx (ngx_http_map_module). */
    case Nginx = 'nginx';
    /** A text file for Apache's RewriteMap (mod_rewrite, "RewriteMap: txt"). */
    case Apache = 'apache';
    /** RFC 4180, with a line of names. */
    case Csv = 'csv';
    /** A list of objects: from, to, status (RFC 8259). */
    case Json = 'json';

    public function mediaType(): string
    {
        return match ($this) {
            self::Csv => 'text/csv; charset=utf-8; header=present',
            self::Json => 'application/json',
            default => 'text/plain; charset=utf-8',
        };
    }

    public function extension(): string
    {
        return match ($this) {
            self::Nginx => 'conf',
            self::Apache => 'map',
            default => $this->value,
        };
    }

    /**
     * @param  callable(): iterable<Entry>  $entries asked for again where a form needs them twice
     * @param  string  $folder path of the site's root on its host, as `/` or `/bay/`
     * @return Generator<string> pieces of the file
     */
    public function write(callable $entries, string $folder = '/'): Generator
    {
        return match ($this) {
            self::Nginx => (new NginxMap(new Straight($entries, $folder), $folder))->write(),
            self::Apache => self::apache($entries, $folder),
            self::Csv => self::csv($entries, $folder),
            self::Json => self::json($entries, $folder),
        };
    }

    /**
     * A key of a text map has no blanks, so the rules compare the path as Apache escapes it.
     *
     * @param  callable(): iterable<Entry>  $entries
     * @return Generator<string>
     */
    private static function apache(callable $entries, string $folder): Generator
    {
        yield <<<'TEXT'
            # Name this file in the server's own configuration (a RewriteMap is not allowed in .htaccess):
            #     RewriteMap as int:escape
            #     RewriteMap sent-on txt:/path/of/this/file
            #     RewriteCond ${sent-on:301:${as:%{REQUEST_URI}}} .
            #     RewriteRule ^ ${sent-on:301:${as:%{REQUEST_URI}}}?${sent-on:?301:${as:%{REQUEST_URI}}} [R=301,L,NE]
            # and so for 302, 307 and 308, and for what is gone:
            #     RewriteCond ${sent-on:410:${as:%{REQUEST_URI}}} .
            #     RewriteRule ^ - [G]
            # What leads to an address with a query has a line of its own for that, since Apache takes no "?" of a map.
            # What was asked for with a query needs ${as:%{REQUEST_URI}}?%{QUERY_STRING} as its key.

            TEXT;
        foreach ((new Straight($entries, $folder))->entries() as $entry) {
            if (is_string($entry)) {
                yield "# $entry\n";

                continue;
            }
            $key = "$entry->status:".self::escaped($entry->from, $folder);
            $to = $entry->isGone() ? '-' : self::address($entry->to);
            $path = strcspn($to, '?#');
            yield "$key ".substr($to, 0, $path)."\n";
            if ($path < strlen($to)) {
                yield "?$key ".strtr(ltrim(substr($to, $path), '?'), ['?' => '%3F'])."\n";
            }
        }
    }

    /**
     * @param  callable(): iterable<Entry>  $entries
     * @return Generator<string>
     */
    private static function csv(callable $entries, string $folder): Generator
    {
        yield Csv::row(['from', 'to', 'status']);
        foreach ($entries() as $entry) {
            yield Csv::row([self::encoded($entry->from, $folder), $entry->to, $entry->status]);
        }
    }

    /**
     * @param  callable(): iterable<Entry>  $entries
     * @return Generator<string>
     */
    private static function json(callable $entries, string $folder): Generator
    {
        yield '[';
        $between = "\n";
        foreach ($entries() as $entry) {
            yield $between.json_encode(
                [
                    'from' => self::encoded($entry->from, $folder),
                    'to' => $entry->isGone() ? null : $entry->to,
                    'status' => $entry->status,
                ],
                JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE,
            );
            $between = ",\n";
        }
        yield "\n]\n";
    }

    /** As Apache's int:escape makes it (T_OS_ESCAPE_PATH): signs that stay are many, hexadecimal digits small. */
    private static function escaped(string $from, string $folder): string
    {
        $query = PageResolver::query($from);
        $escaped = preg_replace_callback(
            '~[^A-Za-z0-9$_.+!*\'(),:;@&=/\~-]~',
            static fn (array $m): string => '%'.bin2hex($m[0]),
            $folder.PageResolver::path($from),
        );

        return $escaped.($query === null ? '' : "?$query");
    }

    /**
     * An address that a header can hold (RFC 9110, 10.2.2; RFC 3986, 2.1).
     *
     * @internal
     *
     * @param  string  $more signs that are encoded as well
     */
    public static function address(string $to, string $more = ''): string
    {
        return (string) preg_replace_callback(
            '~[^\x21\x23-\x7E]|[\\\\'.preg_quote($more, '~').']~',
            static fn (array $m): string => rawurlencode($m[0]),
            $to,
        );
    }

    /**
     * An old address as it is asked for: its path encoded, its query as it is.
     *
     * @internal
     */
    public static function encoded(string $from, string $folder): string
    {
        $query = PageResolver::query($from);

        return $folder.SiteAddresses::encodePath(PageResolver::path($from)).($query === null ? '' : "?$query");
    }
}
