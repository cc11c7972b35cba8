<?php

declare(strict_types=1);

namespace Ylema\Reading;

/**
 * An inline token of the site's own with named attributes, `[photo id=12 size=large]`, or around a text,
 * `[film]/media/a.mp4[/film]`: what each of them holds, as a field map says it.
 */
final readonly class TokenTag
{
    /** Groups `attributes`, and `content` where the token has an end. */
    public string $regex;

    /**
     * @param  array<string, ElementRule>  $attributes name in lower case → what it holds
     * @param  ElementRule|null  $content what stands between the token and its end; null where it has none
     * @param  string  $open what begins the token, such as `[` or `{{`
     * @param  string  $close what ends it
     */
    public function __construct(
        public string $name,
        public array $attributes,
        public ?ElementRule $content = null,
        string $open = '[',
        string $close = ']',
    ) {
        [$begin, $end, $word] = array_map(static fn (string $s): string => preg_quote($s, '~'), [$open, $close, $name]);
        $tag = "$begin\\s*+$word(?![\\w-])(?<attributes>(?:\"[^\"]*+\"|'[^']*+'|(?!$end|$begin)[^\"'])*+)$end";
        $ending = "(?:(?<content>(?:(?!$begin).)*+)$begin\\s*+/\\s*+$word\\s*+$end)?";
        $this->regex = '~'.$tag.($content === null ? '' : $ending).'~is';
    }
}
