<?php

declare(strict_types=1);

namespace Ylema\Swap;

use Generator;
use Ylema\Imaging\Crop;
use Ylema\Imaging\MediaType;
use Ylema\Imaging\Size;
use Ylema\Plan\Brought;
use Ylema\Plan\CannotPlan;
use Ylema\Plan\Drawing;
use Ylema\Plan\Expectation;
use Ylema\Plan\Facts;
use Ylema\Plan\FollowsUp;
use Ylema\Plan\KeptFile;
use Ylema\Plan\MediaFacts;
use Ylema\Plan\Outline;
use Ylema\Plan\Picture;
use Ylema\Plan\PlacedUse;
use Ylema\Plan\Places;
use Ylema\Plan\Planner;
use Ylema\Plan\RecordEditor;
use Ylema\Plan\Refused;
use Ylema\Plan\ShownBox;
use Ylema\Plan\Step;
use Ylema\Plan\Steps\AddMedia;
use Ylema\Plan\Steps\WriteFile;
use Ylema\Plan\Words;
use Ylema\Reading\Reading;
use Ylema\Reading\Reference;
use Ylema\Sites\FileState;

/**
 * Plans "every chosen place that shows this item shall show that one", or "these addresses shall serve that one's
 * bytes".
 */
final readonly class SwapPlanner implements FollowsUp, Planner
{
    /** The name under which the new row's id is promised to the records that will say it. */
    private const NEW = 'new';

    /** How many different things about places a plan says; the bench says all. */
    private const KINDS_OF_PLACES = 6;

    /** Types that pictures can be drawn as. */
    private const DRAWABLE = ['jpg', 'jpeg', 'png', 'gif', 'webp', 'avif'];

    public function __construct(private SwapRequest $request)
    {
    }

    public static function kind(): string
    {
        return 'swap';
    }

    public static function of(array $request): self
    {
        return new self(SwapRequest::fromArray($request));
    }

    public function request(): array
    {
        return $this->request->toArray();
    }

    public function after(array $made): self
    {
        return isset($made[self::NEW]) ? new self($this->request->with(to: $made[self::NEW])) : $this;
    }

    public function stoodIn(array $made): ?int
    {
        return $this->request->manner === Manner::SameAddress ? null : $made[self::NEW] ?? $this->request->to;
    }

    public function back(array $made, Places $places): self
    {
        return new self(
            new SwapRequest((int) $this->stoodIn($made), Manner::NewReference, $this->request->from, null, $places),
        );
    }

    public function plan(Facts $facts): Generator
    {
        $request = $this->request;
        if ($request->to === $request->from) {
            throw new CannotPlan('An item cannot be swapped for itself. Choose another one.');
        }
        $items = $facts->media(array_values(array_filter([$request->from, $request->to], is_int(...))));
        $from = $items[$request->from] ?? throw new CannotPlan('The item to be swapped is not on this site.');
        if ($request->to !== null && ! isset($items[$request->to])) {
            throw new CannotPlan('The item that shall stand in is not on this site.');
        }
        if ($request->to === null && $request->upload === null) {
            throw new CannotPlan('Choose another item, or upload a file, to stand in.');
        }
        $to = $request->to === null ? null : $items[$request->to];
        $upload = $to === null ? $facts->upload((string) $request->upload) : null;
        $type = MediaType::of($from->path);
        $other = MediaType::of($to === null ? '.'.($upload->extension ?? '') : $to->path);
        if ($type !== $other) {
            throw new CannotPlan(
                "\"{$from->name()}\" is a {$type->value}, and a {$other->value} cannot stand in for it: no page could "
                    ."show it there. Choose another {$type->value}.",
            );
        }

        if ($request->keepShape) {
            [$upload, $to] = $this->inOldShape($from, $to, $upload, $facts);
        }

        return $request->manner === Manner::SameAddress
            ? yield from $this->sameAddress($from, $to, $upload, $facts)
            : yield from $this->newReference($from, $to, $upload, $facts);
    }

    /**
     * The part of the new picture that has the old one's proportions, around its focal point.
     *
     * @return array{KeptFile|null, MediaFacts|null} what stands in: an upload, or the item as it is
     */
    private function inOldShape(MediaFacts $from, ?MediaFacts $to, ?KeptFile $upload, Facts $facts): array
    {
        $before = $from->original()->size;
        $source = $upload ?? ($to === null ? null : $facts->original($to));
        if ($before === null || $source?->pixels === null || Fit::areAlike($before, $source->pixels)) {
            return [$upload, $to];
        }
        if ($upload === null && $this->request->manner === Manner::NewReference) {
            throw new CannotPlan(
                'An item of the site is shown as it is; only an upload, or new bytes behind the same address, can be '
                    .'cropped to the old proportions.',
            );
        }
        if (! $source->isDrawable) {
            throw new CannotPlan(
                "\"{$source->name}\" cannot be cropped. Choose \"really another shape\", or crop it first.",
            );
        }
        $crop = Crop::toFill($source->pixels, $before, $to->focusX ?? 0.5, $to->focusY ?? 0.5);
        $size = new Size($crop->width, $crop->height);
        $drawn = $facts->draw(
            new Drawing($source->sha256, $size, $source->extension, $to->focusX ?? 0.5, $to->focusY ?? 0.5),
        );

        return [new KeptFile($drawn->sha256, $drawn->size, $source->name, $source->extension, $size, true), $to];
    }

    /** @return Generator<int, Step|Refused, void, Outline> */
    private function sameAddress(MediaFacts $from, ?MediaFacts $to, ?KeptFile $upload, Facts $facts): Generator
    {
        $source =
            $upload
            ?? (($to === null ? null : $facts->original($to))
                ?? throw new CannotPlan(
                    "The original of \"{$to?->path}\" is missing, so its bytes cannot stand in. Choose another item.",
                ));
        if (! $from->hasOriginal && count($from->files) === 1) {
            throw new CannotPlan('This item has no file whose bytes could be replaced; its original is missing.');
        }
        $states = $facts->files($from->paths());
        $loss = 0.0;
        $count = 0;
        foreach ($from->files as $file) {
            $type = MediaType::extension($file->path);
            if (! $from->hasOriginal && $file->isOriginal) {
                continue;
            }
            if ($file->isOriginal && MediaType::isSame($type, $source->extension)) {
                $after = new FileState($source->sha256, $source->weight);
                $pixels = $source->pixels;
            } else {
                if (! $source->isDrawable || $source->pixels === null || ! in_array($type, self::DRAWABLE, true)) {
                    throw new CannotPlan(
                        "\"{$source->name}\" is a .{$source->extension} file and cannot be drawn as the .$type file "
                            ."{$file->path}. Upload a .$type file, or swap by new reference.",
                    );
                }
                $pixels = $file->isOriginal || $file->size === null ? $source->pixels : $file->size;
                $loss = max($loss, Crop::toFill($source->pixels, $pixels)->loss($source->pixels));
                $after = $facts->draw(new Drawing($source->sha256, $pixels, $type, $from->focusX, $from->focusY));
            }
            $count++;
            yield new WriteFile($file->path, $states[$file->path] ?? null, $after, $pixels);
        }
        [$notes, $boxes] = $this->fit($from, $source, null, $facts);
        $name = $to?->name() ?? $source->name;
        $cropped = $loss > 0.02 ? ' Up to '.round($loss * 100).'% falls away where shapes differ.' : '';

        return new Outline(
            "{$from->name()}: new bytes behind the same address, from $name",
            'New bytes for '
                .Words::many($count, 'file')
                .' behind the same '
                .($count === 1 ? 'address' : 'addresses')
                .'; '
                .Words::many($from->uses, 'reference')
                .($from->uses === 1 ? ' stays as it is.' : ' stay as they are.')
                .$cropped,
            new Expectation(there: $from->paths()),
            $notes,
            $this->pictures($from, $facts, $to, $name, $source),
            $this->request->bench(),
            $boxes,
        );
    }

    /** @return Generator<int, Step|Refused, void, Outline> */
    private function newReference(MediaFacts $from, ?MediaFacts $to, ?KeptFile $upload, Facts $facts): Generator
    {
        $files = 0;
        $notes = [];
        if ($to !== null) {
            if (! $to->hasOriginal) {
                throw new CannotPlan(
                    "\"{$to->path}\" has no file of its own, so nothing may be pointed at it. Choose an item whose "
                        .'file is there.',
                );
            }
        } elseif ($upload !== null) {
            $item = NewItem::beside($from, $upload, $facts);
            foreach ($this->newFiles($item, $upload, $facts) as $step) {
                $files++;
                yield $step;
            }
            if ($item->renditions === [] && count($from->files) > 1 && $upload->isDrawable) {
                $notes[] =
                    'No renditions are drawn: the picture is not larger than the old ones, or the field map '
                    .'says no names for them (files.renditions).';
            }
            yield new AddMedia(
                $item->media(
                    $this->request->title,
                    $this->request->alt,
                    $this->request->caption,
                    $this->request->credit,
                ),
                self::NEW,
            );
            $to = $item->facts($this->request->title);
        } else {
            throw new CannotPlan('Choose another item, or upload a file, to stand in.');
        }
        $drawnFrom = $upload ?? $facts->original($to);
        [$different, $boxes] = $this->fit($from, $drawnFrom, $upload === null ? null : $this->request->alt, $facts);
        array_push($notes, ...$different);
        $edited = $skipped = $records = 0;
        $kinds = [];
        $editor = new RecordEditor(self::NEW);
        $standIn = new StandIn($facts->addresses(), $facts->mediaPages(), $from, $to);
        foreach ($facts->uses($from->item, $this->request->places) as $batch) {
            foreach ($batch as $uses) {
                $step = $editor->edit($uses, static function (
                    Reference $at,
                    PlacedUse $use,
                    Reading $reading,
                    Brought $brought,
                ) use ($standIn, $files): ?string {
                    if ($files > 0) {
                        $brought->row(self::NEW);
                        $brought->file($standIn->file((string) $use->path)->path);
                    }

                    return $standIn->value($at, $use->path);
                });
                if ($step instanceof Refused) {
                    $skipped += count($uses->uses);
                } else {
                    $edited += count($uses->uses);
                    $records++;
                    $kinds[$uses->kind] = true;
                }
                yield $step;
            }
        }
        if ($edited + $skipped === 0) {
            throw new CannotPlan('There is nothing to change: no chosen place refers to this item.');
        }
        foreach (array_keys($kinds) as $kind) {
            array_push($notes, ...$facts->stamps((string) $kind));
        }

        return new Outline(
            "{$from->name()}: shown as {$to->name()}",
            Words::many($edited, 'reference')
                .' in '
                .Words::many($records, 'record')
                .($files > 0 ? ', '.Words::many($files, 'new file') : ', no file')
                .'.',
            new Expectation($from->paths(), $to->paths(), [], $this->request->places->areAll() && $skipped === 0),
            array_values(array_unique($notes)),
            $this->pictures($from, $facts, $this->request->to === null ? null : $to, $to->name(), $drawnFrom),
            $this->request->bench(),
            $boxes,
        );
    }

    /**
     * What will look different, each kind of it once with how many places it concerns; and the boxes of most places.
     *
     * @param  string|null  $alt of the new item, where the plan makes one
     * @return array{list<string>, list<ShownBox>}
     */
    private function fit(MediaFacts $from, ?KeptFile $after, ?string $alt, Facts $facts): array
    {
        $type = MediaType::extension($from->path);
        if ($after === null || MediaType::of($from->path) !== MediaType::Picture) {
            return [[], []];
        }
        $mayMove = in_array($type, ['gif', 'webp', 'png'], true) && $from->hasOriginal;
        $fit = new Fit(
            $from->original()->size,
            $after->pixels,
            $type,
            $this->request->manner === Manner::SameAddress ? $type : $after->extension,
            $mayMove && $facts->original($from)?->isAnimated === true,
            $after->isAnimated,
            $alt,
        );
        $places = $boxes = [];
        foreach ($facts->boxes($from->item, $this->request->places) as $box) {
            $says = $fit->inBox($box);
            if ($says !== null) {
                $places[$says] = ($places[$says] ?? 0) + 1;
            }
            $stated = [$box->width, $box->height] !== [null, null];
            $shown = $stated
                ? new ShownBox($box->width, $box->height, '', 0)
                : new ShownBox($box->carrier?->width, $box->carrier?->height, $box->carrierName, 0);
            $name = "$shown->width $shown->height $shown->carrier";
            $boxes[$name] = new ShownBox(
                $shown->width,
                $shown->height,
                $shown->carrier,
                ($boxes[$name]->places ?? 0) + 1,
            );
        }
        arsort($places);
        $notes = $fit->notes();
        foreach (array_slice($places, 0, self::KINDS_OF_PLACES, true) as $says => $count) {
            $notes[] = Words::many($count, 'place').": $says";
        }
        if (count($places) > self::KINDS_OF_PLACES) {
            $notes[] =
                Words::many(array_sum(array_slice($places, self::KINDS_OF_PLACES)), 'more place')
                .' will look different in other ways; the bench names each.';
        }
        usort($boxes, static fn (ShownBox $a, ShownBox $b): int => $b->places <=> $a->places);

        return [$notes, array_slice($boxes, 0, self::KINDS_OF_PLACES)];
    }

    /** @return Generator<int, WriteFile> */
    private function newFiles(NewItem $item, KeptFile $upload, Facts $facts): Generator
    {
        yield new WriteFile($item->path, null, new FileState($upload->sha256, $upload->weight), $upload->pixels);
        foreach ($item->renditions as $path => $size) {
            yield new WriteFile(
                $path,
                null,
                $facts->draw(new Drawing($upload->sha256, $size, MediaType::extension($path))),
                $size,
            );
        }
    }

    /** @return list<Picture> */
    private function pictures(MediaFacts $from, Facts $facts, ?MediaFacts $to, string $name, ?KeptFile $after): array
    {
        return [
            new Picture('Now', $from->item, $from->name(), $from->hasOriginal ? $facts->original($from) : null),
            new Picture('After', $to?->item, $name, $after),
        ];
    }
}
