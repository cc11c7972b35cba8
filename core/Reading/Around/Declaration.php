<?php

declare(strict_types=1);

namespace Ylema\Reading\Around;

use Ylema\Reading\Context;
use Ylema\Reading\Reference;

/**
 * A place in style: the selector and the property that it belongs to, inside whatever holds the style.
 *
 * @internal
 */
final readonly class Declaration implements Surroundings
{
    /** How far back a selector or a property is looked for. */
    private const FAR = 400;

    /** @param  int  $offset of the address in the style */
    public function __construct(
        private Surroundings $outside,
        private int $anchor,
        private string $css,
        private int $offset,
    ) {
    }

    public function document(): Document
    {
        return $this->outside->document();
    }

    public function tag(int $anchor): ?array
    {
        return null;
    }

    public function beside(int $anchor, string $attribute, ?string $path): ?Reference
    {
        return $this->outside->beside($this->anchor, $attribute, $path);
    }

    public function stretches(Reference $reference, int $anchor): ?array
    {
        return null;
    }

    public function context(int $start, int $anchor, ?string $path, ?string $descriptor): Context
    {
        return $this->outside->context($start, $this->anchor, $path, $descriptor)->inside($this->words());
    }

    private function words(): ?string
    {
        $seen = substr($this->css, max(0, $this->offset - self::FAR), min(self::FAR, $this->offset));
        // A comment belongs to nothing that stands before or behind it.
        $seen = preg_replace(['~/\*.*?\*/~s', '~(?:url|src)\($~i'], ' ', $seen) ?? '';
        preg_match('~(?:(?<selector>[^{};]*)\{(?:[^{};]*;)*)?(?<property>[^{};:]*)(?::[^{};]*)?$~', $seen, $m);
        $words = array_filter(
            [trim($m['selector'] ?? ''), trim($m['property'] ?? '')],
            static fn (string $word): bool => $word !== '',
        );

        return $words === [] ? null : implode(' · ', $words);
    }
}
