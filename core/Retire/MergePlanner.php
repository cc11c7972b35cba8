<?php

declare(strict_types=1);

namespace Ylema\Retire;

use Generator;
use Ylema\Addresses\PageResolver;
use Ylema\Addresses\SiteAddresses;
use Ylema\Plan\CannotPlan;
use Ylema\Plan\EditTally;
use Ylema\Plan\Expectation;
use Ylema\Plan\Facts;
use Ylema\Plan\Idle;
use Ylema\Plan\IdleQuestion;
use Ylema\Plan\MediaFacts;
use Ylema\Plan\Outline;
use Ylema\Plan\PlacedUse;
use Ylema\Plan\Planner;
use Ylema\Plan\RecordEditor;
use Ylema\Plan\Refused;
use Ylema\Plan\Step;
use Ylema\Plan\Steps\Belongings;
use Ylema\Plan\Steps\Redirect;
use Ylema\Plan\Steps\RemoveMedia;
use Ylema\Plan\Steps\RestFile;
use Ylema\Plan\Words;
use Ylema\Reading\Names;
use Ylema\Reading\Reference;
use Ylema\Swap\StandIn;

/**
 * Of several items that show the same picture, one stays: all references are pointed at it, in their own notation and
 * with the words of their place, then the others are laid to rest. Whoever asks for an old address from outside is sent
 * on to the file that stands in for it.
 */
