<?php

declare(strict_types=1);

namespace Ylema\Sites;

/** A media row that a plan adds to the source; the source itself gives it its id. */
final readonly class NewMedia
{
    /** @param  list<array{path: string, width: int, height: int}>  $renditions */
    public function __construct(
        public string $path,
        public string $title,
        public string $alt,
        public ?int $width,
        public ?int $height,
        public array $renditions,
        public string $caption = '',
        public string $credit = '',
    ) {
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'path' => $this->path,
            'title' => $this->title,
            'alt' => $this->alt,
            'width' => $this->width,
            'height' => $this->height,
            'renditions' => $this->renditions,
            'caption' => $this->caption,
            'credit' => $this->credit,
        ];
    }

    /** @param  array<mixed>  $data as toArray() made it */
    public static function fromArray(array $data): self
    {
        $renditions = [];
        foreach (is_array($data['renditions'] ?? null) ? $data['renditions'] : [] as $one) {
            if (
                is_array($one)
                && is_string($one['path'] ?? null)
                && is_int($one['width'] ?? null)
                && is_int($one['height'] ?? null)
            ) {
                $renditions[] = ['path' => $one['path'], 'width' => $one['width'], 'height' => $one['height']];
            }
        }

        return new self(
            is_string($data['path'] ?? null) ? $data['path'] : '',
            is_string($data['title'] ?? null) ? $data['title'] : '',
            is_string($data['alt'] ?? null) ? $data['alt'] : '',
            is_int($data['width'] ?? null) ? $data['width'] : null,
            is_int($data['height'] ?? null) ? $data['height'] : null,
            $renditions,
            is_string($data['caption'] ?? null) ? $data['caption'] : '',
            is_string($data['credit'] ?? null) ? $data['credit'] : '',
        );
    }
}
