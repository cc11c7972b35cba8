<?php

declare(strict_types=1);

namespace Ylema\Plan;

/** The words of a media row, as its source holds them now. */
final readonly class MediaWords
{
    /**
     * @param  array<string, string>  $words title, alt, caption, credit: those that the site's list has a column for
     */
    public function __construct(public int $item, public string $id, public string $path, public array $words)
    {
    }
}
