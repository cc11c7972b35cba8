<?php

declare(strict_types=1);

namespace Ylema\Reading;

/**
 * One place in a field that names a file, a media item or another record.
 *
 * `start` and `length` are bytes of the outermost text; `raw` is what stands there;
 * `value` is what a browser (or the site's own code) sees after every layer is decoded.
 */
final readonly class Reference
{
    /**
     * @param  list<Layer>  $layers outermost first
     * @param  string|null  $target the kind of record named, where `names` is Record
     * @param  list<int>  $lengths the token's length in bytes inside each layer, where a layer counts bytes; else empty
     */
    public function __construct(
        public int $start,
        public int $length,
        public string $raw,
        public string $value,
        public Names $names,
        public string $role,
        public Fetch $fetch,
        public array $layers,
        public Context $context,
        public ?string $target = null,
        public array $lengths = [],
    ) {
    }

    /** The layers as one word path, outermost first: `json>html>css`. */
    public function layerPath(): string
    {
        return implode('>', array_map(static fn (Layer $layer): string => $layer->notation()->value, $this->layers));
    }

    public function end(): int
    {
        return $this->start + $this->length;
    }
}
