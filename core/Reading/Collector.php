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

    /** What the nearest enclosing markup gives to the layers inside it. */
    private ?Surroundings $surroundings = null;

    private int $conditions = 0;

    private ?Slice $lastSlice = null;

    private ?Layer $lastLayer = null;

    /** @var list<Layer> */
    private array $lastLayers = [];

    private bool $sorted = true;

    private int $lastStart = -1;

    private int $countedTo = 0;

    private int $line = 1;

    private int $lineStart = 0;

    public function __construct(private readonly string $outermost)
    {
    }

    public function surround(?Surroundings $surroundings): void
    {
        $this->surroundings = $surroundings;
    }

    public function surroundings(): ?Surroundings
    {
        return $this->surroundings;
    }

    /** Until the matching leaveCondition(), nothing found is fetched by a browser by itself: it stands in a script or the like. */
    public function enterCondition(): void
    {
        $this->conditions++;
    }

    public function leaveCondition(): void
    {
        $this->conditions--;
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
        $to = $slice->base === null ? $slice->outer($start + $length) : $from + $length;
        if ($from < $this->lastStart) {
            $this->sorted = false;
        }
        $this->lastStart = $from;
        $this->count($from);
        $around = $this->surroundings;
        $this->references[] = new Reference(
            $from,
            $to - $from,
            // Where no layer decoded anything, the raw bytes are the value, and the string can be shared.
            $slice->base !== null && $layer === null ? $value : substr($this->outermost, $from, $to - $from),
            $value,
            $names,
            $role,
            $this->conditions > 0 && $fetch === Fetch::Always ? Fetch::OnCondition : $fetch,
            $layer === null ? $slice->layers : $this->layers($slice, $layer),
            $around === null
                ? new Context($this->line, $from - $this->lineStart + 1, path: $slice->path, within: $within, descriptor: $descriptor)
                : new Context(
                    $this->line, $from - $this->lineStart + 1, $around->element, $around->attributes, $around->linkAddress(), $around->caption(),
                    $around->headingWords(), $slice->path, $within, $descriptor,
                ),
            $target,
            $slice->counted ? $slice->lengthsOf($start, $start + $length) : [],
        );
    }

    public function problem(int $outerOffset, string $message): void
    {
        $this->problems[] = new Problem($outerOffset, $message);
    }

    public function reading(): Reading
    {
        $references = $this->references;
        if (! $this->sorted) {
            usort($references, static fn (Reference $a, Reference $b): int => $a->start <=> $b->start ?: $a->length <=> $b->length);
        }

        return new Reading($references, $this->problems, $this->base);
    }

    /**
     * References of one slice share one list of layers.
     *
     * @return list<Layer>
     */
    private function layers(Slice $slice, Layer $layer): array
    {
        if ($this->lastSlice !== $slice || $this->lastLayer !== $layer) {
            $this->lastSlice = $slice;
            $this->lastLayer = $layer;
            $this->lastLayers = [...$slice->layers, $layer];
        }

        return $this->lastLayers;
    }

    /** Counts lines up to a byte; cheap while offsets rise, as they nearly always do. */
    private function count(int $offset): void
    {
        if ($offset < $this->countedTo) {
            $this->countedTo = 0;
            $this->line = 1;
            $this->lineStart = 0;
        }
        $lines = substr_count($this->outermost, "\n", $this->countedTo, $offset - $this->countedTo);
        if ($lines > 0) {
            $this->line += $lines;
            $this->lineStart = (int) strrpos($this->outermost, "\n", $offset - strlen($this->outermost) - 1) + 1;
        }
        $this->countedTo = $offset;
    }
}
