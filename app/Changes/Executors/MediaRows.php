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

/** Rows of the site's own list of media: added, changed, removed. */
final class MediaRows extends OneByOne
{
    public function kinds(): array
    {
        return [StepKind::AddMedia, StepKind::ChangeMedia, StepKind::RemoveMedia];
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
