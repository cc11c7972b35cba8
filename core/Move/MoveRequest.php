<?php

declare(strict_types=1);

namespace Ylema\Move;

/** What moves: a file or folder inside the site, or an address with all that lies below it. */
final readonly class MoveRequest
{
    /**
     * @param  string  $from path below the root, a folder ending in `/`; or a whole address, ending in `/`
     * @param  string  $to likewise
     * @param  bool  $keepsOld whether visitors of the old addresses are sent on
     */
    public function __construct(public string $from, public string $to, public bool $keepsOld = true)
    {
    }

    public function isOfAddress(): bool
    {
        return preg_match('~^https?://~i', $this->from) === 1;
    }

    /** @return array{from: string, to: string, keep: bool} */
    public function toArray(): array
    {
        return ['from' => $this->from, 'to' => $this->to, 'keep' => $this->keepsOld];
    }

    /** @param  array<mixed>  $data as toArray() made it */
    public static function fromArray(array $data): self
    {
        return new self(
            is_string($data['from'] ?? null) ? $data['from'] : '',
            is_string($data['to'] ?? null) ? $data['to'] : '',
            ($data['keep'] ?? true) === true,
        );
    }
}
