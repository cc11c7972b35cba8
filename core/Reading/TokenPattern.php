<?php

declare(strict_types=1);

namespace Ylema\Reading;

/**
 * An inline token of the site's own, as a field map describes it: a PCRE body whose named
 * group `key` (another record) or `id` (a media item) is the part that refers.
 */
final readonly class TokenPattern
{
    private function __construct(
        public string $name,
        public string $regex,
        public Names $names,
        public ?string $target,
    ) {
    }

    /** @throws InvalidToken when the pattern does not compile or has neither group */
    public static function of(string $name, string $body, ?string $target): self
    {
        $regex = '~'.str_replace('~', '\~', $body).'~';
        $names = match (true) {
            str_contains($body, '(?<key>') && $target !== null => Names::Record,
            str_contains($body, '(?<id>') => Names::MediaItem,
            default => throw new InvalidToken(
                $name,
                $body,
                "The token \"$name\" needs a group (?<key>…) with a kind under \"names\", or a group "
                    .'(?<id>…) for a media item.',
            ),
        };
        if (@preg_match($regex, '') === false) {
            throw new InvalidToken($name, $body, "The token \"$name\" has a pattern that does not compile: $body");
        }

        return new self($name, $regex, $names, $target);
    }

    public function group(): string
    {
        return $this->names === Names::Record ? 'key' : 'id';
    }
}
