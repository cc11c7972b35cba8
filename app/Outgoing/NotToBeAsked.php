<?php

declare(strict_types=1);

namespace App\Outgoing;

use RuntimeException;
use Ylema\Failure;

/** A host that nobody said this machine may ask. */
final class NotToBeAsked extends RuntimeException implements Failure
{
    private function __construct(string $message, public readonly string $host)
    {
        parent::__construct($message);
    }

    public static function unknown(string $host): self
    {
        return new self(
            "This machine was not told how to reach $host, so it was not asked. An owner can say so in the site's "
                .'settings.',
            $host,
        );
    }

    public static function notPublic(string $host): self
    {
        return new self(
            "$host leads to no address of the internet, so it was not asked. If it stands in this network, an owner "
                ."can say in the site's settings how to reach it.",
            $host,
        );
    }
}
