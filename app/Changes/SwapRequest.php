<?php

declare(strict_types=1);

namespace App\Changes;

/** What a maintainer asked for on the swap bench. */
final readonly class SwapRequest
{
    /**
     * @param  int|null  $to the item that shall stand in, or null with an upload
     * @param  string|null  $upload the token of an upload
     * @param  list<int>|null  $places references to change; null for all
     */
    public function __construct(
        public int $from,
        public bool $sameAddress,
        public ?int $to,
        public ?string $upload,
        public ?array $places = null,
        public string $title = '',
        public string $alt = '',
    ) {
    }

    /** @param  list<int>  $places */
    public function at(array $places): self
    {
        return new self($this->from, $this->sameAddress, $this->to, $this->upload, $places, $this->title, $this->alt);
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return get_object_vars($this);
    }

    /** @param  array<string, mixed>  $data as toArray() made it */
    public static function fromArray(array $data): self
    {
        $places = $data['places'] ?? null;

        return new self(
            is_int($data['from'] ?? null) ? $data['from'] : 0,
            ($data['sameAddress'] ?? false) === true,
            is_int($data['to'] ?? null) ? $data['to'] : null,
            is_string($data['upload'] ?? null) ? $data['upload'] : null,
            is_array($places) ? array_values(array_filter($places, is_int(...))) : null,
            is_string($data['title'] ?? null) ? $data['title'] : '',
            is_string($data['alt'] ?? null) ? $data['alt'] : '',
        );
    }
}
