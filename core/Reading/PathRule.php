<?php

declare(strict_types=1);

namespace Ylema\Reading;

/**
 * Says how a value inside a structured field (json, php-serialized, yaml, front matter, csv) is to be read.
 *
 * `path` is dotted; `[]` stands for any position, `*` for any key: `blocks[].picture`, `*.html`.
 */
final readonly class PathRule
{
    private string $regex;

    public function __construct(
        public string $path,
        public Notation $notation,
        public ?string $role = null,
        public ?string $target = null,
        public ?string $below = null,
    ) {
        $this->regex = '~^'.strtr(preg_quote($path, '~'), ['\[\]' => '\[\d+\]', '\*' => '[^.\[]+']).'$~';
    }

    public function matches(string $path): bool
    {
        return preg_match($this->regex, $path) === 1;
    }
}
