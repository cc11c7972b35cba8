<?php

declare(strict_types=1);

namespace Ylema\Addresses;

/** Where an address leads, seen from one site. */
final readonly class Place
{
    /**
     * @param  string|null  $path below the site's root, without a leading slash, percent-decoded once as a server does;
     *       null when not the site's
     * @param  bool  $insecure plain http, while the site itself is served over https
     */
    public function __construct(
        public Whose $whose,
        public ?string $path,
        public Url $url,
        public bool $insecure = false,
    ) {
    }
}
