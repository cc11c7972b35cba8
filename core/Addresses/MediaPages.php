<?php

declare(strict_types=1);

namespace Ylema\Addresses;

/**
 * Addresses that name no file, but an item of the site's own list by its id: the page on which a site shows one item by
 * itself, or what its own code gives a file out at.
 */
final readonly class MediaPages
{
    /** @var list<string> */
    private array $written;

    /** @var list<array{string, bool}> a pattern, and whether it says how the path begins; otherwise any page will do */
    private array $patterns;

    /**
     * @param  string  ...$patterns path and query below the site's root with `{id}` where the item's id stands and `*`
     *       for any part, such as `picture/{id}/`, `?item={id}` or `files/{id}/*`
     *
     * @throws InvalidPattern when a pattern does not have `{id}` exactly once
     */
    public function __construct(string ...$patterns)
    {
        $this->written = array_values($patterns);
        $this->patterns = array_map(self::compiled(...), $this->written);
    }

    /**
     * @return list<string> what addresses begin with that mean nothing but media: folders, each ending in `/`, and
     *     scripts with their query up to the id
     */
    public function folders(): array
    {
        $folders = [];
        foreach ($this->written as $pattern) {
            if (preg_match('~^/*([^{*]+\?[^{*]*)\{id\}~', $pattern, $script) === 1) {
                $folders[$script[1]] = true;

                continue;
            }
            $folder = preg_replace('~[^/]*[{*?].*$~s', '', ltrim($pattern, '/')) ?? '';
            // A page of an item is met among other pages; behind an item's own number stands a file.
            if ($folder !== '' && preg_match('~\{id\}(?:/.|\.)~', $pattern) === 1) {
                $folders[$folder] = true;
            }
        }

        return array_map(strval(...), array_keys($folders));
    }

    /** @return array{string, bool} */
    private static function compiled(string $pattern): array
    {
        if (substr_count($pattern, '{id}') !== 1) {
            throw new InvalidPattern(
                $pattern,
                'pattern of media pages; write {id} once, where the id of the item stands.',
            );
        }
        [$before, $behind] = explode('{id}', ltrim($pattern, '/'));
        [$path, $query] = [...explode('?', $before, 2), null];
        // In a query any other part may come before it; a slash at the end of a path makes no difference to a visitor.
        $regex =
            '~'
            .($path === '' ? '' : '(?<![^/])'.self::quoted((string) $path))
            .($query === null ? '' : '[?&](?:[^#]*&)?'.self::quoted($query))
            .'(?<id>[A-Za-z0-9_-]+)'
            .self::quoted(rtrim($behind, '/'))
            .'/?(?=$|'
            .($query === null ? '[?#]' : '[&#]')
            .')~D';

        return [$regex, $path !== ''];
    }

    private static function quoted(string $text): string
    {
        return str_replace('\\*', '[^/?&#]+', preg_quote($text, '~'));
    }

    /** @return string|null the id of the item that a place names */
    public function idOf(Place $place): ?string
    {
        if ($place->path === null) {
            return null;
        }
        $address = $place->path.($place->url->query === null ? '' : '?'.$place->url->query);
        foreach ($this->patterns as [$regex, $atRoot]) {
            if (preg_match($regex, $address, $m, PREG_OFFSET_CAPTURE) === 1 && (! $atRoot || $m[0][1] === 0)) {
                return $m['id'][0];
            }
        }

        return null;
    }

    /** The address of another item, written as the old one is; null where the old one names no item. */
    public function withId(string $address, string $id): ?string
    {
        foreach ($this->patterns as [$regex]) {
            if (preg_match($regex, $address, $m, PREG_OFFSET_CAPTURE) === 1) {
                return substr_replace($address, $id, $m['id'][1], strlen($m['id'][0]));
            }
        }

        return null;
    }
}
