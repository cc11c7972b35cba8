<?php

declare(strict_types=1);

namespace App\Changes\Executors;

use App\Sites\OpenSite;
use LogicException;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;
use Ylema\Plan\Steps\AddMedia;
use Ylema\Plan\Steps\ChangeMedia;
use Ylema\Plan\Steps\RemoveMedia;
use Ylema\Sites\RecordChanged;
use Ylema\Sites\WriteRefused;

/** Rows of the site's own list of media: added, changed, removed. */
final class MediaRows extends OneByOne
{
    public function kinds(): array
    {
        return [StepKind::AddMedia, StepKind::ChangeMedia, StepKind::RemoveMedia];
    }

    public function forward(OpenSite $site, array $steps): array
    {
        return $this->atOnce($site, $steps) ?? parent::forward($site, $steps);
    }

    public function back(OpenSite $site, array $steps, array $ways = []): array
    {
        return $this->atOnce($site, array_map(static fn (Step $step): Step => $step->inverse(), $steps))
            ?? parent::back($site, $steps);
    }

    /**
     * Rows that go or come back as they were, in one transaction; whatever keeps that from being done is found out one
     * by one.
     *
     * @param  array<int, Step>  $steps
     * @return array<int, Result>|null null where they have to be looked at one by one
     */
    private function atOnce(OpenSite $site, array $steps): ?array
    {
        $rows = [];
        $removes = null;
        foreach ($steps as $step) {
            $row = $step instanceof RemoveMedia || $step instanceof AddMedia ? $step->row : null;
            if ($row === null || ($removes !== null && $removes !== $step instanceof RemoveMedia)) {
                return null;
            }
            $removes = $step instanceof RemoveMedia;
            $rows[] = $row;
        }
        if (count($rows) < 2) {
            return null;
        }
        try {
            $removes === true ? $site->content->removeAllMedia($rows) : $site->content->addAllMedia($rows);
        } catch (WriteRefused|RecordChanged) {
            return null;
        }

        return array_map(static fn (): Result => Result::done(), $steps);
    }

    protected function look(OpenSite $site, Step $step): Now
    {
        if ($step instanceof AddMedia) {
            $row =
                $step->row === null
                    ? $site->content->mediaMadeFrom($step->media)
                    : $site->content->mediaRow($step->row->id);

            return match (true) {
                $row === null => Now::Before,
                $step->row === null || $row->hash() === $step->row->hash() => Now::After,
                default => Now::Other,
            };
        }
        if ($step instanceof RemoveMedia) {
            $row = $site->content->mediaRow($step->row->id);

            return match ($row?->hash()) {
                null => Now::After,
                $step->row->hash() => Now::Before,
                default => Now::Other,
            };
        }

        // The source compares the words itself, in its own transaction.
        return $step instanceof ChangeMedia
            ? Now::Before
            : throw new LogicException("{$step->kind()->value} is no step with a media row.");
    }

    protected function carryOut(OpenSite $site, Step $step): ?Step
    {
        if ($step instanceof AddMedia) {
            return $step->made($site->content->addMedia($step->row ?? $step->media));
        }
        if ($step instanceof RemoveMedia) {
            $site->content->removeMedia($step->row);
        } elseif ($step instanceof ChangeMedia) {
            $site->content->changeMedia($step->id, $step->before, $step->after);
        }

        return null;
    }

    protected function found(OpenSite $site, Step $step): ?Step
    {
        $row = $step instanceof AddMedia && $step->row === null ? $site->content->mediaMadeFrom($step->media) : null;

        return $step instanceof AddMedia && $row !== null ? $step->made($row) : null;
    }

    protected function otherwise(Step $step, bool $back): string
    {
        return "The row of {$step->title()} in the site's media list was changed by someone else meanwhile, so it was "
            .'left as it is.';
    }
}
