<?php

declare(strict_types=1);

namespace Ylema\Plan;

/**
 * What is there once a step is done, by a name that other steps of its plan can wait for. A name that no step of the
 * plan gives was there before, and is waited for by nobody.
 */
final class Mark
{
    /** A file lies at a path of the public tree. */
    public static function file(string $path): string
    {
        return "file $path";
    }

    /**
     * @param  list<string>  $paths
     * @return list<string>
     */
    public static function files(array $paths): array
    {
        return array_values(array_unique(array_map(self::file(...), $paths)));
    }

    /** The row that a plan makes under a promise is in the list of media. */
    public static function row(string $promise): string
    {
        return "row $promise";
    }

    /** Visitors of a path are sent on. */
    public static function redirect(string $from): string
    {
        return "redirect $from";
    }

    /** A file has left the public tree, and is kept. */
    public static function rest(string $path): string
    {
        return "rest $path";
    }
}
