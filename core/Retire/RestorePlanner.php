<?php

declare(strict_types=1);

namespace Ylema\Retire;

use Generator;
use Ylema\Addresses\PageResolver;
use Ylema\Plan\CannotPlan;
use Ylema\Plan\Facts;
use Ylema\Plan\Outline;
use Ylema\Plan\Planner;
use Ylema\Plan\Refused;
use Ylema\Plan\Resting;
use Ylema\Plan\Steps\AddMedia;
use Ylema\Plan\Steps\DropRedirect;
use Ylema\Plan\Steps\WakeFile;
use Ylema\Plan\Words;
use Ylema\Sites\MediaRow;
use Ylema\Sites\NewMedia;

/** Brings files back from their rest or from the archive: to their place, with their row, as if nothing had been. */
final readonly class RestorePlanner implements Planner
{
    /** How many names beside a taken one are tried. */
    private const NAMES = 50;

    public function __construct(public RestoreRequest $request)
    {
    }

    public static function kind(): string
    {
        return 'restore';
    }

    public static function of(array $request): self
    {
        return new self(RestoreRequest::fromArray($request));
    }

    public function request(): array
    {
        return $this->request->toArray();
    }

    public function plan(Facts $facts): Generator
    {
        $files = $rows = $elsewhere = $left = 0;
        $first = '';
        $bags = $items = [];
        foreach ($facts->resting($this->request->which) as $batch) {
            $taken = $facts->taken(array_map(static fn (Resting $one): string => $one->path, $batch));
            $lying = $taken === [] ? [] : $facts->files(array_map(strval(...), array_keys($taken)));
            $home = [];
            foreach ($batch as $resting) {
                $at = $this->place($resting, $lying, $facts);
                $first = $first === '' ? $resting->path : $first;
                // Of very many, it is enough to know that there are some.
                $items += count($items) < 2 ? [$resting->with->item => true] : [];
                $bags += $resting->bag === null ? [] : [$resting->bag => true];
                $step = self::wake($resting, $at === $resting->path ? null : $at);
                if ($at === null) {
                    $left++;
                    yield new Refused(
                        $step,
                        "At $resting->path lies another file now, so it was left. Restore it under a free name, such "
                            .'as '
                            .$this->free($resting->path, $facts)
                            .', or move the other file first.',
                    );

                    continue;
                }
                $files++;
                $elsewhere += $at === $resting->path ? 0 : 1;
                yield $step;
                if ($resting->with->row !== null && $at === $resting->path) {
                    $home[] = [$resting->path, $resting->with->row];
                }
            }
            foreach ($this->lostRows($home, $facts) as [$path, $row]) {
                $rows++;
                yield new AddMedia(new NewMedia($path, '', '', null, null, []), '', $row);
            }
            // Nobody is sent on from where a file lies.
            $keys = array_map(static fn (Resting $one): string => PageResolver::key($one->path), $batch);
            foreach ($facts->redirects($keys) as $there) {
                yield new DropRedirect($there->from, $there->to, $there->status);
            }
        }
        if ($files + $left === 0) {
            throw new CannotPlan('Nothing of what was chosen rests any more. Look at the stage Resting.');
        }

        return $this->outline(count($items) === 1 ? $first : '', [$files, $rows, $elsewhere, $left], count($bags));
    }

    private static function wake(Resting $resting, ?string $at): WakeFile
    {
        return new WakeFile($resting->path, $resting->file, $resting->until, $resting->with, $at);
    }

    /**
     * @param  array<string, \Ylema\Sites\FileState>  $lying what lies at the paths that are taken
     * @return string|null null where it cannot come back
     */
    private function place(Resting $resting, array $lying, Facts $facts): ?string
    {
        $there = $lying[$resting->path] ?? null;
        // A row may have kept the path; only another file is in the way.
        if ($there === null || $there->sha256 === $resting->file->sha256) {
            return $resting->path;
        }

        return $this->request->elsewhere ? $this->free($resting->path, $facts) : null;
    }

    private function free(string $path, Facts $facts): string
    {
        $dot = strrpos(basename($path), '.');
        $cut = $dot === false || $dot === 0 ? strlen($path) : strlen($path) - strlen(basename($path)) + $dot;
        $names = array_map(
            static fn (int $n): string => substr($path, 0, $cut)."-$n".substr($path, $cut),
            range(2, self::NAMES),
        );
        $taken = $facts->taken($names);
        foreach ($names as $name) {
            if (! isset($taken[$name])) {
                return $name;
            }
        }

        return end($names);
    }

    /**
     * @param  list<array{string, MediaRow}>  $rows
     * @return list<array{string, MediaRow}> those that the site's own list has no more
     */
    private function lostRows(array $rows, Facts $facts): array
    {
        $there = $rows === [] ? [] : $facts->idsOf(array_column($rows, 0));

        return array_values(
            array_filter($rows, static fn (array $one): bool => ($there[$one[0]] ?? null) !== $one[1]->id),
        );
    }

    /**
     * @param  string  $only path of the item that comes back, where it is one
     * @param  array{int, int, int, int}  $counts
     */
    private function outline(string $only, array $counts, int $bags): Outline
    {
        [$files, $rows, $elsewhere, $left] = $counts;
        $notes = ['Each comes back with its bytes, mode, owner and time.'];
        if ($rows > 0) {
            $notes[] =
                Words::many($rows, 'media row')
                .' '
                .($rows === 1 ? 'comes' : 'come')
                .' back with the same id and every column.';
        }
        if ($elsewhere > 0) {
            $notes[] =
                Words::many($elsewhere, 'file')
                .' '
                .($elsewhere === 1 ? 'comes' : 'come')
                .' back under a free name, since another lies where '
                .($elsewhere === 1 ? 'it' : 'they')
                .' lay. '
                .'What names the old address shows the other one.';
        }
        if ($bags > 0) {
            $notes[] = 'The archive keeps what it has: a bag is never changed.';
        }
        if ($left > 0) {
            $notes[] =
                Words::many($left, 'file')
                .' cannot come back to where '
                .($left === 1 ? 'it' : 'they')
                .' lay: the list says why.';
        }

        return new Outline(
            $only === '' ? 'Files come back from their rest' : basename($only).' comes back from its rest',
            Words::many($files, 'file').($rows > 0 ? ' and '.Words::many($rows, 'media row') : '').'.',
            notes: $notes,
            bench: $left > 0 ? $this->bench() : null,
        );
    }

    /** Where it can be asked for under free names. */
    private function bench(): ?string
    {
        $which = $this->request->which;

        return match (true) {
            $which->files !== null => 'resting?elsewhere='.implode(',', $which->files),
            $which->bagged !== null => 'resting?elsewhere-bagged='.implode(',', $which->bagged),
            default => null,
        };
    }
}
