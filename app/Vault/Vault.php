<?php

declare(strict_types=1);

namespace App\Vault;

use App\Bytes\Marks;
use App\Bytes\Place;
use Illuminate\Support\Facades\Storage;
use Ylema\Sites\WriteRefused;

/** Bytes kept under their own SHA-256, so that undo gives back exactly what was there. */
final class Vault
{
    /** @throws WriteRefused when they cannot be kept; then nothing may be done that would need them */
    public function put(string $bytes): string
    {
        $sha = hash('sha256', $bytes);
        $disk = Storage::disk('vault');
        app(Marks::class)->expect(Place::of('vault'));
        // Fresh once more, so that nobody clears it away before what needs it says so.
        if (! $disk->exists($this->path($sha)) || ! @touch($disk->path($this->path($sha)))) {
            Place::of('vault')->write($this->path($sha), $bytes, $sha);
        }

        return $sha;
    }

    public function has(string $sha): bool
    {
        return Storage::disk('vault')->exists($this->path($sha));
    }

    /** @throws VaultTrouble when they are gone or damaged */
    public function get(string $sha): string
    {
        $disk = Storage::disk('vault');
        $bytes = $disk->exists($this->path($sha)) ? $disk->get($this->path($sha)) : null;
        if ($bytes === null || hash('sha256', $bytes) !== $sha) {
            throw VaultTrouble::lost($sha, app(Marks::class)->wrong(Place::of('vault')));
        }

        return $bytes;
    }

    private function path(string $sha): string
    {
        return substr($sha, 0, 2)."/$sha";
    }
}
