<?php

declare(strict_types=1);

namespace Ylema\Reading\Layers;

use Ylema\Reading\CannotEncode;
use Ylema\Reading\Layer;
use Ylema\Reading\Notation;

/**
 * A bare path before which the site's own code puts a folder: `2019/pier.jpg` for `/uploads/2019/pier.jpg`. What is an
 * address already stays one.
 */
final readonly class PathBelow implements Layer
{
    /** @param  string  $folder from the root of the host, `/uploads/` */
    private function __construct(private string $folder, private bool $isEncoded, private string $allowed)
    {
    }

    /**
     * @param  string  $allowed a pattern of what can stand at the place
     * @return self|null null where the text is an address, before which nothing is put
     */
    public static function of(string $text, string $folder, string $allowed): ?self
    {
        // A scheme, or one slash or two: an address by RFC 3986, 4.2.
        return preg_match('~^(?:[a-z][a-z0-9+.-]*:|[/\\\\?#])~i', $text) === 1
            ? null
            : new self($folder, preg_match('~%[0-9a-f]{2}|[?#]~i', $text) === 1, $allowed);
    }

    public function decode(string $text): string
    {
        return $this->folder.
            ($this->isEncoded ? $text : implode('/', array_map(rawurlencode(...), explode('/', $text))));
    }

    public function notation(): Notation
    {
        return Notation::Url;
    }

    public function encode(string $value): string
    {
        if (! str_starts_with($value, $this->folder)) {
            throw CannotEncode::in(
                'a path',
                $value,
                "the site puts $this->folder before what stands there, and this lies elsewhere",
            );
        }
        $path = substr($value, strlen($this->folder));
        $text = $this->isEncoded ? $path : rawurldecode($path);
        if (preg_match($this->allowed, $text) !== 1) {
            throw CannotEncode::in('a path', $text, 'the site would not recognise it there');
        }

        return $text;
    }
}
