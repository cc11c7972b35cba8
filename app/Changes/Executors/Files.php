<?php

declare(strict_types=1);

namespace App\Changes\Executors;

use App\Sites\OpenSite;
use App\Vault\Vault;
use LogicException;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;
use Ylema\Plan\Steps\DeleteFile;
use Ylema\Plan\Steps\MoveFile;
use Ylema\Plan\Steps\WriteFile;
use Ylema\Sites\FileState;
use Ylema\Sites\WriteRefused;

/** Files written, moved, and taken away again. */
final class Files extends OneByOne
{
    public function __construct(private readonly Vault $vault)
    {
    }

    public function kinds(): array
    {
        return [StepKind::WriteFile, StepKind::MoveFile, StepKind::DeleteFile];
    }

    protected function look(OpenSite $site, Step $step): Now
    {
        return match (true) {
            $step instanceof WriteFile => self::compare($site->files->state($step->path), $step->before, $step->after),
            $step instanceof DeleteFile => self::compare($site->files->state($step->path), $step->was, null),
            $step instanceof MoveFile => match (
                [$site->files->state($step->from)?->sha256, $site->files->state($step->to)?->sha256]
            ) {
                [$step->file->sha256, null] => Now::Before,
                [null, $step->file->sha256] => Now::After,
                default => Now::Other,
            },
            default => throw new LogicException("{$step->kind()->value} is no step with a file."),
        };
    }

    protected function carryOut(OpenSite $site, Step $step): ?Step
    {
        if ($step instanceof WriteFile) {
            $site->files->write($step->path, $this->vault->get($step->after->sha256), $step->after);
            if ($site->files->state($step->path)?->sha256 !== $step->after->sha256) {
                throw WriteRefused::notReadBack("\"$step->path\"", 'Look at the disk and at what else writes there.');
            }
        } elseif ($step instanceof DeleteFile) {
            // What is taken away must be able to come back.
            if (! $this->vault->has($step->was->sha256)) {
                $this->vault->put($site->files->read($step->path));
            }
            $site->files->delete($step->path);
        } elseif ($step instanceof MoveFile) {
            $site->files->move($step->from, $step->to);
        }

        return null;
    }

    protected function otherwise(Step $step, bool $back): string
    {
        return $step instanceof MoveFile
            ? "\"$step->from\" could not go to \"$step->to\": what lies at the one or the other is not what it was. "
                    .'Both were left as they are.'
            : "The file {$step->title()} was replaced by someone else meanwhile, so it was left as it is.";
    }

    private static function compare(?FileState $now, ?FileState $before, ?FileState $after): Now
    {
        return match ($now?->sha256) {
            $after?->sha256 => Now::After,
            $before?->sha256 => Now::Before,
            default => Now::Other,
        };
    }
}
