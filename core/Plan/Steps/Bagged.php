<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

use Ylema\Sites\FileState;

/** What is known of a file that goes from its rest into a bag, or back. */
trait Bagged
{
    /**
     * @param  string  $bag its name
     * @param  string  $payload where it lies in the bag, from the bag's own folder
     * @param  string  $path under which it rests
     * @param  string  $until the day until which it rested
     */
    public function __construct(
        public readonly string $bag,
        public readonly string $payload,
        public readonly string $path,
        public readonly FileState $file,
        public readonly string $until,
        public readonly Belongings $with = new Belongings(),
    ) {
    }

    public function title(): string
    {
        return $this->path;
    }

    public function toArray(): array
    {
        return [
            'bag' => $this->bag,
            'payload' => $this->payload,
            'path' => $this->path,
            'file' => $this->file->toArray(),
            'until' => $this->until,
            'with' => $this->with->toArray(),
        ];
    }

    /** @param  array<mixed>  $data */
    public static function fromArray(array $data): self
    {
        $text = static fn (string $key): string => is_string($data[$key] ?? null) ? $data[$key] : '';

        return new self(
            $text('bag'),
            $text('payload'),
            $text('path'),
            FileState::fromArray(is_array($data['file'] ?? null) ? $data['file'] : []),
            $text('until'),
            Belongings::fromArray(is_array($data['with'] ?? null) ? $data['with'] : []),
        );
    }
}
