<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

use Ylema\Sites\FileState;

/** What is known of a file that goes to its rest or comes back from it. */
trait LaidAside
{
    /**
     * @param  string  $path under which it rests, and under which it lay
     * @param  string  $until the day from which it may go, as in ISO 8601: `2027-01-31`
     * @param  string|null  $at where it lies in the public tree, if that is another path than before
     */
    public function __construct(
        public readonly string $path,
        public readonly FileState $file,
        public readonly string $until,
        public readonly Belongings $with = new Belongings(),
        public readonly ?string $at = null,
    ) {
    }

    public function title(): string
    {
        return $this->path;
    }

    /** Where it lies in the public tree, before or after. */
    public function place(): string
    {
        return $this->at ?? $this->path;
    }

    public function toArray(): array
    {
        return [
            'path' => $this->path,
            'file' => $this->file->toArray(),
            'until' => $this->until,
            'with' => $this->with->toArray(),
            'at' => $this->at,
        ];
    }

    /** @param  array<mixed>  $data */
    public static function fromArray(array $data): self
    {
        return new self(
            is_string($data['path'] ?? null) ? $data['path'] : '',
            FileState::fromArray(is_array($data['file'] ?? null) ? $data['file'] : []),
            is_string($data['until'] ?? null) ? $data['until'] : '',
            Belongings::fromArray(is_array($data['with'] ?? null) ? $data['with'] : []),
            is_string($data['at'] ?? null) ? $data['at'] : null,
        );
    }
}
