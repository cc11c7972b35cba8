<?php

declare(strict_types=1);

namespace Ylema\Reading\Layers;

use Ylema\Reading\CannotEncode;
use Ylema\Reading\Layer;
use Ylema\Reading\Notation;

/**
 * An address in a scheme of the site's own, which its code turns into one of a folder: `vault://pier.jpg` for
 * `/uploads/pier.jpg`. The slashes behind the colon (RFC 3986, 3) mean nothing there, but are written again as they
 * were.
 */
final readonly class OwnScheme implements Layer
{
    private const SCHEME = '~^([a-z][a-z0-9+.-]*):(/{0,3})~i';

    /** @param  array<string, string>  $schemes in lower case → folder from the root of the host, `/uploads/` */
    private function __construct(
        private string $scheme,
        private string $slashes,
        private bool $isEncoded,
        private array $schemes,
    ) {
    }

    /**
     * @param  array<string, string>  $schemes in lower case → folder from the root of the host, `/uploads/`
     * @return self|null null where the text is in none of these schemes
     */
    public static function of(string $text, array $schemes): ?self
    {
        return preg_match(self::SCHEME, $text, $m) === 1 && isset($schemes[strtolower($m[1])])
            ? new self($m[1], $m[2], preg_match('~%[0-9a-f]{2}|[?#]~i', $text) === 1, $schemes)
            : null;
    }

    public function decode(string $text): string
    {
        $path = substr($text, strlen($this->scheme) + 1 + strlen($this->slashes));

        return $this->schemes[strtolower($this->scheme)]
            .($this->isEncoded ? $path : implode('/', array_map(rawurlencode(...), explode('/', $path))));
    }

    public function notation(): Notation
    {
        return Notation::Url;
    }

    public function encode(string $value): string
    {
        // Its own folder first: another scheme may lead to a part of it.
        $schemes = [$this->scheme => $this->schemes[strtolower($this->scheme)], ...$this->schemes];
        foreach ($schemes as $scheme => $folder) {
            if (str_starts_with($value, $folder)) {
                $path = substr($value, strlen($folder));
                $isPlain = ! $this->isEncoded && preg_match('~%(?:25|23|3F)~i', $path) !== 1;

                return "$scheme:$this->slashes".($isPlain ? rawurldecode($path) : $path);
            }
        }
        throw CannotEncode::in(
            "an address of $this->scheme:",
            $value,
            'the site looks for what stands there in '.implode(' and ', $this->schemes).', and this lies elsewhere',
        );
    }
}
