<?php

declare(strict_types=1);

namespace Ylema\Connect;

use Ylema\Addresses\Resolver;
use Ylema\Addresses\SiteAddresses;

/**
 * Learns from addresses in texts where the site's own code gives its media out by their ids: `/files/12/pier.jpg`,
 * `image.php?id=12&w=300`.
 */
final readonly class MediaWays
{
    /** So many different ids must be met before a way is taken for one. */
    private const TELLING = 3;

    /** Addresses that are looked at; more would tell nothing new. */
    private const MOST = 20_000;

    /** Ways that a map names. */
    private const BEST = 6;

    /** What an id may be: a number, a UUID (RFC 9562), a hash. */
    private const ID = '(?:[1-9]\d{0,17}|[0-9a-f]{8}-(?:[0-9a-f]{4}-){3}[0-9a-f]{12}|[0-9a-f]{16,64})';

    /** What scripts are called that give out files. */
    private const GIVES = '~^(?:get|show|view|send|serve|download|dl|resize|resizer|cdn|f|i|m)$~i';

    public function __construct(
        private SiteAddresses $addresses,
        private FileLookup $files,
        private Relations $relations,
        private MediaTable $media,
    ) {
    }

    /**
     * @param  iterable<string>  $texts
     * @return list<string> as a map says them, with `{id}`, and `*` for any part
     */
    public function in(iterable $texts): array
    {
        $ids = [];
        foreach ($this->addressesIn($texts) as $address) {
            foreach ($this->ways($address) as $way => $id) {
                $ids[$way][$id] = true;
            }
        }
        $ids = array_filter(
            $ids,
            fn (array $own): bool => count($own) >= self::TELLING
                && $this->relations->areKeys(array_map(strval(...), array_keys($own)), $this->media->table),
        );
        uasort($ids, static fn (array $a, array $b): int => count($b) <=> count($a));

        return array_slice(array_map(strval(...), array_keys($ids)), 0, self::BEST);
    }

    /**
     * @param  iterable<string>  $texts
     * @return list<string> path and query below the root, of what is no file
     */
    private function addressesIn(iterable $texts): array
    {
        $found = [];
        foreach ($texts as $text) {
            preg_match_all(Links::ANY, html_entity_decode(str_replace('\\/', '/', $text)), $all);
            foreach ($all[0] as $address) {
                $place = $this->addresses->locate($address);
                if ($place?->path !== null && ! $this->files->has($place->path)) {
                    $query = $place->url->query;
                    $found[$place->path.($query === null ? '' : "?$query")] = true;
                }
            }
            if (count($found) >= self::MOST) {
                break;
            }
        }

        return array_map(strval(...), array_keys($found));
    }

    /** @return array<string, string> way → the id that stands in this address */
    private function ways(string $address): array
    {
        [$path, $query] = [...explode('?', $address, 2), null];
        $ways = [];
        foreach ($query === null ? [] : explode('&', $query) as $one) {
            [$name, $value] = [...explode('=', $one, 2), ''];
            $isMedia = Hints::say(Hints::MEDIA, $name) || $this->isSaid(explode('/', (string) $path));
            if ($isMedia && preg_match('~^'.self::ID.'$~Di', $value) === 1) {
                $ways["$path?$name={id}"] = $value;
            }
        }
        $parts = explode('/', (string) $path);
        foreach ($parts as $at => $part) {
            if (preg_match('~^('.self::ID.')(\.[a-z0-9]{2,5})?$~Di', $part, $m) !== 1) {
                continue;
            }
            $before = array_slice($parts, 0, $at);
            $behind = array_slice($parts, $at + 1);
            if ($this->isSaid($before) && (Resolver::hasMediaType((string) $path) || $behind === [])) {
                $ways[implode('/', [
                    ...array_map(static fn (string $p): string => preg_match('~\d~', $p) === 1 ? '*' : $p, $before),
                    '{id}'.($m[2] ?? ''),
                    ...array_map(static fn (): string => '*', $behind),
                ])] = $m[1];
            }
        }

        return $ways;
    }

    /**
     * Whether what stands before an id speaks of media.
     *
     * @param  list<string>  $parts
     */
    private function isSaid(array $parts): bool
    {
        foreach ($parts as $part) {
            $word = (string) preg_replace('~\.\w+$~', '', $part);
            if ($word !== '' && (Hints::say(Hints::MEDIA, $word) || preg_match(self::GIVES, $word) === 1)) {
                return true;
            }
        }

        return false;
    }
}
