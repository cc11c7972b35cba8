<?php

declare(strict_types=1);

namespace Ylema\Reading;

/**
 * What surrounds a reference, so that a person can judge the place without opening the record.
 *
 * `line` and `column` count from 1 in the outermost text; the column counts bytes.
 */
final readonly class Context
{
    /**
     * @param  string|null  $element in lower case
     * @param  array<string, string>  $attributes of the element that holds the reference, decoded
     * @param  string|null  $link where the enclosing link leads
     * @param  string|null  $caption of the enclosing figure
     * @param  string|null  $heading the nearest heading before
     * @param  string|null  $path  where in a structured field: `hero.picture`, `blocks[3].html`
     * @param  string|null  $within selector and property for a style reference: `.band · background-image`
     * @param  string|null  $descriptor of a candidate: `2x`, `640w`
     */
    public function __construct(
        public int $line = 1,
        public int $column = 1,
        public ?string $element = null,
        public array $attributes = [],
        public ?string $link = null,
        public ?string $caption = null,
        public ?string $heading = null,
        public ?string $path = null,
        public ?string $within = null,
        public ?string $descriptor = null,
    ) {
    }

    public function inside(?string $within): self
    {
        return new self(
            $this->line,
            $this->column,
            $this->element,
            $this->attributes,
            $this->link,
            $this->caption,
            $this->heading,
            $this->path,
            $within,
            $this->descriptor,
        );
    }
}
