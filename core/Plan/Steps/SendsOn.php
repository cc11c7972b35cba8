<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

/** What a redirect is, whether it comes or goes. */
trait SendsOn
{
    /**
     * @param  string  $from path below the root, decoded
     * @param  string  $to address, absolute or root-relative
     * @param  int  $status 301, 302, 307, 308 or 410 (RFC 9110, 15.4 and 15.5.11)
     */
    public function __construct(
        public readonly string $from,
        public readonly string $to,
        public readonly int $status = 301,
    ) {
    }

    public function title(): string
    {
        return $this->from;
    }

    public function toArray(): array
    {
        return ['from' => $this->from, 'to' => $this->to, 'status' => $this->status];
    }

    /** @param  array<mixed>  $data */
    public static function fromArray(array $data): self
    {
        return new self(
            is_string($data['from'] ?? null) ? $data['from'] : '',
            is_string($data['to'] ?? null) ? $data['to'] : '',
            is_int($data['status'] ?? null) ? $data['status'] : 301,
        );
    }
}
