<?php

declare(strict_types=1);

namespace App\Changes\Executors;

use App\Support\Sql;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Change\EditConflict;
use Ylema\Plan\Steps\EditRecord;
use Ylema\Reading\FieldReader;
use Ylema\Sites\SourceField;
use Ylema\Sites\SourceRecord;

/**
 * The way back of an edit on which later changes of ours stand: where they touched other bytes of the record, its edits
 * are carried through theirs. From which text to which each led, the journal knows by the hashes; a gap in their chain
 * is somebody else's.
 */
final readonly class LaterEdits
{
    /** Changes of one record that are looked through; nobody makes so many. */
    private const MOST = 400;

    public function __construct(private FieldReader $reader)
    {
    }

    /**
     * @param  non-empty-array<int, array{EditRecord, SourceRecord}>  $open edits, and their records as they are now
     * @return array<int, EditRecord|Result> none where somebody else changed the record
     */
    public function ways(int $site, array $open): array
    {
        $links = $this->links($site, array_column($open, 0));
        $ways = [];
        foreach ($open as $i => [$edit, $record]) {
            $chain = self::chain(
                (string) $edit->after,
                $record->contentHash,
                $links["$edit->record\0$edit->key"] ?? [],
            );
            if ($chain !== null) {
                $ways[$i] = $this->way($edit, $record, $chain);
            }
        }

        return $ways;
    }

    /**
     * What to say of edits whose records are no longer as the plan saw them, where it was a change of ours that wrote
     * there.
     *
     * @param  non-empty-array<int, array{EditRecord, SourceRecord}>  $open
     * @return array<int, Result>
     */
    public function wroteSince(int $site, array $open): array
    {
        $links = $this->links($site, array_column($open, 0));
        $results = [];
        foreach ($open as $i => [$edit, $record]) {
            $chain = self::chain($edit->before, $record->contentHash, $links["$edit->record\0$edit->key"] ?? []);
            if ($chain !== null) {
                [, $change, $title] = $chain[array_key_last($chain)];
                $results[$i] = Result::refused(
                    "Change $change, \"$title\", wrote to it since this plan was made. Plan again to take that along.",
                    $change,
                );
            }
        }

        return $results;
    }

    /** @param  non-empty-list<array{EditRecord, int, string}>  $chain see links() */
    private function way(EditRecord $edit, SourceRecord $record, array $chain): EditRecord|Result
    {
        $way = $edit->inverse();
        foreach ($chain as [$later, $change, $title]) {
            try {
                $way = $way instanceof EditRecord ? $way->through($later) : $way;
            } catch (EditConflict) {
                return Result::refused(
                    "Change $change, \"$title\", wrote over the same bytes later and stands on this one. Undo that "
                        .'one first, then this.',
                    $change,
                );
            }
        }
        try {
            $texts = $way instanceof EditRecord ? EditRecord::texts($record, $way->fields) : [];
        } catch (EditConflict $e) {
            return Result::refused($e->getMessage());
        }
        foreach ($record->fields as $field) {
            if ($way instanceof EditRecord && isset($way->fields[$field->name])
                && ! $this->isWhole($field, $texts[$field->name])) {
                [, $change, $title] = $chain[array_key_last($chain)];

                return Result::refused(
                    "Change $change, \"$title\", changed the same stretch of $field->name later, so that this one "
                        .'cannot be taken out of it alone. Undo that one first, then this.',
                    $change,
                );
            }
        }

        return $way instanceof EditRecord ? $way->leaving(SourceRecord::hashOf($texts)) : Result::refused('');
    }

    /** Whether a text is read as well as the field is now: lengths that it states are right, and nothing is lost. */
    private function isWhole(SourceField $field, string $text): bool
    {
        $now = $this->reader->read($field->text, $field->notation, $field->rules);
        $then = $this->reader->read($text, $field->notation, $field->rules);

        return count($now->references) === count($then->references) && count($now->problems) === count($then->problems);
    }

    /**
     * What changes of ours led from which text of a record to which, forward and back.
     *
     * @param  list<EditRecord>  $edits
     * @return array<string, array<string, list<array{EditRecord, int, string}>>> record → hash before → step with the
     *       number of its change and that one's title
     */
    private function links(int $site, array $edits): array
    {
        $kinds = Sql::texts(array_values(array_unique(array_column($edits, 'record'))));
        $keys = Sql::texts(array_values(array_unique(array_column($edits, 'key'))));
        $rows = DB::select(
            <<<'SQL'
            select s.record_kind, s.record_key, s.detail, s.back, c.id, c.title from plan_steps s
            join changes c on c.plan_id = s.plan_id and c.site_id = ?
            where s.kind = 'edit-record' and s.record_key = any(cast(? as text[]))
                and s.record_kind = any(cast(? as text[])) order by c.id desc limit ?
            SQL,
            [$site, $keys, $kinds, self::MOST * count($edits)],
        );
        $links = [];
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $step = self::step($row->detail);
            $record = "$row->record_kind\0$row->record_key";
            $inverse = $step->inverse();
            $ways = [$step, $inverse, ...$row->back === null ? [] : [self::step($row->back)]];
            foreach ($ways as $way) {
                if ($way instanceof EditRecord && $way->moved === null && $way->before !== '' && $way->after !== null) {
                    $links[$record][$way->before][] = [$way, (int) $row->id, (string) $row->title];
                }
            }
        }

        return $links;
    }

    private static function step(mixed $json): EditRecord
    {
        $data = json_decode((string) $json, true, 64, JSON_THROW_ON_ERROR);

        return EditRecord::fromArray(is_array($data) ? $data : []);
    }

    /**
     * The shortest way from one text to another.
     *
     * @param  array<string, list<array{EditRecord, int, string}>>  $links
     * @return non-empty-list<array{EditRecord, int, string}>|null null where there is none
     */
    private static function chain(string $from, string $to, array $links): ?array
    {
        $ways = [$from => []];
        $reached = [$from];
        while ($reached !== []) {
            $hash = array_shift($reached);
            foreach ($links[$hash] ?? [] as $link) {
                $after = (string) $link[0]->after;
                if (! isset($ways[$after])) {
                    $ways[$after] = [...$ways[$hash], $link];
                    $reached[] = $after;
                }
            }
        }
        $way = $ways[$to] ?? [];

        return $way === [] ? null : $way;
    }
}
