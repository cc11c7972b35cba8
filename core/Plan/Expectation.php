<?php

declare(strict_types=1);

namespace Ylema\Plan;

/** What a visitor should meet after a plan was applied; verification looks for it on the public pages. */
final readonly class Expectation
{
    /**
     * @param  list<string>  $gone paths of files that pages show no more
     * @param  list<string>  $there paths of files, one of which they show instead
     * @param  list<string>  $texts words that stand there now
     * @param  bool  $everywhere whether all places change; if not, a page may rightly show the old beside the new
     * @param  list<string>  $unsaid values of references that pages say no more, where the file may be the same
     * @param  list<string>  $said values that they say instead
     */
    public function __construct(
        public array $gone = [],
        public array $there = [],
        public array $texts = [],
        public bool $everywhere = true,
        public array $unsaid = [],
        public array $said = [],
    ) {
    }

    /** What should be met after the plan was undone. */
    public function inverse(): self
    {
        return new self($this->there, $this->gone, [], $this->everywhere, $this->said, $this->unsaid);
    }

    /**
     * @return array{
     *     gone: list<string>,
     *     there: list<string>,
     *     texts: list<string>,
     *     everywhere: bool,
     *     unsaid: list<string>,
     *     said: list<string>,
     * }
     */
    public function toArray(): array
    {
        return [
            'gone' => $this->gone,
            'there' => $this->there,
            'texts' => $this->texts,
            'everywhere' => $this->everywhere,
            'unsaid' => $this->unsaid,
            'said' => $this->said,
        ];
    }

    /** @param  array<mixed>  $data as toArray() made it */
    public static function fromArray(array $data): self
    {
        $texts = static fn (mixed $list): array => is_array($list)
            ? array_values(array_filter($list, is_string(...)))
            : [];

        return new self(
            $texts($data['gone'] ?? []),
            $texts($data['there'] ?? []),
            $texts($data['texts'] ?? []),
            ($data['everywhere'] ?? true) === true,
            $texts($data['unsaid'] ?? []),
            $texts($data['said'] ?? []),
        );
    }
}
