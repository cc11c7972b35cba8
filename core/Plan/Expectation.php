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
     */
    public function __construct(
        public array $gone = [],
        public array $there = [],
        public array $texts = [],
        public bool $everywhere = true,
    ) {
    }

    /** What should be met after the plan was undone. */
    public function inverse(): self
    {
        return new self($this->there, $this->gone, [], $this->everywhere);
    }

    /** @return array{gone: list<string>, there: list<string>, texts: list<string>, everywhere: bool} */
    public function toArray(): array
    {
        return [
            'gone' => $this->gone,
            'there' => $this->there,
            'texts' => $this->texts,
            'everywhere' => $this->everywhere,
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
        );
    }
}
