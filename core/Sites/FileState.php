<?php

declare(strict_types=1);

namespace Ylema\Sites;

/** A file as it lies in the store: its bytes by their hash, and what a rewrite must not lose. */
final readonly class FileState
{
    /**
     * @param  string  $sha256 of its bytes
     * @param  int  $size in bytes
     * @param  int|null  $modified seconds since 1970; null for "now", or where a store keeps none
     * @param  int|null  $mode permission bits; null for the store's usual ones
     * @param  string|null  $owner user and group by number, `33:33`; null for whoever writes
     */
    public function __construct(
        public string $sha256,
        public int $size,
        public ?int $modified = null,
        public ?int $mode = null,
        public ?string $owner = null,
    ) {
    }

    /** @return array{sha256: string, size: int, modified: int|null, mode: int|null, owner: string|null} */
    public function toArray(): array
    {
        return [
            'sha256' => $this->sha256,
            'size' => $this->size,
            'modified' => $this->modified,
            'mode' => $this->mode,
            'owner' => $this->owner,
        ];
    }

    /** @param  array<mixed>  $data as toArray() made it */
    public static function fromArray(array $data): self
    {
        return new self(
            is_string($data['sha256'] ?? null) ? $data['sha256'] : '',
            is_int($data['size'] ?? null) ? $data['size'] : 0,
            is_int($data['modified'] ?? null) ? $data['modified'] : null,
            is_int($data['mode'] ?? null) ? $data['mode'] : null,
            is_string($data['owner'] ?? null) ? $data['owner'] : null,
        );
    }
}
