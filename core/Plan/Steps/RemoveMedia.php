<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

use Ylema\Plan\Mark;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;
use Ylema\Sites\MediaRow;
use Ylema\Sites\NewMedia;

/** A row leaves the site's list of media, if it still is the one that is meant, column for column. */
final readonly class RemoveMedia implements Step
{
    /**
     * @param  NewMedia|null  $media what it was made from, where a plan made it
     * @param  list<string>  $files of the item, which have to leave the public tree before
     */
    public function __construct(
        public string $path,
        public MediaRow $row,
        public ?NewMedia $media = null,
        public string $promise = '',
        public array $files = [],
    ) {
    }

    public function kind(): StepKind
    {
        return StepKind::RemoveMedia;
    }

    public function title(): string
    {
        return $this->path;
    }

    /** The row comes back with its id and every column. */
    public function inverse(): Step
    {
        return new AddMedia(
            $this->media ?? new NewMedia($this->path, '', '', null, null, []),
            $this->promise,
            $this->row,
        );
    }

    public function gives(): ?string
    {
        return null;
    }

    public function needs(): array
    {
        return array_map(Mark::rest(...), $this->files);
    }

    public function toArray(): array
    {
        return [
            'path' => $this->path,
            'row' => $this->row->toArray(),
            'media' => $this->media?->toArray(),
            'promise' => $this->promise,
            ...$this->files === [] ? [] : ['files' => $this->files],
        ];
    }

    /** @param  array<mixed>  $data */
    public static function fromArray(array $data): self
    {
        return new self(
            is_string($data['path'] ?? null) ? $data['path'] : '',
            MediaRow::fromArray(is_array($data['row'] ?? null) ? $data['row'] : []),
            is_array($data['media'] ?? null) ? NewMedia::fromArray($data['media']) : null,
            is_string($data['promise'] ?? null) ? $data['promise'] : '',
            is_array($data['files'] ?? null) ? array_values(array_filter($data['files'], is_string(...))) : [],
        );
    }
}
