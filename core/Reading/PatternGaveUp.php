<?php

declare(strict_types=1);

namespace Ylema\Reading;

use RuntimeException;
use Ylema\Failure;

/**
 * PCRE gave up on a text, which takes it too many steps or too much memory; FieldReader makes a problem of it. What was
 * not looked at is not the same as nothing found, and without asking both look alike.
 */
final class PatternGaveUp extends RuntimeException implements Failure
{
    /**
     * To be asked behind every search in a text of any length; a loop that has a collector asks that.
     *
     * @throws self
     */
    public static function check(): void
    {
        if (preg_last_error() !== PREG_NO_ERROR) {
            throw new self(preg_last_error_msg());
        }
    }
}
