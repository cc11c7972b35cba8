<?php

declare(strict_types=1);

namespace Ylema\Usage;

/**
 * Who passes media on to whom: a slot stands on a page part, a set in a slot, a banner in a set.
 *
 * Records are numbered by the caller. An edge leads from the record that refers (the page part)
 * to the one it shows (the slot). From it follow, for every record, the public pages where a visitor
 * meets what the record holds, and how well it stands at best.
 */
final class CarrierGraph
{
    /** @var array<int, list<int>> child → parents */
    private array $parents = [];

    /** @var array<int, list<int>> parent → children */
    private array $children = [];

    /** @var array<int, string> record → bits over page numbers; only for records with carriers */
    private array $reach = [];

    /** @var array<int, RecordState> */
    private array $best = [];

    /** @var list<int> page number → record */
    private array $pages = [];

    /** @var array<int, int> record → page number */
    private array $numbers = [];

    /**
     * @param  array<int, RecordState>  $states of all records
     * @param  list<int>  $public the records that have an address of their own
     * @param  iterable<array{int, int}>  $edges [refers, is shown]
     */
    public function __construct(private readonly array $states, array $public, iterable $edges)
    {
        foreach ($public as $record) {
            if (($this->states[$record] ?? null) === RecordState::Live) {
                $this->numbers[$record] = count($this->pages);
                $this->pages[] = $record;
            }
        }
        foreach ($public as $record) {
            $this->best[$record] = $this->states[$record] ?? RecordState::Fading;
        }
        foreach ($edges as [$parent, $child]) {
            if ($parent !== $child && isset($this->states[$parent], $this->states[$child])) {
                $this->parents[$child][] = $parent;
                $this->children[$parent][] = $child;
            }
        }
        $this->settle();
    }

    /**
     * The state that a record's content has for visitors at its best place. A carrier that nothing shows
     * is waiting (or fading, if it is itself): it may be placed again at any time.
     */
    public function stateOf(int $record): RecordState
    {
        $own = $this->states[$record] ?? RecordState::Fading;

        return $this->best[$record] ?? $own->and(RecordState::Waiting);
    }

    /** @param  iterable<int>  $records */
    public function standingOf(iterable $records): Standing
    {
        $best = null;
        foreach ($records as $record) {
            $state = $this->stateOf($record);
            if ($best === null || $state->value < $best->value) {
                $best = $state;
            }
        }

        return Standing::of($best);
    }

    /**
     * The public pages where a visitor meets what these records hold.
     *
     * @param  iterable<int>  $records
     * @return list<int> records with an address, each once
     */
    public function pagesOf(iterable $records): array
    {
        return array_map(fn (int $number): int => $this->pages[$number], PageSet::pages($this->bits($records)));
    }

    /** @param  iterable<int>  $records */
    public function countPagesOf(iterable $records): int
    {
        return PageSet::count($this->bits($records));
    }

    /** @param  iterable<int>  $records */
    private function bits(iterable $records): string
    {
        $single = [];
        $bits = '';
        foreach ($records as $record) {
            if (isset($this->reach[$record])) {
                $bits = PageSet::union($bits, $this->reach[$record]);
            } elseif (isset($this->numbers[$record])) {
                $single[] = $this->numbers[$record];
            }
        }

        return PageSet::union($bits, PageSet::of($single));
    }

    /** Gathers every carried record from its carriers until nothing changes; cycles settle like the rest. */
    private function settle(): void
    {
        $waiting = array_fill_keys(array_keys($this->parents), true);
        while ($waiting !== []) {
            $child = array_key_first($waiting);
            unset($waiting[$child]);
            if ($this->gather($child)) {
                foreach ($this->children[$child] ?? [] as $next) {
                    $waiting[$next] = true;
                }
            }
        }
    }

    /**
     * Takes reach and state from all carriers at once, so that a page part on 100,000 pages is read once, not 100,000
     * times.
     */
    private function gather(int $child): bool
    {
        $own = $this->states[$child];
        $best = $this->best[$child] ?? null;
        $bits = isset($this->numbers[$child]) ? PageSet::one($this->numbers[$child]) : '';
        $single = [];
        foreach ($this->parents[$child] as $parent) {
            $through = $own->and($this->best[$parent] ?? $this->states[$parent]->and(RecordState::Waiting));
            if ($best === null || $through->value < $best->value) {
                $best = $through;
            }
            if ($own === RecordState::Live && $this->states[$parent] === RecordState::Live) {
                if (isset($this->reach[$parent])) {
                    $bits = PageSet::union($bits, $this->reach[$parent]);
                } elseif (isset($this->numbers[$parent])) {
                    $single[] = $this->numbers[$parent];
                }
            }
        }
        $bits = PageSet::union($bits, PageSet::of($single));
        $changed = $bits !== ($this->reach[$child] ?? null) || ($best ?? $own) !== ($this->best[$child] ?? null);
        $this->reach[$child] = $bits;
        $this->best[$child] = $best ?? $own;

        return $changed;
    }
}
