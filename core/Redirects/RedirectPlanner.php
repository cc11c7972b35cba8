<?php

declare(strict_types=1);

namespace Ylema\Redirects;

use Generator;
use Ylema\Addresses\PageResolver;
use Ylema\Plan\CannotPlan;
use Ylema\Plan\Facts;
use Ylema\Plan\Outline;
use Ylema\Plan\Planner;
use Ylema\Plan\Steps\DropRedirect;
use Ylema\Plan\Steps\Redirect;
use Ylema\Plan\Words;

/** Plans "visitors of these addresses are sent on, and of those no more". */
final readonly class RedirectPlanner implements Planner
{
    private const BATCH = 1000;

    public function __construct(private RedirectRequest $request)
    {
    }

    public static function kind(): string
    {
        return 'redirects';
    }

    public static function of(array $request): self
    {
        return new self(RedirectRequest::fromArray($request));
    }

    public function request(): array
    {
        return $this->request->toArray();
    }

    public function plan(Facts $facts): Generator
    {
        $wanted = [];
        foreach ($this->request->put as $entry) {
            $wanted[$entry->from] = $entry;
        }
        $put = $dropped = 0;
        foreach (array_chunk($this->request->drop, self::BATCH) as $batch) {
            foreach ($facts->redirects($batch) as $from => $there) {
                if (! isset($wanted[$from])) {
                    $dropped++;
                    yield new DropRedirect($there->from, $there->to, $there->status);
                }
            }
        }
        $hidden = 0;
        foreach (array_chunk($wanted, self::BATCH, true) as $batch) {
            $keys = array_map(strval(...), array_keys($batch));
            $there = $facts->redirects($keys);
            $hidden += count($facts->pages($keys));
            foreach ($batch as $from => $entry) {
                $this->expectNoCircle($entry, $wanted, $facts);
                $old = $there[$from] ?? null;
                if ($old !== null && $old->to === $entry->to && $old->status === $entry->status) {
                    continue;
                }
                if ($old !== null) {
                    yield new DropRedirect($old->from, $old->to, $old->status);
                }
                $put++;
                yield new Redirect($entry->from, $entry->to, $entry->status);
            }
        }
        if ($put + $dropped === 0) {
            throw new CannotPlan('There is nothing to do: the list says so already.');
        }
        $notes = $hidden === 0
            ? []
            : [
                Words::many($hidden, 'of these addresses is that', 'of these addresses are those')
                    .' of pages that are there; whatever serves the site may show the page and not send visitors on.',
            ];
        $sentence = array_filter([
            $put > 0 ? Words::many($put, 'address', 'addresses').' whose visitors are sent on' : '',
            $dropped > 0 ? Words::many($dropped, 'redirect').' taken back' : '',
        ]);

        return new Outline(
            $put > 0 ? 'Send visitors on' : 'Take redirects back',
            ucfirst(implode(', ', $sentence)).'.',
            notes: $notes,
            bench: 'repairs/redirects',
        );
    }

    /**
     * @param  array<array-key, Entry>  $wanted
     *
     * @throws CannotPlan where it would lead back to itself
     */
    private function expectNoCircle(Entry $entry, array $wanted, Facts $facts): void
    {
        $at = $entry;
        for ($i = 0; $i < Check::LONGEST && ! $at->isGone(); $i++) {
            $place = $facts->addresses()->locate($at->to);
            $key = $place?->path === null ? null : PageResolver::key($place->path, $place->url->query);
            if ($key === $entry->from) {
                throw new CannotPlan(
                    "The redirect of /$entry->from would lead back to itself. Name another target.",
                );
            }
            if ($key === null) {
                return;
            }
            $known = $facts->redirects([$key])[$key] ?? null;
            $next = $wanted[$key] ?? ($known === null ? null : new Entry($known->from, $known->to, $known->status));
            if ($next === null) {
                return;
            }
            $at = $next;
        }
    }
}
