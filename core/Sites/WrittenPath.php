<?php

declare(strict_types=1);

namespace Ylema\Sites;

use Ylema\Reading\CannotEncode;
use Ylema\Reading\Layers\OwnScheme;

/**
 * The path of a file as a site's own list of media writes it: bare, from the root, as a whole address, or in a scheme
 * of the site's own. Another path is written in the same way.
 */
final readonly class WrittenPath
{
    /** The address of a host, and a path behind it (RFC 3986, 3.2 and 3.3). */
    private const WHOLE = '~^((?:[a-z][a-z0-9+.-]*:)?//[^/]+/)([^?#]*)~i';

    /** @param  string  $path below the site's root, decoded */
    private function __construct(
        public string $path,
        private string $before,
        private bool $isEncoded,
        private ?OwnScheme $scheme = null,
    ) {
    }

    /** @param  array<string, string>  $schemes in lower case → folder below the root, ending in `/` */
    public static function of(string $written, array $schemes = []): self
    {
        $scheme = OwnScheme::of(
            $written,
            array_map(static fn (string $folder): string => "/$folder", $schemes),
        );
        if ($scheme !== null) {
            return new self(self::bare(rawurldecode($scheme->decode($written))), '', false, $scheme);
        }
        // That the host is one of this site, the list itself says.
        if (preg_match(self::WHOLE, $written, $found) === 1) {
            return new self(
                self::bare(rawurldecode($found[2])),
                $found[1],
                preg_match('~%[0-9a-f]{2}~i', $found[2]) === 1,
            );
        }

        return new self(self::bare($written), str_starts_with($written, '/') ? '/' : '', false);
    }

    /**
     * @param  string  $path below the site's root, decoded
     *
     * @throws CannotEncode where the site's scheme has no folder in which it lies
     */
    public function to(string $path): string
    {
        $encoded = implode('/', array_map(rawurlencode(...), explode('/', $path)));

        return $this->scheme?->encode("/$encoded") ?? $this->before.($this->isEncoded ? $encoded : $path);
    }

    private static function bare(string $path): string
    {
        return ltrim(preg_replace('~/{2,}~', '/', $path) ?? $path, '/');
    }
}
