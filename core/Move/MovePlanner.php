<?php

declare(strict_types=1);

namespace Ylema\Move;

use Generator;
use Ylema\Plan\Facts;
use Ylema\Plan\Planner;

/** Plans "this lies there from now on, and whatever named it follows". */
final readonly class MovePlanner implements Planner
{
    public function __construct(private MoveRequest $request)
    {
    }

    public static function kind(): string
    {
        return 'move';
    }

    public static function of(array $request): self
    {
        return new self(MoveRequest::fromArray($request));
    }

    public function request(): array
    {
        return $this->request->toArray();
    }

    public function plan(Facts $facts): Generator
    {
        return yield from $this->request->isOfAddress()
            ? (new AddressMove($this->request))->plan($facts)
            : (new FileMove($this->request))->plan($facts);
    }
}
