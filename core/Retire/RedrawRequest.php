<?php

declare(strict_types=1);

namespace Ylema\Retire;

/** Which renditions that are not there are drawn again. */
final readonly class RedrawRequest
{
    /**
     * @param  int|null  $item number in the index; null for all
     * @param  int|null  $width of the renditions; null for all
     * @param  list<string>  $paths only these; empty for all
     */
    public function __construct(public ?int $item = null, public ?int $width = null, public array $paths = [])
    {
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return ['item' => $this->item, 'width' => $this->width, 'paths' => $this->paths];
    }

    /** @param  array<mixed>  $data as toArray() made it */
    public static function fromArray(array $data): self
    {
        $paths = $data['paths'] ?? null;

        return new self(
            is_int($data['item'] ?? null) ? $data['item'] : null,
            is_int($data['width'] ?? null) ? $data['width'] : null,
            is_array($paths) ? array_values(array_filter($paths, is_string(...))) : [],
        );
    }
}
