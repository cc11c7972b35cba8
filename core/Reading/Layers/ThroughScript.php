<?php

declare(strict_types=1);

namespace Ylema\Reading\Layers;

use Ylema\Reading\CannotEncode;
use Ylema\Reading\Layer;
use Ylema\Reading\Notation;

/**
 * An address of a script of the site's own that shows a file which the address names: `/thumb.php?src=pier.jpg&w=300`,
 * `/resize/300x200/uploads/pier.jpg`. It is known by the file, and written around it again as it was.
 */
final readonly class ThroughScript implements Layer
{
    /** Where a pattern has the file's path. */
    public const PATH = '{path}';

    /**
     * @param  string  $host scheme and host, where the address says them
     * @param  string  $before what stands before the file's path, and $behind what stands behind it
     * @param  bool  $isEncoded whether the path's slashes are encoded, as in a query they may be
     * @param  string  $slash whether the path begins with one there
     * @param  string  $folder before the path, from the root of the host, ending in `/`
     */
    private function __construct(
        private string $host,
        private string $before,
        private string $path,
        private string $behind,
        private bool $isEncoded,
        private string $slash,
        private string $folder,
    ) {
    }

    /**
     * @param  array<string, string>  $scripts pattern of the address from the root of the host, with `{path}` where the
     *       file's path stands and `*` for any part → the folder before that path, from the root of the host, ending in
     *       `/`
     * @return self|null null where the address is none of these
     */
    public static function of(string $address, array $scripts): ?self
    {
        foreach ($scripts as $pattern => $folder) {
            if (preg_match(self::regex((string) $pattern), $address, $m) !== 1) {
                continue;
            }
            $isEncoded = preg_match('~%2f~i', $m['path']) === 1;
            $path = $isEncoded ? rawurldecode($m['path']) : $m['path'];
            // A whole address of a file needs no folder before it, and where another host's are shown, is none of ours.
            if (preg_match('~^[a-z][a-z0-9+.-]*:|^//~i', $path) === 1) {
                return null;
            }

            return new self(
                $m['host'],
                $m['before'],
                ltrim($path, '/'),
                $m['behind'],
                $isEncoded,
                str_starts_with($path, '/') ? '/' : '',
                // What begins at the root says its folder itself.
                str_starts_with($path, '/') ? '/' : $folder,
            );
        }

        return null;
    }

    /** The address of the file that is shown. */
    public function decode(): string
    {
        $path = $this->isEncoded
            ? implode('/', array_map(rawurlencode(...), explode('/', $this->path)))
            : $this->path;

        return $this->host.$this->folder.$path;
    }

    public function notation(): Notation
    {
        return Notation::Url;
    }

    public function encode(string $value): string
    {
        $bare = preg_replace('~^(?:[a-z][a-z0-9+.-]*:)?//[^/?#]*~i', '', $value) ?? throw CannotEncode::tooLong($value);
        if (! str_starts_with($bare, $this->folder)) {
            throw CannotEncode::in(
                'an address of '.strtok($this->before, '?'),
                $value,
                "the site looks for what stands there in $this->folder, and this lies elsewhere",
            );
        }
        $path = $this->slash.substr($bare, strlen($this->folder));

        return $this->host.$this->before
            .($this->isEncoded ? rawurlencode(rawurldecode($path)) : $path)
            .$this->behind;
    }

    private static function regex(string $pattern): string
    {
        [$before, $behind] = [...explode(self::PATH, ltrim($pattern, '/'), 2), ''];
        [$path, $query] = [...explode('?', $before, 2), null];
        $quoted = static fn (string $text): string => str_replace('\*', '[^/?&#]+', preg_quote($text, '~'));

        return '~^(?<host>(?:https?:)?//[^/?#]+)?(?<before>/?'
            .$quoted((string) $path)
            .($query === null ? '' : '\?(?:[^#]*&)?'.$quoted($query))
            .')(?<path>'.($query === null ? '[^?#]+' : '[^&#]+').')(?<behind>'
            .($behind === '' ? '(?:[?&#].*)?' : $quoted($behind).'(?:[?&#].*)?')
            .')$~isD';
    }
}
