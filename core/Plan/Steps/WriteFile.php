<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

use Ylema\Imaging\Size;
use Ylema\Plan\Mark;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;
use Ylema\Sites\FileState;

/** Bytes at a path: a new file, or other bytes in place of those that lie there. */
final readonly class WriteFile implements Step
{
    /**
     * @param  FileState|null  $before null where nothing lies there yet
     * @param  FileState  $after the bytes are kept under its hash; what it leaves null stays as the old file has it
     */
    public function __construct(
        public string $path,
        public ?FileState $before,
        public FileState $after,
        public ?Size $pixels = null,
    ) {
    }

    public function kind(): StepKind
    {
        return StepKind::WriteFile;
    }

    public function title(): string
    {
        return $this->path;
    }

    public function inverse(): Step
    {
        return $this->before === null
            ? new DeleteFile($this->path, $this->after)
            : new self($this->path, $this->after, $this->before);
    }

    public function gives(): string
    {
        return Mark::file($this->path);
    }

    public function needs(): array
    {
        return [];
    }

    public function toArray(): array
    {
        return [
            'path' => $this->path,
            'before' => $this->before?->toArray(),
            'after' => $this->after->toArray(),
            'width' => $this->pixels?->width,
            'height' => $this->pixels?->height,
        ];
    }

    /** @param  array<mixed>  $data */
    public static function fromArray(array $data): self
    {
        [$width, $height] = [$data['width'] ?? null, $data['height'] ?? null];

        return new self(
            is_string($data['path'] ?? null) ? $data['path'] : '',
            is_array($data['before'] ?? null) ? FileState::fromArray($data['before']) : null,
            FileState::fromArray(is_array($data['after'] ?? null) ? $data['after'] : []),
            is_int($width) && is_int($height) ? new Size($width, $height) : null,
        );
    }
}
