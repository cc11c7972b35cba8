<?php

declare(strict_types=1);

namespace Ylema\Addresses;

/** The site's address now, other addresses that serve the same, and those it had before, each with its folder. */
final readonly class SiteAddresses
{
    /** @var list<Url> */
    private array $aliases;

    /** @var list<Url> */
    private array $former;

    public Url $now;

    /**
     * @param  string  $now absolute, ending in `/`
     * @param  list<string>  $former absolute, with the folder that the site had there
     * @param  list<string>  $aliases absolute; the same site under another name. With or without `www.`, and over
     *       either scheme, an
     *                                address is an alias without being listed
     *
     * @throws InvalidAddress for an address that is not absolute
     */
    public function __construct(string $now, array $former = [], array $aliases = [])
    {
        $this->now = self::absolute($now);
        $this->aliases = array_map(self::absolute(...), $aliases);
        $this->former = array_map(self::absolute(...), $former);
    }

    /**
     * The same, with some more.
     *
     * @param  list<string>  $former
     * @param  list<string>  $aliases
     *
     * @throws InvalidAddress
     */
    public function with(array $former, array $aliases): self
    {
        return new self(
            (string) $this->now,
            [...array_map(strval(...), $this->former), ...$former],
            [...array_map(strval(...), $this->aliases), ...$aliases],
        );
    }

    /** @return list<Url> the addresses that the site had before */
    public function former(): array
    {
        return $this->former;
    }

    /** The place of a reference that stands on the page with address $page (or, without one, on the site's root). */
    public function locate(string $value, ?Url $page = null): ?Place
    {
        $url = Url::parse($value, $page ?? $this->now);
        if ($url === null) {
            return null;
        }
        if (! $url->isWeb()) {
            return new Place(Whose::None, null, $url);
        }
        $insecure = $url->scheme === 'http' && $this->now->scheme === 'https';
        foreach ([$this->now, ...$this->aliases] as $own) {
            $path = self::below($own, $url);
            if ($path !== null) {
                return new Place(Whose::Own, $path, $url, $insecure);
            }
        }
        foreach ($this->former as $former) {
            $path = self::below($former, $url);
            if ($path !== null) {
                return new Place(Whose::Former, $path, $url, $insecure);
            }
        }

        return new Place(Whose::Foreign, null, $url, $insecure);
    }

    /** The address of a path (decoded, below the root) at the site's address now. */
    public function addressOf(string $path): string
    {
        return rtrim((string) $this->now->withoutQuery(), '/').'/'.self::encodePath($path);
    }

    /** The address of what is known by a key (see PageResolver::key()). */
    public function addressOfPage(string $key): string
    {
        $query = PageResolver::query($key);

        return $this->addressOf(PageResolver::path($key)).($query === null ? '' : "?$query");
    }

    /**
     * Writes a new path the way the old reference was written: absolute stays absolute, root-relative stays so.
     * A former address, and a relative one that could mean something else elsewhere, become root-relative or current.
     */
    public function writeLike(string $old, string $path): string
    {
        $encoded = self::encodePath($path);
        $root = rtrim($this->now->path, '/').'/'.$encoded;

        return match (true) {
            preg_match('~^https?://~i', $old) === 1 => $this->now->scheme.'://'.$this->now->authority().$root,
            preg_match('~^[\\\\/]{2}~', $old) === 1 => '//'.$this->now->authority().$root,
            default => $root,
        };
    }

    public static function encodePath(string $path): string
    {
        return implode('/', array_map(rawurlencode(...), explode('/', $path)));
    }

    private static function below(Url $root, Url $url): ?string
    {
        $bare = static fn (string $host): string => str_starts_with($host, 'www.') ? substr($host, 4) : $host;
        if ($bare($root->host) !== $bare($url->host) || $root->port !== $url->port) {
            return null;
        }
        $folder = rtrim($root->path, '/').'/';
        if (! str_starts_with($url->path, $folder)) {
            return null;
        }

        return rawurldecode(substr($url->path, strlen($folder)));
    }

    private static function absolute(string $address): Url
    {
        $url = Url::parse(str_ends_with($address, '/') ? $address : $address.'/');
        if ($url === null || ! $url->isWeb()) {
            throw new InvalidAddress($address);
        }

        return $url;
    }
}
