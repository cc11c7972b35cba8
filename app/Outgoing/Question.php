<?php

declare(strict_types=1);

namespace App\Outgoing;

/** One thing to ask of a server. */
final readonly class Question
{
    /** @param  array<string, string>  $headers beside those that every question has */
    public function __construct(
        public string $address,
        public string $method = 'GET',
        public array $headers = [],
        public bool $follows = true,
    ) {
    }
}
