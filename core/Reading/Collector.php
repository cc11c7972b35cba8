<?php

declare(strict_types=1);

namespace Ylema\Reading;

/**
 * Gathers references while readers walk a field, and turns offsets of inner layers into bytes of the outermost text.
 *
 * @internal
 */
final class Collector
{
    /** @var list<Reference> */
    private array $references = [];

    /** @var list<Problem> */
    private array $problems = [];

    private ?string $base = null;

    /** The context that the nearest enclosing markup gives to layers inside it. */
    private Context $surroundings;

    private int $countedTo = 0;

    private int $line = 1;

    private int $lineStart = 0;

    public function __construct(private readonly string $outermost)
    {
        $this->surroundings = new Context;
    }

    public function surround(Context $context): void
    {
        $this->surroundings = $context;
    }

    public function surroundings(): Context
    {
        return $this->surroundings;
    }

    /** The first base element with an href counts (HTML Standard, 4.2.3). */
    public function base(string $href): void
    {
        $this->base ??= $href;
    }

    public function add(
        Slice $slice,
        int $start,
        int $length,
        string $value,
        Names $names,
        string $role,
        Fetch $fetch,
        ?Layer $layer = null,
        ?string $target = null,
        ?string $within = null,
        ?string $descriptor = null,
    ): void {
        $from = $slice->outer($start);
        $to = $slice->outer($start + $length);
        [$line, $column] = $this->position($from);
        $around = $this->surroundings;
        $this->references[] = new Reference(
            $from,
            $to - $from,
            substr($this->outermost, $from, $to - $from),
            $value,
            $names,
            $role,
            $fetch,
            $layer === null ? $slice->layers : [...$slice->layers, $layer],
            new Context(
                $line, $column, $around->element, $around->attributes, $around->link, $around->caption,
                $around->heading, $slice->path, $within, $descriptor,
            ),
            $target,
            $slice->isCounted() ? $slice->lengthsOf($start, $start + $length) : [],
        );
    }

    public function problem(int $outerOffset, string $message): void
    {
        $this->problems[] = new Problem($outerOffset, $message);
    }

    public function reading(): Reading
    {
        $references = $this->references;
        usort($references, static fn (Reference $a, Reference $b): int => $a->start <=> $b->start ?: $a->length <=> $b->length);

        return new Reading($references, $this->problems, $this->base);
    }

    /** @return array{int, int} line and column of a byte; cheap while offsets rise, as they nearly always do */
    private function position(int $offset): array
    {
        if ($offset < $this->countedTo) {
            $this->countedTo = 0;
            $this->line = 1;
            $this->lineStart = 0;
        }
        $between = substr($this->outermost, $this->countedTo, $offset - $this->countedTo);
        $lines = substr_count($between, "\n");
        if ($lines > 0) {
            $this->line += $lines;
            $this->lineStart = $this->countedTo + (int) strrpos($between, "\n") + 1;
        }
        $this->countedTo = $offset;

        return [$this->line, $offset - $this->lineStart + 1];
    }
}
