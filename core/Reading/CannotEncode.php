<?php

declare(strict_types=1);

namespace Ylema\Reading;

use RuntimeException;
use Ylema\Failure;

/** A value that cannot be written at a place, because the notation there has no way to say it. */
final class CannotEncode extends RuntimeException implements Failure
{
    private function __construct(
        public readonly string $place,
        public readonly string $value,
        public readonly string $why,
    ) {
        parent::__construct(sprintf('"%s" cannot be written in %s: %s.', $value, $place, $why));
    }

    /** For a value on which PCRE gives up; it is cut for the sentence. */
    public static function tooLong(string $value): self
    {
        return new self('this place', mb_strimwidth($value, 0, 80, '…'), 'it is too long to be escaped');
    }

    public static function in(string $place, string $value, string $why): self
    {
        return new self($place, $value, $why);
    }
}
