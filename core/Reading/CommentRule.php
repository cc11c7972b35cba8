<?php

declare(strict_types=1);

namespace Ylema\Reading;

/** What a builder keeps in comments of markup: a pattern whose group `text` is the part to be read. */
final readonly class CommentRule
{
    public string $regex;

    /**
     * @param  string  $body a PCRE without delimiters, matched against the inside of each comment
     *
     * @throws InvalidToken when it does not compile or has no group `text`
     */
    public function __construct(string $body, public Notation $notation)
    {
        $this->regex = '~'.str_replace('~', '\~', $body).'~s';
        if (! str_contains($body, '(?<text>') || @preg_match($this->regex, '') === false) {
            throw new InvalidToken('comments', $body, 'A pattern with a group (?<text>…) belongs here, that compiles.');
        }
    }
}