final readonly class MergePlanner implements Planner
{
    public function __construct(public MergeRequest $request)
    {
    }

    public static function kind(): string
    {
        return 'merge';
    }

    public static function of(array $request): self
    {
        return new self(MergeRequest::fromArray($request));
    }

    public function request(): array
    {
        return $this->request->toArray();
    }

    public function plan(Facts $facts): Generator
    {
        [$keeper, $others] = $this->items($facts);
        $standIns = [];
        foreach ($others as $other) {
            $standIns[$other->item] = new StandIn($facts->addresses(), $facts->mediaPages(), $other, $keeper);
        }
        $tally = yield from $this->references($facts, $others, $standIns);
        $left = $tally->left() > 0;
        [$items, $files, $stay] = yield from $this->rests($facts, $others, $standIns, $left);

        return $this->outline($facts, $keeper, $tally, [$items, $files, $stay]);
    }

    /** @return array{MediaFacts, non-empty-list<MediaFacts>} */
    private function items(Facts $facts): array
    {
        $media = $facts->media([$this->request->keeper, ...$this->request->others]);
        $keeper = $media[$this->request->keeper] ?? null;
        if ($keeper === null || ! $keeper->hasOriginal) {
            throw new CannotPlan('The item that should stay has no file, or is gone. Choose another one to keep.');
        }
        $others = [];
        foreach ($this->request->others as $item) {
            if ($item !== $this->request->keeper && isset($media[$item])) {
                $others[] = $media[$item];
            }
        }

        return $others === []
            ? throw new CannotPlan('None of the copies is there any more. Read the site again.')
            : [$keeper, $others];
    }

    /**
     * @param  non-empty-list<MediaFacts>  $others
     * @param  array<int, StandIn>  $standIns
     * @return Generator<int, Step|Refused, void, EditTally>
     */
    private function references(Facts $facts, array $others, array $standIns): Generator
    {
        $byPath = $byId = [];
        foreach ($others as $other) {
            foreach ($other->paths() as $path) {
                $byPath[$path] = $standIns[$other->item];
            }
            $byId[$other->id] = $standIns[$other->item];
        }
        $tally = new EditTally();
        $editor = new RecordEditor();
        $value = static function (Reference $at, PlacedUse $use) use ($byPath, $byId, $facts, $tally): string {
            $id = $at->names === Names::MediaItem ? $at->value : null;
            if ($id === null && $use->path === null) {
                $place = $facts->addresses()->locate($at->value);
                $id = $place === null ? null : $facts->mediaPages()?->idOf($place);
            }
            $standIn = $byPath[$use->path ?? ''] ?? ($byId[$id ?? ''] ?? null);
            $new = $standIn?->value($at, $use->path) ?? $at->value;
            $tally->note($at->value, $new);

            return $new;
        };
        foreach ($facts->usesOf(array_keys($standIns)) as $batch) {
            foreach ($batch as $uses) {
                $step = $editor->edit($uses, $value);
                $tally->took($step, $uses->kind, count($uses->uses));
                yield $step;
            }
        }

        return $tally;
    }

    /**
     * @param  non-empty-list<MediaFacts>  $others
     * @param  array<int, StandIn>  $standIns
     * @return Generator<int, Step|Refused, void, array{int, int, int}>
     */
    private function rests(Facts $facts, array $others, array $standIns, bool $left): Generator
    {
        $items = $files = $stay = 0;
        $until = $facts->restsUntil();
        $question = new IdleQuestion(items: array_map(static fn (MediaFacts $one): int => $one->item, $others));
        foreach ($facts->idle($question) as $batch) {
            foreach ($batch as $idle) {
                $why = self::mustStay($idle, $left);
                $stay += $why === null ? 0 : 1;
                foreach ($idle->files as $file) {
                    $step = new RestFile(
                        $file->path,
                        $file->state,
                        $until,
                        new Belongings(
                            $idle->path,
                            $idle->title,
                            $file->mime,
                            $file->pixels,
                            $file->isOriginal ? $idle->row : null,
                            $file->isOriginal ? $idle->proof : [],
                        ),
                    );
                    if ($why !== null) {
                        yield new Refused($step, $why);
                        break;
                    }
                    $files++;
                    yield $step;
                }
                if ($why === null) {
                    $items++;
                    yield from $this->follow($idle, $standIns[$idle->item], $facts);
                }
            }
        }

        return [$items, $files, $stay];
    }

    /** @return Generator<int, Step> */
    private function follow(Idle $idle, StandIn $standIn, Facts $facts): Generator
    {
        if ($idle->row !== null) {
            yield new RemoveMedia($idle->path, $idle->row, files: $idle->paths());
        }
        $paths = $idle->paths();
        $there = $facts->redirects(array_map(PageResolver::key(...), $paths));
        $root = rtrim($facts->addresses()->now->path, '/');
        foreach ($paths as $path) {
            $key = PageResolver::key($path);
            if (! isset($there[$key])) {
                $encoded = SiteAddresses::encodePath($standIn->file($path)->path);
                yield new Redirect($key, "$root/$encoded");
            }
        }
    }

    /** The references that need it are pointed elsewhere by this very plan; what no plan rewrites keeps it. */
    private static function mustStay(Idle $idle, bool $left): ?string
    {
        foreach ($idle->proof as $line) {
            if (
                ($line['source'] ?? '') === ProofSource::Code->value
                && ($line['says'] ?? '') === Says::Against->value
            ) {
                $sentence = is_string($line['sentence'] ?? null) ? $line['sentence'] : '';

                return "It stays. $sentence Its references are pointed at the keeper all the same.";
            }
        }

        return $left
            ? 'It stays while some references could not be pointed elsewhere. Mend those first; the list says which.'
            : null;
    }

    /** @param  array{int, int, int}  $counts */
    private function outline(Facts $facts, MediaFacts $keeper, EditTally $tally, array $counts): Outline
    {
        [$items, $files, $stay] = $counts;
        $notes = [
            'Each place keeps its own words, size and alignment; only the picture it names is another one.',
            'Whoever asks for an old address from outside is sent on to the file that stands in for it.',
            ...$tally->stamps($facts),
        ];
        if ($stay > 0) {
            $notes[] =
                Words::many($stay, 'copy', 'copies').' '.($stay === 1 ? 'stays' : 'stay').': the list says why.';
        }
        $expected = $tally->isEmpty() ? new Expectation() : $tally->expectation();

        return new Outline(
            "{$keeper->name()}: one of ".(count($this->request->others) + 1).' copies stays',
            ($tally->references() > 0 ? $tally->sentence().' point at it; ' : '').
                Words::many($items, 'copy', 'copies')
                .' laid to rest with '.
                Words::many($files, 'file')
                .'.',
            $expected,
            array_values(array_unique($notes)),
        );
    }
}
