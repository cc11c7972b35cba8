<?php

declare(strict_types=1);

namespace App\Sites;

use RuntimeException;
use Ylema\Failure;

/** A field map that cannot be used; the message names line and place and says what belongs there. */
final class FieldMapError extends RuntimeException implements Failure
{
    private function __construct(
        string $message,
        public readonly string $place,
        public readonly ?int $mapLine,
        public readonly string $what,
    ) {
        parent::__construct($message);
    }

    /** @param  string  $place such as `records.page.fields.body` */
    public static function at(string $place, string $what, ?int $line = null): self
    {
        return new self(
            'In the field map, '.($line === null ? '' : "line $line, ")."$place: $what",
            $place,
            $line,
            $what,
        );
    }

    public static function unreadable(string $why, ?int $line = null): self
    {
        return new self("The field map is not readable YAML: $why", '', $line, $why);
    }
}
