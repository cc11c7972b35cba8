<?php

declare(strict_types=1);

namespace Ylema\Swap;

use Ylema\Plan\CannotPlan;
use Ylema\Plan\Places;

/** What a maintainer asked for on the swap bench. */
final readonly class SwapRequest
{
    /**
     * @param  int  $from the item that gives way, by its number in the index
     * @param  int|null  $to the item that shall stand in, or null with an upload
     * @param  string|null  $upload the token of an upload
     * @param  string  $title of the new item, with an upload
     * @param  string  $alt of the new item, with an upload
     * @param  string  $caption of the new item, with an upload
     * @param  string  $credit of the new item, with an upload
     * @param  bool  $keepShape whether the new picture is cropped to the proportions of the old one, at its focal point
     */
    public function __construct(
        public int $from,
        public Manner $manner,
        public ?int $to,
        public ?string $upload = null,
        public Places $places = new Places(),
        public string $title = '',
        public string $alt = '',
        public string $caption = '',
        public string $credit = '',
        public bool $keepShape = false,
    ) {
    }

    /** The same with another item of the site to stand in. */
    public function with(int $to): self
    {
        return new self($this->from, $this->manner, $to, null, $this->places);
    }

    /** Where in the interface it can be asked for otherwise, with all that was chosen but the places. */
    public function bench(): string
    {
        $chosen = array_filter([
            'to' => $this->to === null ? null : (string) $this->to,
            'upload' => $this->upload,
            'manner' => $this->manner === Manner::NewReference ? null : $this->manner->value,
        ]);

        return "media/{$this->from}/swap".($chosen === [] ? '' : '?'.http_build_query($chosen));
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'from' => $this->from,
            'manner' => $this->manner->value,
            'to' => $this->to,
            'upload' => $this->upload,
            'places' => $this->places->toArray(),
            'title' => $this->title,
            'alt' => $this->alt,
            'caption' => $this->caption,
            'credit' => $this->credit,
            'keep_shape' => $this->keepShape,
        ];
    }

    /**
     * @param  array<mixed>  $data as toArray() made it
     *
     * @throws CannotPlan when it is anything else
     */
    public static function fromArray(array $data): self
    {
        $manner = is_string($data['manner'] ?? null) ? Manner::tryFrom($data['manner']) : null;
        if (! is_int($data['from'] ?? null) || $manner === null) {
            throw new CannotPlan('What this plan was asked for cannot be read any more. Begin it anew on the bench.');
        }

        return new self(
            $data['from'],
            $manner,
            is_int($data['to'] ?? null) ? $data['to'] : null,
            is_string($data['upload'] ?? null) ? $data['upload'] : null,
            Places::fromArray(is_array($data['places'] ?? null) ? $data['places'] : []),
            is_string($data['title'] ?? null) ? $data['title'] : '',
            is_string($data['alt'] ?? null) ? $data['alt'] : '',
            is_string($data['caption'] ?? null) ? $data['caption'] : '',
            is_string($data['credit'] ?? null) ? $data['credit'] : '',
            ($data['keep_shape'] ?? false) === true,
        );
    }
}
