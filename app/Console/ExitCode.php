<?php

declare(strict_types=1);

namespace App\Console;

use Symfony\Component\Console\Exception\ExceptionInterface;
use Throwable;
use Ylema\Failure;
use Ylema\Sites\SourceUnavailable;

/** What a command ends with; docs/command-line.md says the same for people. */
final class ExitCode
{
    public const DONE = 0;

    /** The answer is no, and only where a command's help says so: used nowhere, something found. */
    public const NO = 1;

    /** The call is wrong: an unknown site, item, option or word. */
    public const WRONG = 2;

    /** It could not be looked at: a database is away, the site was not read yet, or a fault of Ylema. */
    public const NOT_LOOKED = 3;

    /** It was looked at, and refused as a whole or in part. */
    public const LEFT = 4;

    public static function of(Throwable $why): int
    {
        return match (true) {
            $why instanceof ExceptionInterface => self::WRONG,
            $why instanceof SourceUnavailable => self::NOT_LOOKED,
            $why instanceof Failure => self::LEFT,
            default => self::NOT_LOOKED,
        };
    }
}
