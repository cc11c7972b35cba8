<?php

declare(strict_types=1);

namespace App\Changes;

use App\Models\Change;
use App\Models\StepState;
use App\Support\Sql;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;
use Ylema\Plan\Waiting;

/**
 * Which steps of a change wait for each other (see Step::needs()). What was refused refuses what needs it, and takes
 * back what was done already; back, what could not be taken back keeps what it needs.
 */
final readonly class Dependencies
{
    public function __construct(private Change $change)
    {
    }

    /**
     * @param  array<int, Step>  $steps that are to be carried out
     * @return array<int, string> position → why it waits in vain
     */
    public function inVain(array $steps): array
    {
        $needs = array_filter(array_map(static fn (Step $step): array => $step->needs(), $steps));
        if ($needs === []) {
            return [];
        }
        $missing = [];
        $rows = DB::select(
            "select gives, kind, title, message from plan_steps where plan_id = ? and state in ('left-out', 'refused') "
                .'and gives = any(cast(? as text[])) order by position desc',
            [$this->change->plan_id, self::marks($needs)],
        );
        foreach ($rows as $row) {
            $kind = StepKind::from((string) $row->kind);
            $missing[(string) $row->gives] = Waiting::because($kind, (string) $row->title, (string) $row->message);
        }

        return self::reasons($needs, $missing);
    }

    /**
     * @param  array<int, Step>  $steps that are to be taken back
     * @return array<int, string> position → why it has to stay
     */
    public function stillNeeded(array $steps): array
    {
        $gives = array_filter(array_map(static fn (Step $step): ?string => $step->gives(), $steps));
        if ($gives === []) {
            return [];
        }
        $why = [];
        foreach ($this->kept('g.position = any(cast(? as integer[]))', array_keys($gives)) as $row) {
            // One that comes before it is taken back only after it, and turns it round then if need be.
            if ((int) $row->by > (int) $row->position) {
                $why[(int) $row->position] = Waiting::stays((string) $row->title, (string) $row->message);
            }
        }

        return $why;
    }

    /**
     * What kept steps need, by the steps that give it. A record that somebody edited may name it no longer, as far as
     * it was read since; then nothing is needed for its sake.
     *
     * @param  list<int>  $positions
     * @return list<stdClass>
     */
    private function kept(string $where, array $positions): array
    {
        return array_values(DB::select(
            <<<SQL
            select g.position, g.kind, g.detail, s.position as by, s.title, s.message
            from plan_steps s cross join lateral unnest(s.needs) as n(mark)
            join plan_steps g on g.plan_id = s.plan_id and g.gives = n.mark
            where s.plan_id = ? and s.state = 'kept' and s.kind = any(cast(? as text[])) and $where
                and (s.kind <> 'edit-record' or exists (
                    select 1 from records r join media_references m on m.record_id = r.id
                    left join media_items i on i.id = m.media_item_id
                    left join addresses a on a.id = m.address_id left join files f on f.id = a.file_id
                    where r.site_id = ? and r.kind = s.record_kind and r.key in (s.record_key, s.detail->>'moved')
                        and coalesce(g.path, g.detail->'media'->>'path') in (i.path, f.path)))
            order by s.position desc
            SQL,
            [
                $this->change->plan_id,
                Sql::texts(array_column(array_filter(
                    StepKind::cases(),
                    static fn (StepKind $kind): bool => $kind->names(),
                ), 'value')),
                Sql::ids($positions),
                $this->change->site_id,
            ],
        ));
    }

    /**
     * Steps that were carried out before what they need was refused. Back, those that were taken back before something
     * had to stay: what that one needs, and what can be taken back only together with it.
     *
     * @param  array<int, Step>  $refused
     * @param  array<int, string>  $why by the same positions
     * @return array<int, array{Step, string}> position → step and why it is turned round, in the order to do so
     */
    public function toTurn(array $refused, array $why, bool $back): array
    {
        $needing = [];
        foreach ($refused as $position => $step) {
            $gives = $step->gives();
            if ($gives !== null && (! $back || $step->kind()->takesAlong())) {
                $needing[$gives] ??= $back
                    ? Waiting::together($step->title(), $why[$position])
                    : Waiting::because($step->kind(), $step->title(), $why[$position]);
            }
        }
        $turned = $this->needing($needing, $back ? StepState::Undone : StepState::Done);
        if (! $back) {
            krsort($turned);

            return $turned;
        }
        $where = "g.state = 'undone' and s.position = any(cast(? as integer[]))";
        foreach ($this->kept($where, array_keys($refused)) as $row) {
            $turned[(int) $row->position] ??= [
                self::step($row), Waiting::stays((string) $row->title, (string) $row->message),
            ];
        }
        ksort($turned);

        return $turned;
    }

    /**
     * @param  array<string, string>  $reasons by the mark
     * @return array<int, array{Step, string}>
     */
    private function needing(array $reasons, StepState $state): array
    {
        if ($reasons === []) {
            return [];
        }
        $rows = DB::select(
            'select distinct on (s.position) s.position, s.kind, s.detail, n.mark from plan_steps s, unnest(s.needs) '
                .'as n(mark) where s.plan_id = ? and s.state = ? and n.mark = any(cast(? as text[]))',
            [$this->change->plan_id, $state->value, Sql::texts(array_map(strval(...), array_keys($reasons)))],
        );
        $found = [];
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $found[(int) $row->position] = [self::step($row), $reasons[(string) $row->mark]];
        }

        return $found;
    }

    private static function step(stdClass $row): Step
    {
        $detail = json_decode((string) $row->detail, true, 64, JSON_THROW_ON_ERROR);

        return StepKind::from((string) $row->kind)->restore(is_array($detail) ? $detail : []);
    }

    /**
     * @param  array<int, list<string>>  $marks
     * @param  array<string, string>  $reasons
     * @return array<int, string>
     */
    private static function reasons(array $marks, array $reasons): array
    {
        $why = [];
        foreach ($reasons === [] ? [] : $marks as $position => $own) {
            foreach ($own as $mark) {
                if (isset($reasons[$mark])) {
                    $why[$position] = $reasons[$mark];
                    break;
                }
            }
        }

        return $why;
    }

    /** @param  array<int, list<string>>  $marks */
    private static function marks(array $marks): string
    {
        return Sql::texts(array_values(array_unique(array_merge(...array_values($marks)))));
    }
}
