<?php

declare(strict_types=1);

namespace Ylema\Retire;

use Ylema\Plan\RestingQuestion;

/** What comes back from its rest. */
final readonly class RestoreRequest
{
    /** @param  bool  $elsewhere whether a file whose place is taken comes back under a free name beside it */
    public function __construct(public RestingQuestion $which, public bool $elsewhere = false)
    {
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return ['which' => $this->which->toArray(), 'elsewhere' => $this->elsewhere];
    }

    /** @param  array<mixed>  $data as toArray() made it */
    public static function fromArray(array $data): self
    {
        return new self(
            RestingQuestion::fromArray(is_array($data['which'] ?? null) ? $data['which'] : []),
            ($data['elsewhere'] ?? false) === true,
        );
    }
}
