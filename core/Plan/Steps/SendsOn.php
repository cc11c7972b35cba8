<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

/** What a redirect is, whether it comes or goes. */
trait SendsOn
{
    /**
     * @param  string  $from see PageResolver::key()
     * @param  string  $to address, absolute or root-relative
     * @param  int  $status 301, 302, 307, 308 or 410 (RFC 9110, 15.4 and 15.5.11)
     * @param  string|null  $file that the plan brings, and for which this is done
     */
    public function __construct(
        public readonly string $from,
        public readonly string $to,
        public readonly int $status = 301,
        public readonly ?string $file = null,
    ) {
    }

    public function title(): string
    {
        return $this->from;
    }

    public function toArray(): array
    {
        return [
            'from' => $this->from,
            'to' => $this->to,
            'status' => $this->status,
            ...$this->file === null ? [] : ['file' => $this->file],
        ];
    }

    /** @param  array<mixed>  $data */
    public static function fromArray(array $data): self
    {
        return new self(
            is_string($data['from'] ?? null) ? $data['from'] : '',
            is_string($data['to'] ?? null) ? $data['to'] : '',
            is_int($data['status'] ?? null) ? $data['status'] : 301,
            is_string($data['file'] ?? null) ? $data['file'] : null,
        );
    }
}
