<?php

declare(strict_types=1);

namespace Ylema\Reading;

use Ylema\Reading\Around\Surroundings;

/**
 * One place in a field that names a file, a media item or another record.
 *
 * `start` and `length` are bytes of the outermost text and
 * `value` is what a browser (or the site's own code) sees after every layer is decoded.
 * What surrounds the place is worked out when asked for.
 *
 * Never changed once made, which PHPStan sees to. The keyword "readonly" would forbid at(), by which the html reader
 * makes thousands that differ in their place alone, in a third of the time that the constructor takes.
 *
 * @immutable
 */
final class Reference
{
    /**
     * @param  list<Layer>  $layers outermost first
     * @param  string|null  $target the kind of record named, where `names` is Record
     * @param  list<int>  $lengths the token's length in bytes inside each layer, where a layer counts bytes; else empty
     * @param  string|null  $path  where in a structured field: `hero.picture`, `blocks[3].html`
     * @param  string|null  $descriptor of a candidate: `2x`, `640w`
     */
    public function __construct(
        /** @phpstan-readonly-allow-private-mutation */
        public int $start,
        /** @phpstan-readonly-allow-private-mutation */
        public int $length,
        /** @phpstan-readonly-allow-private-mutation */
        public string $value,
        public string $role,
        public Fetch $fetch,
        /** @phpstan-readonly-allow-private-mutation */
        public array $layers,
        private Surroundings $surroundings,
        /** @phpstan-readonly-allow-private-mutation */
        private int $anchor = 0,
        public ?string $path = null,
        /** @phpstan-readonly-allow-private-mutation */
        public ?string $descriptor = null,
        public Names $names = Names::Address,
        public ?string $target = null,
        public array $lengths = [],
    ) {
    }

    /** One that plays the same part at another place of the same markup. */
    public function at(int $start, int $length, string $value, int $anchor, ?string $descriptor = null): self
    {
        $other = clone $this;
        $other->start = $start;
        $other->length = $length;
        $other->value = $value;
        $other->anchor = $anchor;
        if ($descriptor !== null) {
            $other->descriptor = $descriptor;
        }

        return $other;
    }

    /** The same place, whose value one more layer inside says in its own way. */
    public function through(Layer $layer, string $value): self
    {
        $other = clone $this;
        $other->layers = [...$this->layers, $layer];
        $other->value = $value;

        return $other;
    }

    /** Its first bytes, so many of the outermost text, and what they say. */
    public function upTo(int $length, string $value): self
    {
        $other = clone $this;
        $other->length = $length;
        $other->value = $value;

        return $other;
    }

    /** The bytes that stand there. */
    public function raw(): string
    {
        return substr($this->surroundings->document()->text, $this->start, $this->length);
    }

    /** Read from the text at every call; keep it where you need it twice. */
    public function context(): Context
    {
        return $this->surroundings->context($this->start, $this->anchor, $this->path, $this->descriptor);
    }

    /** The line of the outermost text on which it begins, from 1; without all that context() would look up. */
    public function line(): int
    {
        return $this->surroundings->document()->place($this->start)[0];
    }

    /**
     * The start tag that holds it, where it stands as it is in the outermost text.
     *
     * @return array{int, int}|null offset and length in bytes
     */
    public function tag(): ?array
    {
        return $this->surroundings->tag($this->anchor);
    }

    /**
     * Another attribute of the same tag, such as `alt`, `width` or `srcset`, so that it can be changed like a
     * reference. Where the tag does not have it yet, its length is 0 and a change writes it whole; null where the
     * reference stands in no tag.
     */
    public function beside(string $attribute): ?self
    {
        return $this->surroundings->beside($this->anchor, strtolower($attribute), $this->path);
    }

    /**
     * The stretches of text that must go so that nothing is left of it: its element with what would be empty around it,
     * its entry of a list; of a link its tags alone, so that the words stay. Each can be changed like a reference, to
     * nothing.
     *
     * @return list<self>|null null where its notation has no way
     */
    public function stretches(): ?array
    {
        return $this->surroundings->stretches($this, $this->anchor);
    }

    /** The raw text around the place. */
    public function excerpt(int $around = 80): Excerpt
    {
        return Excerpt::of($this->surroundings->document()->text, $this->start, $this->length, $around);
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
