<?php

declare(strict_types=1);

namespace Ylema\Repair;

/**
 * What a repair would do about a finding. It is sure where the evidence leaves one answer; else a person chooses among
 * the candidates.
 */
final readonly class Cure
{
    /** @param  list<string>  $candidates paths, the likeliest first */
    private function __construct(
        public bool $isSure,
        public ?string $path,
        public bool $isDrawn,
        public array $candidates,
        public bool $isTakenOut = false,
        public bool $isRestored = false,
    ) {
    }

    /** The file is to lie there again, with the bytes that it had; the reference stays. */
    public static function restored(string $path): self
    {
        return new self(true, $path, false, [$path], false, true);
    }

    /** Nothing shall be left of the reference. */
    public static function takenOut(): self
    {
        return new self(true, null, false, [], true);
    }

    /** The reference is to name the file at this path. */
    public static function named(string $path): self
    {
        return new self(true, $path, false, [$path]);
    }

    /** The file that it names is to be drawn again, from the original at this path; the reference stays. */
    public static function drawn(string $original): self
    {
        return new self(true, $original, true, [$original]);
    }

    /** @param  list<string>  $candidates */
    public static function open(array $candidates = []): self
    {
        return new self(false, null, false, $candidates);
    }
}
