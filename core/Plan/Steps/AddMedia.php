<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

use Ylema\Plan\Mark;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;
use Ylema\Sites\MediaRow;
use Ylema\Sites\NewMedia;

/**
 * A row in the site's list of media. Its id is known only once the source has made it, so steps that follow name it by
 * the
 * promise under which it is made (see EditRecord).
 */
final readonly class AddMedia implements Step
{
    /** @param  MediaRow|null  $row as the source made it, once it has; what undo takes away, and only that */
    public function __construct(public NewMedia $media, public string $promise, public ?MediaRow $row = null)
    {
    }

    public function kind(): StepKind
    {
        return StepKind::AddMedia;
    }

    public function title(): string
    {
        return $this->media->path;
    }

    public function inverse(): Step
    {
        return new RemoveMedia($this->media->path, $this->row ?? new MediaRow('', []), $this->media, $this->promise);
    }

    public function made(MediaRow $row): self
    {
        return new self($this->media, $this->promise, $row);
    }

    public function gives(): ?string
    {
        return $this->promise === '' ? null : Mark::row($this->promise);
    }

    public function needs(): array
    {
        return Mark::files([$this->media->path, ...array_column($this->media->renditions, 'path')]);
    }

    public function toArray(): array
    {
        return ['media' => $this->media->toArray(), 'promise' => $this->promise, 'row' => $this->row?->toArray()];
    }

    /** @param  array<mixed>  $data */
    public static function fromArray(array $data): self
    {
        return new self(
            NewMedia::fromArray(is_array($data['media'] ?? null) ? $data['media'] : []),
            is_string($data['promise'] ?? null) ? $data['promise'] : '',
            is_array($data['row'] ?? null) ? MediaRow::fromArray($data['row']) : null,
        );
    }
}
