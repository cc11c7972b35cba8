<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

use Ylema\Plan\Mark;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;

/** Other words in a media row. */
final readonly class ChangeMedia implements Step
{
    /**
     * @param  string  $id of the row in the source
     * @param  array<string, string>  $before title, alt, caption or credit → the words that stand there
     * @param  array<string, string>  $after the same keys
     * @param  list<string>  $files that the plan brings and these words name
     */
    public function __construct(
        public string $id,
        public string $path,
        public array $before,
        public array $after,
        public array $files = [],
    ) {
    }

    public function kind(): StepKind
    {
        return StepKind::ChangeMedia;
    }

    public function title(): string
    {
        return $this->path;
    }

    public function inverse(): Step
    {
        return new self($this->id, $this->path, $this->after, $this->before, $this->files);
    }

    public function gives(): ?string
    {
        return null;
    }

    public function needs(): array
    {
        return Mark::files($this->files);
    }

    public function toArray(): array
    {
        return [
            'id' => $this->id,
            'path' => $this->path,
            'before' => $this->before,
            'after' => $this->after,
            ...$this->files === [] ? [] : ['files' => $this->files],
        ];
    }

    /** @param  array<mixed>  $data */
    public static function fromArray(array $data): self
    {
        $words = static function (mixed $list): array {
            $words = [];
            foreach (is_array($list) ? $list : [] as $name => $text) {
                if (is_string($text)) {
                    $words[(string) $name] = $text;
                }
            }

            return $words;
        };

        return new self(
            is_string($data['id'] ?? null) ? $data['id'] : '',
            is_string($data['path'] ?? null) ? $data['path'] : '',
            $words($data['before'] ?? []),
            $words($data['after'] ?? []),
            is_array($data['files'] ?? null) ? array_values(array_filter($data['files'], is_string(...))) : [],
        );
    }
}
