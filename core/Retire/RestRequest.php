<?php

declare(strict_types=1);

namespace Ylema\Retire;

use Ylema\Plan\IdleQuestion;

/** What rests, and what visitors of the old addresses get. */
final readonly class RestRequest
{
    /**
     * @param  bool  $asks whether what should be asked about first rests, too: somebody was asked
     * @param  string|null  $to address that visitors of the old ones are sent on to; null for none: nothing is there
     */
    public function __construct(public IdleQuestion $which, public bool $asks = false, public ?string $to = null)
    {
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return ['which' => $this->which->toArray(), 'asks' => $this->asks, 'to' => $this->to];
    }

    /** @param  array<mixed>  $data as toArray() made it */
    public static function fromArray(array $data): self
    {
        return new self(
            IdleQuestion::fromArray(is_array($data['which'] ?? null) ? $data['which'] : []),
            ($data['asks'] ?? false) === true,
            is_string($data['to'] ?? null) && $data['to'] !== '' ? $data['to'] : null,
        );
    }
}
