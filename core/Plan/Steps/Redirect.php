<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

use Ylema\Plan\Step;
use Ylema\Plan\StepKind;

/** Visitors who ask for a path are sent on to an address. */
final readonly class Redirect implements Step
{
    /**
     * @param  string  $from path below the root, decoded
     * @param  string  $to address, absolute or root-relative
     * @param  int  $status 301, 302, 307, 308 or 410 (RFC 9110, 15.4 and 15.5.11)
     */
    public function __construct(public string $from, public string $to, public int $status = 301)
    {
    }

    public function kind(): StepKind
    {
        return StepKind::Redirect;
    }

    public function title(): string
    {
        return $this->from;
    }

    public function inverse(): Step
    {
        return new DropRedirect($this->from, $this->to, $this->status);
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
