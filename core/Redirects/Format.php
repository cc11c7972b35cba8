<?php

declare(strict_types=1);

namespace Ylema\Redirects;

use Generator;
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
            self::Nginx => self::nginx($entries, $folder),
            self::Apache => self::apache($entries, $folder),
            self::Csv => self::csv($entries, $folder),
            self::Json => self::json($entries, $folder),
        };
    }

    /**
     * nginx compares `$uri`, which is decoded; an address with a query is compared as it was asked for.
     *
     * @param  callable(): iterable<Entry>  $entries
     * @return Generator<string>
     */
    private static function nginx(callable $entries, string $folder): Generator
    {
        yield <<<'TEXT'
            # Include this inside of http { … }, and say inside of server { … }:
            #     if ($sent_on_301) { return 301 $sent_on_301; }      (and so for 302, 307 and 308, where they occur)
            #     if ($is_gone) { return 410; }
            # Many lines may need a larger map_hash_max_size and map_hash_bucket_size.

            TEXT;
        foreach (Entry::STATUSES as $status) {
            foreach ([false, true] as $hasQuery) {
                $isOpen = false;
                foreach ($entries() as $entry) {
                    if ($entry->status !== $status || str_contains($entry->from, '?') !== $hasQuery) {
                        continue;
                    }
                    if (! $isOpen) {
                        $name = $status === 410 ? 'is_gone' : "sent_on_$status";
                        yield $hasQuery
                            ? "\nmap \$request_uri \$asked_$name {\n    default \"\";\n"
                            : "\nmap \$uri \$$name {\n    default \"\";\n";
                        $isOpen = true;
                    }
                    $from = $hasQuery ? self::encoded($entry->from, $folder) : $folder.$entry->from;
                    $to = $status === 410 ? '1' : strtr($entry->to, ['$' => '%24']);
                    yield '    '.self::quoted($from).' '.self::quoted($to).";\n";
                }
                if ($isOpen) {
                    yield "}\n";
                }
            }
        }
    }

    /**
     * A key of a text map has no blanks, so the rules compare the path as Apache encodes it.
     *
     * @param  callable(): iterable<Entry>  $entries
     * @return Generator<string>
     */
    private static function apache(callable $entries, string $folder): Generator
    {
        yield <<<'TEXT'
            # Name this file in the server's own configuration (a RewriteMap is not allowed in .htaccess):
            #     RewriteMap encoded int:escape
            #     RewriteMap sent-on txt:/path/of/this/file
            #     RewriteCond ${sent-on:301:${encoded:%{REQUEST_URI}}} ^(.+)$
            #     RewriteRule ^ %1 [R=301,L,NE]                       (and so for 302, 307 and 308)
            #     RewriteCond ${sent-on:410:${encoded:%{REQUEST_URI}}} .
            #     RewriteRule ^ - [G]
            # What was asked for with a query needs ${encoded:%{REQUEST_URI}}?%{QUERY_STRING} as its key.

            TEXT;
        foreach ($entries() as $entry) {
            yield "$entry->status:".self::encoded($entry->from, $folder).' '
                .($entry->isGone() ? '-' : preg_replace('~\s~', '%20', $entry->to))."\n";
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

    private static function encoded(string $from, string $folder): string
    {
        [$path, $query] = [...explode('?', $from, 2), null];

        return $folder.SiteAddresses::encodePath((string) $path).($query === null ? '' : "?$query");
    }

    /** A string of nginx's configuration. */
    private static function quoted(string $value): string
    {
        return '"'.addcslashes($value, '"\\').'"';
    }
}
