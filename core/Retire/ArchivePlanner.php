<?php

declare(strict_types=1);

namespace Ylema\Retire;

use Generator;
use Ylema\Archive\Bag;
use Ylema\Plan\CannotPlan;
use Ylema\Plan\Facts;
use Ylema\Plan\Outline;
use Ylema\Plan\Planner;
use Ylema\Plan\RestingQuestion;
use Ylema\Plan\Steps\ArchiveFile;
use Ylema\Plan\Steps\SealBag;
use Ylema\Plan\Words;

/** Sends files whose days of rest are over into a bag of the archive. */
final readonly class ArchivePlanner implements Planner
{
    public function __construct(public RestingQuestion $which)
    {
    }

    public static function kind(): string
    {
        return 'archive';
    }

    public static function of(array $request): self
    {
        return new self(RestingQuestion::fromArray($request));
    }

    public function request(): array
    {
        return $this->which->toArray();
    }

    public function plan(Facts $facts): Generator
    {
        $bag = $facts->newBag();
        $files = $bytes = $turn = 0;
        $before = '';
        foreach ($facts->resting($this->which) as $batch) {
            foreach ($batch as $resting) {
                $turn = $resting->path === $before ? $turn + 1 : 0;
                $before = $resting->path;
                $files++;
                $bytes += $resting->file->size;
                yield new ArchiveFile(
                    $bag,
                    Bag::payload($resting->path, $turn),
                    $resting->path,
                    $resting->file,
                    $resting->until,
                    $resting->with,
                );
            }
        }
        if ($files === 0) {
            throw new CannotPlan(
                'No file rests whose days are over and that nothing asks for, so there is nothing to archive yet.',
            );
        }
        yield new SealBag($bag);

        return new Outline(
            "Rested files go to the archive, into the bag $bag",
            Words::many($files, 'file').', '.number_format($bytes / 1_000_000, 1).' MB.',
            notes: [
                'The bag is written and read back whole before any resting copy goes. As long as it is kept, each file '
                .'can be restored from it, also by hand and without Ylema: docs/archive.md says how.',
                'A file that something asks for meanwhile stays at rest.',
            ],
        );
    }
}
