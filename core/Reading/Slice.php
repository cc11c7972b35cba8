<?php

declare(strict_types=1);

namespace Ylema\Reading;

use Ylema\Reading\Layers\EncodedText;
use Ylema\Reading\Layers\SerializedString;

/**
 * A decoded stretch of text that still knows which bytes of the outermost text each of its own bytes came from.
 *
 * @internal the readers' working material; callers see only references
 */
final class Slice
{
    /** @var array<int, list<Layer>> by the id of the last layer, which the list keeps alive */
    private array $innerLayers = [];

    /**
     * @param  list<Layer>  $layers outermost first
     * @param  Breaks|null  $breaks into the parent's text; null where nothing was decoded
     */
    private function __construct(
        public readonly string $text,
        public readonly array $layers,
        private readonly ?self $parent,
        private readonly int $start,
        private readonly ?Breaks $breaks,
        public readonly ?string $path,
        /** Whether one of the layers states its length, so that a change must mend it. */
        public readonly bool $counted,
        /** Whether its text was made UTF-8 of another encoding. */
        public readonly bool $decoded,
        /** Where the slice begins in the outermost text, when every offset follows from that alone; else null. */
        public readonly ?int $base,
    ) {
    }

    public static function whole(string $text): self
    {
        return new self($text, [], null, 0, null, null, false, false, 0);
    }

    /**
     * The inner text of one token of this slice.
     *
     * @param  int  $start where the token's inner text begins in this slice
     * @param  Breaks|null  $breaks into this slice
     */
    public function inner(string $decoded, int $start, ?Breaks $breaks, Layer $layer, ?string $path = null): self
    {
        // Slices of one layer side by side, such as the attributes of a document, share one list.
        $layers = $this->innerLayers[spl_object_id($layer)] ??= [...$this->layers, $layer];

        return new self(
            $decoded,
            $layers,
            $this,
            $start,
            $breaks,
            $path ?? $this->path,
            $this->counted || $layer instanceof SerializedString,
            $this->decoded || $layer instanceof EncodedText,
            $breaks === null && $this->base !== null ? $this->base + $start : null,
        );
    }

    /** The same stretch with some bytes blanked out, for a reader that shall not look there. */
    public function blanked(string $sameLength): self
    {
        return new self(
            $sameLength,
            $this->layers,
            $this->parent,
            $this->start,
            $this->breaks,
            $this->path,
            $this->counted,
            $this->decoded,
            null,
        );
    }

    /** The offset in the outermost text of the byte at $offset here. */
    public function outer(int $offset): int
    {
        if ($this->base !== null) {
            return $this->base + $offset;
        }
        $from = $this->inParent($offset);

        return $this->parent === null ? $from : $this->parent->outer($from);
    }

    /**
     * How long a token of this slice is inside each layer, outermost first.
     *
     * @return list<int>
     */
    public function lengthsOf(int $start, int $end): array
    {
        $lengths = [];
        for ($slice = $this; $slice->parent !== null; $slice = $slice->parent) {
            array_unshift($lengths, $end - $start);
            $start = $slice->inParent($start);
            $end = $slice->inParent($end);
        }

        return $lengths;
    }

    private function inParent(int $offset): int
    {
        return $this->breaks === null ? $this->start + $offset : $this->breaks->source($offset, $this->start);
    }
}
