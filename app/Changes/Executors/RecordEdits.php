<?php

declare(strict_types=1);

namespace App\Changes\Executors;

use App\Sites\OpenSite;
use Ylema\Change\EditConflict;
use Ylema\Change\Edits;
use Ylema\Failure;
use Ylema\Plan\Promises;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;
use Ylema\Plan\Steps\EditRecord;
use Ylema\Plan\Steps\FieldEdits;
use Ylema\Reading\CannotEncode;
use Ylema\Reading\FieldReader;
use Ylema\Sites\RecordChanged;
use Ylema\Sites\Replacement;
use Ylema\Sites\SourceRecord;

/** Edits of records: compare-and-set, in batches of one kind of record. */
final readonly class RecordEdits implements Executor
{
    public function __construct(private FieldReader $reader, private LaterEdits $later)
    {
    }

    public function kinds(): array
    {
        return [StepKind::EditRecord];
    }

    public function complete(OpenSite $site, array $steps, array $made): array
    {
        $promised = array_filter(self::edits($steps), static fn (EditRecord $edit): bool => $edit->promises !== []);
        if ($promised === []) {
            return [];
        }
        $completed = $changed = [];
        $records = $this->records($site, $promised);
        $promises = new Promises($this->reader, $site->map->mediaPages);
        foreach ($promised as $i => $edit) {
            $record = $records[$edit->record][$edit->key] ?? null;
            try {
                $completed[$i] = match (true) {
                    $record === null => throw RecordChanged::gone($edit->record, $edit->key),
                    $record->contentHash !== $edit->before => throw RecordChanged::since($edit->record, $edit->key),
                    default => $promises->keep($edit, $record, $made),
                };
            } catch (RecordChanged|CannotEncode|EditConflict $e) {
                $completed[$i] = Result::refused($e->getMessage());
                $changed += $e instanceof RecordChanged ? [$i => $edit] : [];
            }
        }

        return $changed === [] ? $completed : array_replace($completed, $this->ofOurs($site, $changed));
    }

    public function forward(OpenSite $site, array $steps): array
    {
        $edits = self::edits($steps);
        $failures = $this->carryOut($site, $edits);
        $results = array_map(
            static fn (?Failure $failure): Result => $failure === null
                ? Result::done()
                : Result::refused($failure->getMessage()),
            $failures,
        );
        $changed = array_filter(
            $failures,
            static fn (?Failure $failure): bool => $failure instanceof RecordChanged && ! $failure->isGone,
        );

        return $changed === [] ? $results : array_replace(
            $results,
            $this->ofOurs($site, array_intersect_key($edits, $changed)),
        );
    }

    /**
     * @param  array<int, EditRecord>  $edits whose records are not as the plan saw them
     * @return array<int, Result> for those that were written by a change of ours
     */
    private function ofOurs(OpenSite $site, array $edits): array
    {
        $records = $this->records($site, $edits);
        $open = [];
        foreach ($edits as $i => $edit) {
            $record = $records[$edit->record][$edit->key] ?? null;
            if ($record !== null) {
                $open[$i] = [$edit, $record];
            }
        }

        return $open === [] ? [] : $this->later->wroteSince($site->id, $open);
    }

    public function ways(OpenSite $site, array $steps, array $noted): array
    {
        $edits = array_filter(self::edits($steps), static fn (EditRecord $e): bool => $e->moved === null);
        $records = $this->records($site, $edits);
        $noted = self::edits($noted);
        $open = $ways = [];
        foreach ($edits as $i => $edit) {
            $record = $records[$edit->record][$edit->key] ?? null;
            $way = $noted[$i] ?? null;
            if ($record === null || in_array($record->contentHash, [$edit->before, $edit->after], true)) {
                continue;
            }
            if ($way !== null && in_array($record->contentHash, [$way->before, $way->after], true)) {
                $ways[$i] = $way;
            } else {
                $open[$i] = [$edit, $record];
            }
        }

        return $ways + ($open === [] ? [] : $this->later->ways($site->id, $open));
    }

    public function back(OpenSite $site, array $steps, array $ways = []): array
    {
        $edits = array_map(static fn (EditRecord $edit): Step => $edit->inverse(), self::edits($steps));
        $edits = self::edits(array_replace($edits, $ways));
        $results = [];
        foreach ($this->carryOut($site, $edits) as $i => $failure) {
            $edit = $edits[$i];
            $results[$i] = match (true) {
                $failure === null => Result::done(),
                $failure instanceof RecordChanged && $failure->isGone => Result::refused(
                    "The $edit->record \"$edit->title\" no longer exists, so there was nothing to take back.",
                ),
                $failure instanceof RecordChanged => Result::changed(
                    "The $edit->record \"$edit->title\" was changed by someone else after this change, so undo left "
                        .'it as it is. What this change wrote there is listed here.',
                ),
                default => Result::refused($failure->getMessage()),
            };
        }

        return $results;
    }

    public function now(OpenSite $site, array $steps): array
    {
        $edits = self::edits($steps);
        $records = $this->records($site, $edits);

        return array_map(static function (EditRecord $edit) use ($records): Now {
            $hash = ($records[$edit->record][$edit->key] ?? null)?->contentHash;
            $after = ($records[$edit->record][$edit->moved ?? $edit->key] ?? null)?->contentHash;

            return match (true) {
                $after !== null && $after === $edit->after => Now::After,
                $hash === $edit->before => Now::Before,
                default => Now::Other,
            };
        }, $edits);
    }

    /**
     * @param  array<int, EditRecord>  $edits
     * @return array<int, Failure|null>
     */
    private function carryOut(OpenSite $site, array $edits): array
    {
        $byKind = [];
        foreach ($edits as $i => $edit) {
            $byKind[$edit->record][$i] = new Replacement(
                $edit->key,
                $edit->before,
                (string) $edit->after,
                array_map(static fn (FieldEdits $field): Edits => $field->edits, $edit->fields),
                $edit->moved,
            );
        }
        $results = [];
        foreach ($byKind as $kind => $replacements) {
            $positions = array_keys($replacements);
            foreach ($site->content->replaceMany((string) $kind, array_values($replacements)) as $n => $failure) {
                $results[$positions[$n]] = $failure;
            }
        }

        return $results;
    }

    /**
     * @param  array<int, EditRecord>  $edits
     * @return array<string, array<string, SourceRecord>> kind → key → record
     */
    private function records(OpenSite $site, array $edits): array
    {
        $keys = $records = [];
        foreach ($edits as $edit) {
            $keys[$edit->record][] = $edit->key;
            if ($edit->moved !== null) {
                $keys[$edit->record][] = $edit->moved;
            }
        }
        foreach ($keys as $kind => $own) {
            foreach ($site->content->find((string) $kind, $own) as $record) {
                $records[$kind][$record->key] = $record;
            }
        }

        return $records;
    }

    /**
     * @param  array<int, Step>  $steps
     * @return array<int, EditRecord>
     */
    private static function edits(array $steps): array
    {
        return array_filter($steps, static fn (Step $step): bool => $step instanceof EditRecord);
    }
}
