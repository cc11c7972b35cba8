<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\PlanStep;
use Ylema\Change\Edit;
use Ylema\Plan\Step;
use Ylema\Plan\Steps\AddMedia;
use Ylema\Plan\Steps\ArchiveFile;
use Ylema\Plan\Steps\ChangeMedia;
use Ylema\Plan\Steps\DeleteFile;
use Ylema\Plan\Steps\DropRedirect;
use Ylema\Plan\Steps\EditNote;
use Ylema\Plan\Steps\EditRecord;
use Ylema\Plan\Steps\MoveFile;
use Ylema\Plan\Steps\PromisedEdit;
use Ylema\Plan\Steps\Redirect;
use Ylema\Plan\Steps\RemoveMedia;
use Ylema\Plan\Steps\RestFile;
use Ylema\Plan\Steps\SealBag;
use Ylema\Plan\Steps\UnarchiveFile;
use Ylema\Plan\Steps\UnsealBag;
use Ylema\Plan\Steps\WakeFile;
use Ylema\Plan\Steps\WriteFile;
use Ylema\Plan\Words;

/**
 * One step as a person reads it: what it is about, what it does, and what stands there before and after.
 *
 * @phpstan-type EditLine array{
 *     field: string,
 *     start: int|null,
 *     before: string,
 *     after: string,
 *     role: string|null,
 *     line: int|null,
 *     lead: string,
 *     tail: string,
 * }
 */
final class StepView
{
    /** @return array<string, mixed> */
    public static function of(PlanStep $row): array
    {
        $step = $row->step();

        return [
            'position' => $row->position,
            'kind' => $row->kind->value,
            'title' => $row->title,
            'state' => $row->state->value,
            'message' => $row->message,
            'stands_on' => $row->stands_on,
            'record' => $row->record_kind === null
                ? null
                : ['kind' => $row->record_kind, 'key' => (string) $row->record_key],
            'path' => $row->path,
            'says' => self::says($step),
            'edits' => self::edits($step),
        ];
    }

    private static function says(Step $step): string
    {
        return match (true) {
            $step instanceof EditRecord => Words::many($step->count(), 'edit'),
            $step instanceof WriteFile => ($step->pixels === null ? '' : "$step->pixels · ")
                .($step->before === null ? 'new file · ' : self::weight($step->before->size).' → ')
                .self::weight($step->after->size),
            $step instanceof DeleteFile => 'taken away · '.self::weight($step->was->size),
            $step instanceof MoveFile => "from $step->from",
            $step instanceof RestFile => "laid to rest until $step->until · ".self::weight($step->file->size),
            $step instanceof WakeFile => 'comes back '
                .($step->at === null ? '' : "as $step->at ")
                .'· '
                .self::weight($step->file->size),
            $step instanceof ArchiveFile => "into the bag $step->bag · ".self::weight($step->file->size),
            $step instanceof UnarchiveFile => "out of the bag $step->bag · ".self::weight($step->file->size),
            $step instanceof SealBag => 'gets its manifests, and is read back whole',
            $step instanceof UnsealBag => 'its files rest again',
            $step instanceof AddMedia => $step->row === null
                ? 'new row in the site’s media list'
                : "row no. {$step->row->id} in the site’s media list",
            $step instanceof ChangeMedia => "row no. $step->id in the site’s media list",
            $step instanceof RemoveMedia => "row no. {$step->row->id} leaves the site’s media list",
            $step instanceof Redirect => "sends visitors on to $step->to ($step->status)",
            $step instanceof DropRedirect => 'sends visitors on no more',
            default => '',
        };
    }

    /**
     * @return list<EditLine>
     */
    private static function edits(Step $step): array
    {
        $edits = [];
        if ($step instanceof EditRecord) {
            foreach ($step->fields as $name => $field) {
                $edits = [
                    ...$edits,
                    ...array_map(
                        static fn (Edit $edit, EditNote $note): array => [
                            'field' => (string) $name,
                            'start' => $edit->start,
                            'before' => mb_scrub($edit->before),
                            'after' => mb_scrub($edit->after),
                            'role' => $note->role,
                            'line' => $note->line,
                            'lead' => $note->lead,
                            'tail' => $note->tail,
                        ],
                        $field->edits->edits,
                        $field->notes,
                    ),
                ];
            }
            foreach ($step->promises as $promise) {
                if (! isset($step->fields[$promise->field])) {
                    $edits[] = self::promised($promise);
                }
            }
        }
        if ($step instanceof ChangeMedia) {
            foreach ($step->after as $name => $after) {
                $edits[] = [
                    'field' => (string) $name,
                    'start' => null,
                    'before' => $step->before[$name] ?? '',
                    'after' => $after,
                    'role' => (string) $name,
                    'line' => null,
                    'lead' => '',
                    'tail' => '',
                ];
            }
        }

        return array_values($edits);
    }

    /**
     * @return EditLine
     */
    private static function promised(PromisedEdit $promise): array
    {
        return [
            'field' => $promise->field,
            'start' => $promise->start,
            'before' => '…',
            'after' => $promise->value ?? 'the number that the new row is given',
            'role' => 'reference',
            'line' => null,
            'lead' => '',
            'tail' => '',
        ];
    }

    private static function weight(int $bytes): string
    {
        return match (true) {
            $bytes < 1000 => "$bytes B",
            $bytes < 1_000_000 => round($bytes / 1000).' kB',
            default => number_format($bytes / 1_000_000, $bytes < 10_000_000 ? 1 : 0).' MB',
        };
    }
}
