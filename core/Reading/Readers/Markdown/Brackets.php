<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\Markdown;

/**
 * Which bracket opens what another one closes, in Markdown: backslash escapes and unbalanced brackets left aside. Asked
 * in rising order, each byte is looked at once.
 *
 * @internal
 */
final class Brackets
{
    /** @var list<int> */
    private array $open = [];

    private int $at = 0;

    public function __construct(private readonly string $text)
    {
    }

    /** @return int|null the offset of the bracket that the one at an offset closes; null where there is none */
    public function opening(int $close): ?int
    {
        while ($this->at < $close) {
            $this->at += strcspn($this->text, '[]\\'.Blocks::BOUNDARY, $this->at);
            if ($this->at >= $close) {
                break;
            }
            match ($this->text[$this->at]) {
                '\\' => $this->at++,
                '[' => $this->open[] = $this->at,
                // What is open in one stretch of words is closed in none of the next.
                Blocks::BOUNDARY => $this->open = [],
                default => array_pop($this->open),
            };
            $this->at++;
        }
        if ($this->at !== $close) {
            // The bracket is escaped.
            return null;
        }
        $this->at++;

        return array_pop($this->open);
    }

    /** Goes on behind the address of a link, whose brackets are none. */
    public function skip(int $to): void
    {
        $this->at = max($this->at, $to);
    }

    /** Whether nothing is open, so that what comes can hold nothing of what was. */
    public function areClosed(): bool
    {
        return $this->open === [];
    }
}
