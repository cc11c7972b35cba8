<?php

declare(strict_types=1);

namespace Ylema\Plan;

/** Which of an item's places are meant: all, only some, or all but some. */
final readonly class Places
{
    /**
     * @param  bool  $listed whether the listed ones are meant, or all but they
     * @param  list<Place>  $places
     */
    public function __construct(public bool $listed = false, public array $places = [])
    {
    }

    /** @param  list<Place>  $places */
    public static function only(array $places): self
    {
        return new self(true, $places);
    }

    /** @param  list<Place>  $places */
    public static function except(array $places): self
    {
        return new self(false, $places);
    }

    public function areAll(): bool
    {
        return ! $this->listed && $this->places === [];
    }

    /** @return array{listed: bool, places: list<list<int|string>>} */
    public function toArray(): array
    {
        return [
            'listed' => $this->listed,
            'places' => array_map(
                static fn (Place $place): array => [$place->kind, $place->key, $place->field, $place->nth],
                $this->places,
            ),
        ];
    }

    /**
     * @param  array<mixed>  $data as toArray() made it
     *
     * @throws CannotPlan when it is anything else: places that cannot be read never mean all places
     */
    public static function fromArray(array $data): self
    {
        if (! is_bool($data['listed'] ?? null) || ! is_array($data['places'] ?? null)) {
            throw new CannotPlan('The chosen places of this plan cannot be read any more. Choose them again.');
        }
        $places = [];
        foreach ($data['places'] as $place) {
            if (
                ! is_array($place)
                || ! is_string($place[0] ?? null)
                || ! is_string($place[1] ?? null)
                || ! is_string($place[2] ?? null)
                || ! is_int($place[3] ?? null)
            ) {
                throw new CannotPlan('The chosen places of this plan cannot be read any more. Choose them again.');
            }
            $places[] = new Place($place[0], $place[1], $place[2], $place[3]);
        }

        return new self($data['listed'], $places);
    }
}
