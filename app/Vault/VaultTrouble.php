<?php

declare(strict_types=1);

namespace App\Vault;

use RuntimeException;
use Throwable;
use Ylema\Failure;

/** Kept bytes that cannot be given back, or bytes that cannot be kept. */
final class VaultTrouble extends RuntimeException implements Failure
{
    private function __construct(string $message, public readonly string $sha256, ?Throwable $previous = null)
    {
        parent::__construct($message, previous: $previous);
    }

    public static function lost(string $sha): self
    {
        return new self(
            "The kept bytes $sha are missing or damaged in the vault; restore the vault from its backup.",
            $sha,
        );
    }

    public static function full(string $sha, Throwable $why): self
    {
        return new self(
            "Bytes could not be kept in the vault ({$why->getMessage()}). Make room on its disk or mend its rights, "
                .'then try again.',
            $sha,
            $why,
        );
    }
}
