<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

use Ylema\Imaging\Size;
use Ylema\Sites\MediaRow;

/** What goes with a file to its rest, so that whoever brings it back needs nothing else. */
final readonly class Belongings
{
    /**
     * @param  string  $item path of the original, for it and for what was derived from it; empty where it is its own
     * @param  string  $mime its type (RFC 6838)
     * @param  MediaRow|null  $row of the site's own list of media, with the original
     * @param  list<array<string, mixed>>  $proof what spoke for and against it, as ProofSheet::toArray() says it
     */
    public function __construct(
        public string $item = '',
        public string $title = '',
        public string $mime = '',
        public ?Size $pixels = null,
        public ?MediaRow $row = null,
        public array $proof = [],
    ) {
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return array_filter([
            'item' => $this->item,
            'title' => $this->title,
            'mime' => $this->mime,
            'width' => $this->pixels?->width,
            'height' => $this->pixels?->height,
            'row' => $this->row?->toArray(),
            'proof' => $this->proof,
        ]);
    }

    /** @param  array<mixed>  $data as toArray() made it */
    public static function fromArray(array $data): self
    {
        $text = static fn (string $key): string => is_string($data[$key] ?? null) ? $data[$key] : '';
        [$width, $height] = [$data['width'] ?? null, $data['height'] ?? null];
        $proof = [];
        foreach (is_array($data['proof'] ?? null) ? $data['proof'] : [] as $line) {
            if (is_array($line)) {
                $own = [];
                foreach ($line as $name => $value) {
                    $own[(string) $name] = $value;
                }
                $proof[] = $own;
            }
        }

        return new self(
            $text('item'),
            $text('title'),
            $text('mime'),
            is_int($width) && is_int($height) ? new Size($width, $height) : null,
            is_array($data['row'] ?? null) ? MediaRow::fromArray($data['row']) : null,
            $proof,
        );
    }
}
