<?php

declare(strict_types=1);

namespace Ylema\Net;

use Ylema\Reading\Breaks;

/**
 * A text with one layer of escapes taken off, or the stretches of it around them; it knows which bytes of the outermost
 * text its own came from.
 *
 * @internal
 */
final readonly class Peeled
{
    /** @param  array<int, true>  $cuts offsets at which a stretch begins or ends that goes on in the text before */
    private function __construct(
        public string $text,
        private ?self $from,
        private int $start,
        private ?Breaks $breaks,
        private array $cuts,
        /** Whether it is what bytes say in an encoding that nothing tells. */
        public bool $isGuess = false,
    ) {
    }

    public static function whole(string $text): self
    {
        return new self($text, null, 0, null, []);
    }

    /**
     * A stretch of it that is searched by itself.
     *
     * @param  array<int, true>  $cuts
     */
    public function stretch(int $start, int $length, array $cuts): self
    {
        return new self(substr($this->text, $start, $length), $this, $start, null, $cuts, $this->isGuess);
    }

    /** @param  array<int, true>  $cuts */
    public function without(string $text, ?Breaks $breaks, array $cuts = []): self
    {
        return new self($text, $this, 0, $breaks, $cuts, $this->isGuess);
    }

    /** The same stretch in other letters, each as long as before. */
    public function sameLength(string $text): self
    {
        return new self($text, $this->from, $this->start, $this->breaks, $this->cuts, $this->isGuess);
    }

    public function guess(string $text, ?Breaks $breaks): self
    {
        return new self($text, $this, 0, $breaks, [], true);
    }

    /** The offset in the outermost text of the byte at an offset here. */
    public function outer(int $offset): int
    {
        $offset = $this->breaks === null ? $this->start + $offset : $this->breaks->source($offset, 0);

        return $this->from === null ? $offset : $this->from->outer($offset);
    }

    /** Whether what stands there goes on where this stretch does not. */
    public function isCut(int $start, int $end): bool
    {
        return isset($this->cuts[$start]) || isset($this->cuts[$end]);
    }
}
