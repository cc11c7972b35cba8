<?php

declare(strict_types=1);

namespace Ylema\Adopt;

/** Whose pictures are brought home. */
final readonly class AdoptRequest
{
    /**
     * @param  list<string>  $hosts names
     * @param  bool  $pasted whether pictures that lie in the text itself are meant, too
     */
    public function __construct(public array $hosts, public bool $pasted = false)
    {
    }

    /** @return array{hosts: list<string>, pasted: bool} */
    public function toArray(): array
    {
        return ['hosts' => $this->hosts, 'pasted' => $this->pasted];
    }

    /** @param  array<mixed>  $data as toArray() made it */
    public static function fromArray(array $data): self
    {
        return new self(
            array_values(array_filter(is_array($data['hosts'] ?? null) ? $data['hosts'] : [], is_string(...))),
            ($data['pasted'] ?? false) === true,
        );
    }
}
