<?php

declare(strict_types=1);

namespace App\Sites;

use Ylema\Addresses\PageResolver;
use Ylema\Addresses\SiteAddresses;
use Ylema\Addresses\Whose;

/** How the addresses of redirects are known: as those of pages are, whatever spelling a table has for them. */
final class RedirectPlace
{
    /** @return string|null null for what is none of the site's */
    public static function key(SiteAddresses $addresses, string $said): ?string
    {
        $isWhole = preg_match('~^(?:[a-z][a-z0-9+.-]*:)?//~i', $said) === 1;
        $root = rtrim($addresses->now->path, '/');
        // A table often says its paths without the slash before them.
        $place = $addresses->locate($isWhole ? $said : ($said === '' || $said[0] !== '/' ? "$root/$said" : $said));

        return $place?->whose === Whose::Own && $place->path !== null
            ? PageResolver::key($place->path, $place->url->query)
            : null;
    }

    /**
     * The ways in which a table may say an address, the usual one first.
     *
     * @param  string  $key see PageResolver::key()
     * @return list<string>
     */
    public static function spellings(SiteAddresses $addresses, string $key): array
    {
        $whole = $addresses->addressOfPage($key);
        $root = rtrim($addresses->now->path, '/');
        [$path, $query] = [PageResolver::path($key), PageResolver::query($key)];
        $behind = $query === null ? '' : "?$query";
        $encoded = SiteAddresses::encodePath($path);
        $spellings = [];
        // A "?" that is part of the path can only be said encoded.
        foreach (str_contains($path, '?') ? [$encoded] : [$encoded, $path] as $said) {
            foreach (["$root/$said", $said, "$root/$said/", "$said/"] as $one) {
                $spellings[] = $one.$behind;
            }
        }

        return array_values(array_unique([...$spellings, $whole, "$whole/"]));
    }
}
