<?php

declare(strict_types=1);

namespace App\Vault;

use RuntimeException;
use Ylema\Failure;

/** Kept bytes that cannot be given back. */
final class VaultTrouble extends RuntimeException implements Failure
{
    private function __construct(string $message, public readonly string $sha256)
    {
        parent::__construct($message);
    }

    /** @param  string|null  $wrong what is wrong with the folder itself, where anything is */
    public static function lost(string $sha, ?string $wrong = null): self
    {
        return new self(
            "The kept bytes $sha are missing or damaged in the vault; "
                .($wrong ?? 'restore the vault from its backup.'),
            $sha,
        );
    }
}
