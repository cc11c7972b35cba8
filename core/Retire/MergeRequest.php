<?php

declare(strict_types=1);

namespace Ylema\Retire;

/** Which of several copies stays, and which give way to it. */
final readonly class MergeRequest
{
    /**
     * @param  int  $keeper its number in the index
     * @param  list<int>  $others likewise
     */
    public function __construct(public int $keeper, public array $others)
    {
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return ['keeper' => $this->keeper, 'others' => $this->others];
    }

    /** @param  array<mixed>  $data as toArray() made it */
    public static function fromArray(array $data): self
    {
        $others = $data['others'] ?? null;

        return new self(
            is_int($data['keeper'] ?? null) ? $data['keeper'] : 0,
            is_array($others) ? array_values(array_filter($others, is_int(...))) : [],
        );
    }
}
