<?php

declare(strict_types=1);

namespace App\Plans;

use App\Models\Plan;
use App\Sites\OpenSite;
use App\Sites\Rehearses;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Change\Edits;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;
use Ylema\Plan\Steps\AddMedia;
use Ylema\Plan\Steps\ChangeMedia;
use Ylema\Plan\Steps\DeleteFile;
use Ylema\Plan\Steps\EditRecord;
use Ylema\Plan\Steps\FieldEdits;
use Ylema\Plan\Steps\MoveFile;
use Ylema\Plan\Steps\RemoveMedia;
use Ylema\Plan\Steps\WriteFile;
use Ylema\Plan\Words;
use Ylema\Sites\Replacement;

/**
 * What a plan would write, step by step: the statement that a database is sent, the file that is written, moved or laid
 * to rest. Nothing is written for it, since a table without transactions would keep what is only tried.
 */
final readonly class Rehearsal
{
    private const BATCH = 200;

    /** Characters of what gives way to what. */
    private const SHOWN = 200;

    /** @return iterable<string> lines */
    public function of(OpenSite $site, Plan $plan): iterable
    {
        yield "# Plan $plan->id: what would be written, in this order. Nothing was.";
        for ($at = -1; ;) {
            $rows = DB::select(
                'select position, kind, detail from plan_steps where plan_id = ? and position > ? order by position '
                    .'limit '.self::BATCH,
                [$plan->id, $at],
            );
            if ($rows === []) {
                return;
            }
            /** @var stdClass $row */
            foreach ($rows as $row) {
                $at = (int) $row->position;
                $detail = json_decode((string) $row->detail, true, 64, JSON_THROW_ON_ERROR);
                $step = StepKind::from((string) $row->kind)->restore(is_array($detail) ? $detail : []);
                yield '';
                yield '# '.($at + 1).". {$step->kind()->value}: {$step->title()}";
                yield from $this->step($site, $step);
            }
        }
    }

    /** @return iterable<string> */
    private function step(OpenSite $site, Step $step): iterable
    {
        if ($step instanceof EditRecord) {
            yield from $this->edit($site, $step);

            return;
        }
        yield match (true) {
            $step instanceof WriteFile => ($step->before === null ? 'new file ' : 'other bytes for ')
                ."$step->path: {$step->after->size} bytes, SHA-256 {$step->after->sha256}; written beside it, then "
                .'renamed',
            $step instanceof MoveFile => "move $step->from to $step->to",
            $step instanceof DeleteFile => "delete $step->path",
            $step instanceof ChangeMedia => "change the row of $step->path in the site's list: "
                .self::json($step->before).' → '.self::json($step->after),
            $step instanceof AddMedia => 'add a row to the site\'s list: '.self::json($step->media),
            $step instanceof RemoveMedia => "remove the row of $step->path from the site's list",
            default => self::json($step->toArray()),
        };
    }

    /** @return iterable<string> */
    private function edit(OpenSite $site, EditRecord $edit): iterable
    {
        if ($site->content instanceof Rehearses) {
            yield from $site->content->rehearse($edit->record, new Replacement(
                $edit->key,
                $edit->before,
                (string) $edit->after,
                array_map(static fn (FieldEdits $field): Edits => $field->edits, $edit->fields),
            ));
        }
        foreach ($edit->fields as $name => $field) {
            foreach ($field->edits->edits as $one) {
                yield "    $name, byte $one->start: ".self::cut($one->before).' → '.self::cut($one->after);
            }
        }
        if ($edit->promises !== []) {
            yield '    '.Words::many(count($edit->promises), 'place').' more, once the new item has its number.';
        }
        yield "    only if the record is still as the plan saw it (SHA-256 $edit->before)";
    }

    private static function cut(string $text): string
    {
        $cut = mb_strcut(mb_scrub($text), 0, self::SHOWN);

        return self::json($cut).(strlen($cut) < strlen($text) ? ' …' : '');
    }

    private static function json(mixed $value): string
    {
        return (string) json_encode(
            $value,
            JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE,
        );
    }
}
