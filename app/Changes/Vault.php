<?php

declare(strict_types=1);

namespace App\Changes;

use Illuminate\Support\Facades\Storage;
use RuntimeException;

/** Bytes kept under their own SHA-256, so that undo gives back exactly what was there. */
final class Vault
{
    public function put(string $bytes): string
    {
        $sha = hash('sha256', $bytes);
        $disk = Storage::disk('vault');
        if (! $disk->exists($this->path($sha))) {
            // Written beside and renamed, so that a kept hash always has whole bytes.
            $beside = $this->path($sha).'.'.bin2hex(random_bytes(4));
            $disk->put($beside, $bytes);
            $disk->move($beside, $this->path($sha));
        }

        return $sha;
    }

    public function get(string $sha): string
    {
        $disk = Storage::disk('vault');
        $bytes = $disk->exists($this->path($sha)) ? $disk->get($this->path($sha)) : null;
        if ($bytes === null || hash('sha256', $bytes) !== $sha) {
            throw new RuntimeException("The kept bytes $sha are missing or damaged in the vault; restore the vault from its backup.");
        }

        return $bytes;
    }

    private function path(string $sha): string
    {
        return substr($sha, 0, 2)."/$sha";
    }
}
