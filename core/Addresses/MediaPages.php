<?php

declare(strict_types=1);

namespace Ylema\Addresses;

/**
 * The pages on which a site shows one media item by itself: addresses that name no file, but an item of the site's own
 * list.
 */
final readonly class MediaPages
{
    private string $regex;

    /** Whether the pattern says how the path begins; otherwise any page will do. */
    private bool $atRoot;

    /**
     * @param  string  $pattern path and query below the site's root with `{id}` where the item's id stands, such as
     *                          `picture/{id}/` or `?item={id}`
     *
     * @throws InvalidPattern when the pattern does not have `{id}` exactly once
     */
    public function __construct(public string $pattern)
    {
        if (substr_count($pattern, '{id}') !== 1) {
            throw new InvalidPattern(
                $pattern,
                'pattern of media pages; write {id} once, where the id of the item stands.',
            );
        }
        [$before, $behind] = explode('{id}', ltrim($pattern, '/'));
        $parts = explode('?', $before, 2);
        $path = $parts[0];
        $query = $parts[1] ?? null;
        // In a query any other part may come before it; a slash at the end of a path makes no difference to a visitor.
        $this->regex =
            '~'
            .($path === '' ? '' : '(?<![^/])'.preg_quote($path, '~'))
            .($query === null ? '' : '[?&](?:[^#]*&)?'.preg_quote($query, '~'))
            .'(?<id>[A-Za-z0-9_-]+)'
            .preg_quote(rtrim($behind, '/'), '~')
            .'/?(?=$|'
            .($query === null ? '[?#]' : '[&#]')
            .')~D';
        $this->atRoot = $path !== '';
    }

    /** @return string|null the id of the item whose page a place is */
    public function idOf(Place $place): ?string
    {
        if ($place->path === null) {
            return null;
        }
        $address = $place->path.($place->url->query === null ? '' : '?'.$place->url->query);

        return preg_match($this->regex, $address, $m, PREG_OFFSET_CAPTURE) === 1 && (! $this->atRoot || $m[0][1] === 0)
            ? $m['id'][0]
            : null;
    }

    /** The address of another item's page, written as the old one is; null where the old one is no such page. */
    public function withId(string $address, string $id): ?string
    {
        return preg_match($this->regex, $address, $m, PREG_OFFSET_CAPTURE) === 1
            ? substr_replace($address, $id, $m['id'][1], strlen($m['id'][0]))
            : null;
    }
}
