<?php

declare(strict_types=1);

namespace Ylema\Redirects;

use Generator;
use Ylema\Addresses\PageResolver;

/**
 * A list of redirects as blocks of `map` (ngx_http_map_module).
 *
 * nginx compares the keys of a map without regard to letter case, and refuses a file in which two are alike. So each
 * value repeats its key, and a second map lets through only what was asked for letter by letter; keys that differ in
 * nothing but case are patterns of their own.
 *
 * @internal
 */
final readonly class NginxMap
{
    private const HEAD = <<<'TEXT'
        # Include this inside of http { … }, and say inside of server { … }:
        #     if ($sent_on_301) { return 301 $sent_on_301; }      (and so for 302, 307 and 308, where they occur)
        #     if ($is_gone) { return 410; }
        # If your configuration says sizes for the hash of maps already, keep the larger ones and remove these lines.

        TEXT;

    /** What one key takes in a bucket beside its bytes (NGX_HASH_ELT_SIZE, on 64 bits), and one pointer at its end. */
    private const BESIDE_KEY = 26;

    private const CACHE_LINE = 64;

    public function __construct(private Straight $list, private string $folder)
    {
    }

    /** @return Generator<string> */
    public function write(): Generator
    {
        [$count, $longest, $folds] = $this->measured();
        yield self::HEAD;
        $buckets = 2048;
        while ($buckets < 2 * $count) {
            $buckets *= 2;
        }
        yield "map_hash_max_size $buckets;\n";
        yield 'map_hash_bucket_size '.(self::CACHE_LINE * (int) ceil((self::BESIDE_KEY + $longest) / self::CACHE_LINE))
            .";\n";
        foreach ($this->list->entries() as $left) {
            if (is_string($left)) {
                yield "# $left\n";
            }
        }
        foreach (Entry::STATUSES as $status) {
            foreach ([false, true] as $hasQuery) {
                yield from $this->block($status, $hasQuery, $folds);
            }
        }
    }

    /**
     * @param  array<string, int>  $folds see measured()
     * @return Generator<string>
     */
    private function block(int $status, bool $hasQuery, array $folds): Generator
    {
        $name = ($hasQuery ? 'asked_' : '').($status === 410 ? 'is_gone' : "sent_on_$status");
        $of = $hasQuery ? '$request_uri' : '$uri';
        $isOpen = false;
        foreach ($this->list->entries() as $entry) {
            if (is_string($entry) || $entry->status !== $status || str_contains($entry->from, '?') !== $hasQuery) {
                continue;
            }
            if (! $isOpen) {
                yield "\nmap $of \$ylema_$name {\n    default \"\";\n";
                $isOpen = true;
            }
            $key = $this->key($entry);
            $to = $status === 410 ? '1' : Format::address($entry->to, '$');
            // A dollar begins a variable in a value, and nothing hides it; in a pattern it can be said otherwise.
            yield $folds[self::fold($key)] > 1 || str_contains($key, '$') || str_contains($key, "\n")
                ? '    '.self::quoted('~^'.self::pattern($key).'$').' '.self::quoted("\n$to").";\n"
                : '    '.self::quoted($key).' '.self::quoted("$key\n$to").";\n";
        }
        if ($isOpen) {
            yield "}\n\nmap \"$of\\n\$ylema_$name\" \$$name {\n    default \"\";\n"
                .'    "~^(.+)\n(?:\\1)?\n(.+)$" "$2";'."\n}\n";
        }
    }

    /**
     * @return array{int, int, array<string, int>} how many keys there are, the bytes of the longest, and how many have
     *       the same letters in whatever case
     */
    private function measured(): array
    {
        $folds = [];
        $count = $longest = 0;
        foreach ($this->list->entries() as $entry) {
            if (is_string($entry)) {
                continue;
            }
            $key = $this->key($entry);
            $count++;
            $longest = max($longest, strlen($key));
            $fold = self::fold($key);
            $folds[$fold] = ($folds[$fold] ?? 0) + 1;
        }

        return [$count, $longest, $folds];
    }

    private function key(Entry $entry): string
    {
        return str_contains($entry->from, '?')
            ? Format::encoded($entry->from, $this->folder)
            : $this->folder.PageResolver::path($entry->from);
    }

    /** As nginx does: ASCII alone (ngx_tolower). */
    private static function fold(string $key): string
    {
        return strtolower($key);
    }

    /** Letter by letter, for PCRE. */
    private static function pattern(string $key): string
    {
        return (string) preg_replace_callback(
            '~[^A-Za-z0-9/_-]~',
            static fn (array $m): string => sprintf('\\x%02x', ord($m[0])),
            $key,
        );
    }

    /** A string of nginx's configuration. */
    private static function quoted(string $value): string
    {
        return '"'.strtr($value, ['"' => '\\"', '\\' => '\\\\', "\n" => '\\n', "\r" => '\\r', "\t" => '\\t']).'"';
    }
}
