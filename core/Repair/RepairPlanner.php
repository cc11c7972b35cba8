<?php

declare(strict_types=1);

namespace Ylema\Repair;

use Generator;
use Ylema\Addresses\OutcomeKind;
use Ylema\Imaging\MediaType;
use Ylema\Imaging\Size;
use Ylema\Imaging\UploadRefused;
use Ylema\Plan\CannotPlan;
use Ylema\Plan\Drawing;
use Ylema\Plan\EditTally;
use Ylema\Plan\Facts;
use Ylema\Plan\Finding;
use Ylema\Plan\Outline;
use Ylema\Plan\PlacedUse;
use Ylema\Plan\Planner;
use Ylema\Plan\RecordEditor;
use Ylema\Plan\RecordUses;
use Ylema\Plan\Refused;
use Ylema\Plan\Steps\WriteFile;
use Ylema\Plan\TakenOut;
use Ylema\Plan\Words;
use Ylema\Reading\Names;
use Ylema\Reading\Reading;
use Ylema\Reading\Reference;

/** Plans "what does not lead where it should shall do so again", for whole families of findings. */
final readonly class RepairPlanner implements Planner
{
    /** Renditions drawn before the next are asked about. */
    private const BATCH = 100;

    public function __construct(private RepairRequest $request)
    {
    }

    public static function kind(): string
    {
        return 'repair';
    }

    public static function of(array $request): self
    {
        return new self(RepairRequest::fromArray($request));
    }

    public function request(): array
    {
        return $this->request->toArray();
    }

    public function plan(Facts $facts): Generator
    {
        if ($this->request->kinds === []) {
            throw new CannotPlan('Say which findings are to be mended.');
        }
        $cures = new Cures($facts->renditionNames());
        $writing = new Writing($facts->addresses());
        $editor = new RecordEditor();
        $ids = $facts->idsOf(array_values(array_filter($this->request->decisions, is_string(...))));
        $tally = new EditTally();
        $open = $out = 0;
        $families = $toDraw = $toRestore = [];
        foreach ($facts->findings($this->request->kinds) as $batch) {
            $known = $this->ruledTo($batch, $facts);
            foreach ($batch as $uses) {
                $chosen = [];
                foreach ($uses->uses as $use) {
                    $cure = $use->finding === null ? Cure::open() : $this->cure($use->finding, $cures, $known, $ids);
                    if ($use->finding === null || ($cure->path === null && ! $cure->isTakenOut)) {
                        $open++;
                    } elseif ($cure->isRestored) {
                        $toRestore[(string) $cure->path] = true;
                        $families[$use->finding->kind->value] = ($families[$use->finding->kind->value] ?? 0) + 1;
                    } elseif ($cure->isDrawn) {
                        $toDraw[(string) $use->finding->asked] = $use->finding->item;
                        $families[$use->finding->kind->value] = ($families[$use->finding->kind->value] ?? 0) + 1;
                    } else {
                        $chosen[] = new PlacedUse($use->field, $use->start, $use->length, $cure->path, $use->finding);
                    }
                }
                if ($chosen === []) {
                    continue;
                }
                $step = $editor->edit(
                    new RecordUses($uses->kind, $uses->key, $uses->title, $uses->contentHash, $chosen, $uses->record),
                    static function (
                        Reference $at,
                        PlacedUse $use,
                        Reading $reading,
                    ) use ($writing, $ids, $tally, &$out): string|TakenOut {
                        if ($use->path === null) {
                            $out++;

                            return TakenOut::Whole;
                        }
                        if ($at->names === Names::MediaItem) {
                            return $ids[$use->path] ?? $at->value;
                        }
                        $new = $use->finding?->leads === true
                            ? $writing->link($at, (string) $use->path, $use->finding, $reading)
                            : $writing->value($at, (string) $use->path, $reading);
                        $tally->note($at->value, $new);

                        return $new;
                    },
                );
                $tally->took($step, $uses->kind, count($chosen));
                if (! $step instanceof Refused) {
                    foreach ($chosen as $use) {
                        $family = $use->finding?->kind->value;
                        $families[$family] = ($families[$family] ?? 0) + 1;
                    }
                }
                yield $step;
            }
        }
        [$drawn, $notDrawn] = yield from $this->drawings($toDraw, $facts);
        [$restored, $lost] = yield from $this->restored(array_map(strval(...), array_keys($toRestore)), $facts);
        $drawn += $restored;
        if ($tally->isEmpty() && $drawn === 0) {
            throw new CannotPlan(
                $open + $notDrawn === 0
                    ? 'There is nothing to mend: no such finding is left.'
                    : 'None of these findings has one answer that is sure. Choose for each, or let it stand.',
            );
        }

        return $this->outline(
            $facts,
            $families,
            $tally,
            [$drawn - $restored, $out, $restored],
            [$open, $notDrawn, $lost],
        );
    }

    /**
     * @param  list<RecordUses>  $batch
     * @return array<string, true> those of the places to which rules lead that are there
     */
    private function ruledTo(array $batch, Facts $facts): array
    {
        $paths = [];
        foreach ($this->request->rules === [] ? [] : $batch as $uses) {
            foreach ($uses->uses as $use) {
                $path = $this->request->ruled((string) $use->finding?->asked);
                if ($path !== null) {
                    $paths[$path] = true;
                }
            }
        }

        return $paths === [] ? [] : $facts->known(array_map(strval(...), array_keys($paths)));
    }

    /**
     * @param  array<string, true>  $known
     * @param  array<string, string>  $ids path → id of its row
     */
    private function cure(Finding $finding, Cures $cures, array $known, array $ids): Cure
    {
        $asked = (string) $finding->asked;
        $decided = $this->request->decisions[$asked] ?? null;
        $ruled = (string) $this->request->ruled($asked);
        $isOut = $decided === null && array_key_exists($asked, $this->request->decisions);

        return match (true) {
            $isOut => Cure::takenOut(),
            ! $finding->isByAddress => $decided !== null && $finding->kind === OutcomeKind::MissingItem
                && isset($ids[$decided]) ? Cure::named($decided) : Cure::open(),
            $decided === $asked => Cure::restored($asked),
            $decided !== null => Cure::named($decided),
            isset($known[$ruled]) => Cure::named($ruled),
            $this->request->isSure => $cures->of($finding),
            default => Cure::open(),
        };
    }

    /**
     * @param  list<string>  $paths at which a file shall lie again
     * @return Generator<int, WriteFile, void, array{int, int}> how many come back, and how many bytes are nowhere
     */
    private function restored(array $paths, Facts $facts): Generator
    {
        $back = $lost = 0;
        foreach (array_chunk($paths, self::BATCH) as $batch) {
            $states = $facts->recover($batch);
            // The site's list of media may name it still; what counts is whether something lies there.
            $there = $facts->files($batch);
            foreach ($batch as $path) {
                if (isset($states[$path]) && ! isset($there[$path])) {
                    $back++;
                    yield new WriteFile($path, null, $states[$path]);
                } else {
                    $lost++;
                }
            }
        }

        return [$back, $lost];
    }

    /**
     * @param  array<array-key, int|null>  $paths path of a rendition → number of its item
     * @return Generator<int, WriteFile, void, array{int, int}> how many were drawn, and how many cannot be
     */
    private function drawings(array $paths, Facts $facts): Generator
    {
        $drawn = $not = 0;
        foreach (array_chunk($paths, self::BATCH, true) as $batch) {
            $media = $facts->media(array_values(array_unique(array_filter($batch, is_int(...)))));
            $taken = $facts->taken(array_map(strval(...), array_keys($batch)));
            foreach ($batch as $path => $item) {
                $path = (string) $path;
                $own = $media[$item ?? 0] ?? null;
                $original = $own === null || ! $own->hasOriginal ? null : $facts->original($own);
                $size = $this->size($path, $original?->pixels, $facts);
                if ($own === null || $original === null || $size === null || isset($taken[$path])) {
                    $not++;

                    continue;
                }
                try {
                    $state = $facts->draw(
                        new Drawing($original->sha256, $size, MediaType::extension($path), $own->focusX, $own->focusY),
                    );
                } catch (UploadRefused) {
                    $not++;

                    continue;
                }
                $drawn++;
                yield new WriteFile($path, null, $state, $size);
            }
        }

        return [$drawn, $not];
    }

    /** As the name says it; never larger than the original. */
    private function size(string $path, ?Size $original, Facts $facts): ?Size
    {
        $said = $facts->renditionNames()->sizeIn($path);
        if ($said === null || $original === null) {
            return null;
        }
        [$width, $height] = $said;
        $width ??= (int) round((float) $height * $original->ratio());
        $height ??= (int) round($width / $original->ratio());

        return $width < 1 || $height < 1 || $width > $original->width || $height > $original->height
            ? null
            : new Size($width, $height);
    }

    /**
     * @param  array<string, int>  $families
     * @param  array{int, int, int}  $done sizes drawn, references taken out, files put back
     * @param  array{int, int, int}  $stays open findings, sizes that cannot be drawn, files that cannot come back
     */
    private function outline(Facts $facts, array $families, EditTally $tally, array $done, array $stays): Outline
    {
        [$drawn, $out, $restored] = $done;
        [$open, $notDrawn, $lost] = $stays;
        $said = [];
        foreach (OutcomeKind::findings() as $kind) {
            if (isset($families[$kind->value])) {
                $said[] = $kind->title().' ('.number_format($families[$kind->value]).')';
            }
        }
        $notes = [];
        if ($open > 0) {
            $notes[] = Words::many($open, 'finding').' of these families '
                .($open === 1 ? 'has no single answer and stays' : 'have no single answer and stay')
                .($open === 1 ? ' as it is.' : ' as they are.');
        }
        if ($out > 0) {
            $notes[] = Words::many($out, 'place').' '.($out === 1 ? 'is' : 'are').' taken out of '
                .($out === 1 ? 'its' : 'their').' text; the steps show every byte that goes. Of links, the words stay.';
        }
        if ($lost > 0) {
            $notes[] = Words::many($lost, 'file').' cannot be put back: the bytes are no longer to be had, or another '
                .'file lies there by now.';
        }
        if ($notDrawn > 0) {
            $notes[] = Words::many($notDrawn, 'missing size').' cannot be drawn: the original is smaller, or gone, or '
                .'no picture.';
        }
        $sentence = array_filter([
            $tally->references() > 0 ? $tally->sentence() : '',
            $drawn > 0 ? Words::many($drawn, 'size').' drawn again' : '',
            $restored > 0 ? Words::many($restored, 'file').' put back' : '',
        ]);

        return new Outline(
            'Mend: '.implode(', ', $said),
            ucfirst(implode(', ', $sentence === [] ? ['nothing that can be written'] : $sentence)).'.',
            $tally->expectation(),
            array_values(array_unique([...$notes, ...$tally->stamps($facts)])),
            [],
            'repairs',
        );
    }
}
