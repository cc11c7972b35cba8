<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\JavaScript;

/**
 * A text that a script puts together of strings, templates and what it knows only when it runs.
 *
 * @internal
 */
final class Joined
{
    /** Stands for what only a running script knows: a noncharacter, which no text for others holds (Unicode, 23.7). */
    public const HOLE = "\u{FDD0}";

    /** @var list<array{string, int, string, bool}> inside as it is written, place, quote, whether a hole is before */
    public array $pieces = [];

    /** Whether a template in it has no end, and so is none. */
    public bool $isBroken = false;

    private bool $afterPlus = true;

    private bool $inOperand = false;

    private bool $inHole = false;

    public function piece(string $raw, int $start, string $quote): void
    {
        $this->pieces[] = [$raw, $start, $quote, $this->inHole];
        $this->inHole = $this->inOperand = $this->afterPlus = false;
    }

    /** Whether a string that comes now is put behind what is there. */
    public function wants(): bool
    {
        return $this->afterPlus && ! $this->inOperand;
    }

    public function plus(): void
    {
        $this->inOperand = false;
        $this->afterPlus = true;
    }

    /** Something is put in that nobody knows before the script runs. */
    public function hole(): void
    {
        $this->inHole = true;
    }

    /** A name, a number or a bracket: behind a plus sign it stands for what nobody knows; else the text is over. */
    public function operand(): bool
    {
        if ($this->afterPlus) {
            $this->inHole = $this->inOperand = true;
        }

        return $this->afterPlus;
    }

    /** Whether something unknown comes last. */
    public function endsOpen(): bool
    {
        return $this->inHole || $this->afterPlus;
    }

    /**
     * The stretches of it that are known, each with whether something unknown is behind it.
     *
     * @return list<array{list<array{string, int, string, bool}>, bool}>
     */
    public function runs(): array
    {
        $runs = $run = [];
        foreach ($this->pieces as $piece) {
            if ($run !== [] && $piece[3]) {
                $runs[] = [$run, true];
                $run = [];
            }
            $run[] = $piece;
        }

        return [...$runs, [$run, $this->endsOpen()]];
    }
}
