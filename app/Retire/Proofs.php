<?php

declare(strict_types=1);

namespace App\Retire;

use App\Models\Site;
use App\Sites\SharedFiles;
use App\Support\BulkRows;
use App\Support\Sql;
use App\Usage\Mentioned;
use Carbon\CarbonImmutable;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Retire\Looked;
use Ylema\Retire\ProofSheet;
use Ylema\Retire\Traces;
use Ylema\Usage\Standing;

/**
 * Gathers what was found of files and items, and keeps what their proof sheets come to. Core's rules decide; all that
 * they need of the whole site is one question to the index.
 */
final readonly class Proofs
{
    /** Logs that were turned over may miss the hours between; longer gaps end what is known. */
    private const GAP = 2 * 86_400;

    public function __construct(private int $siteId)
    {
    }

    /**
     * Works out verdicts anew.
     *
     * @param  list<int>|null  $items and of their files; null for all
     */
    public function settle(?array $items = null): void
    {
        if ($items === []) {
            return;
        }
        DB::transaction(function () use ($items): void {
            DB::statement(
                'create temporary table verdicts '
                    .'(file_id bigint, item_id bigint, verdict text, decided_by text, mentions integer) '
                    .'on commit drop',
            );
            $rows = new BulkRows('verdicts', ['file_id', 'item_id', 'verdict', 'decided_by', 'mentions']);
            $looked = $this->looked();
            foreach ($this->gathered($items) as [$item, $files]) {
                $traces = self::ofItem($item, $files);
                $sheet = ProofSheet::of($traces, $looked);
                $rows->add([
                    null,
                    $item->id,
                    $sheet->verdict->value,
                    $sheet->reason?->source->value,
                    $traces->mentions,
                ]);
                foreach ($files as $file) {
                    $own = $file->is_original ? $sheet : ProofSheet::of(self::ofFile($item, $file), $looked);
                    $rows->add([$file->file_id, null, $own->verdict->value, $own->reason?->source->value, null]);
                }
            }
            $rows->flush();
            DB::update(
                'update media_items i set mentions = v.mentions from verdicts v '
                    .'where v.item_id = i.id and i.mentions <> v.mentions',
            );
            foreach (['media_items' => 'item_id', 'files' => 'file_id'] as $table => $column) {
                DB::update(
                    "update $table t set verdict = v.verdict, verdict_by = v.decided_by from verdicts v "
                        ."where v.$column = t.id "
                        .'and (t.verdict, t.verdict_by) is distinct from (v.verdict, v.decided_by)',
                );
            }
        });
    }

    /**
     * The sheets of some items, and of each of their files.
     *
     * @param  list<int>  $items
     * @param  bool  $each whether each file is judged by itself, too
     * @return array<int, array{sheet: ProofSheet, files: array<int, ProofSheet>}> by item, and by file
     */
    public function sheets(array $items, bool $each = true): array
    {
        $looked = $this->looked();
        $sheets = [];
        foreach ($this->gathered($items) as [$item, $files]) {
            $own = [];
            $sheet = ProofSheet::of(self::ofItem($item, $files), $looked);
            foreach ($each ? $files : [] as $file) {
                $own[(int) $file->file_id] = $file->is_original
                    ? $sheet
                    : ProofSheet::of(self::ofFile($item, $file), $looked);
            }
            $sheets[(int) $item->id] = ['sheet' => $sheet, 'files' => $own];
        }

        return $sheets;
    }

    public function looked(): Looked
    {
        $site = Site::query()->findOrFail($this->siteId);
        $unread = DB::selectOne(
            "select (select count(*) from records where site_id = :site and problems::text <> '[]') + coalesce((
                select jsonb_array_length(unread) from readings where site_id = :site and prepared
                order by id desc limit 1), 0) as n",
            ['site' => $this->siteId],
        );
        $surveyed = DB::table('surveys')
            ->where('site_id', $this->siteId)
            ->where('state', 'done')
            ->whereNull('pages')
            ->max('finished_at');
        [$from, $until, $doubt] = $this->logged();

        return new Looked(
            CarbonImmutable::now()->getTimestamp(),
            $site->read_at?->getTimestamp(),
            $unread instanceof stdClass ? (int) $unread->n : 0,
            $site->code !== null,
            $site->code['files'] ?? 0,
            count($site->code['left'] ?? []),
            self::first($site->code['left'] ?? []),
            $site->beside['tables'] ?? null,
            $site->beside['files'] ?? 0,
            count($site->beside['left'] ?? []) + ($site->beside['more'] ?? 0),
            self::first($site->beside['left'] ?? []),
            is_string($surveyed) ? CarbonImmutable::parse($surveyed)->getTimestamp() : null,
            $from,
            $until,
            $doubt,
        );
    }

    /** @param  list<array{place: string, why: string}>  $left */
    private static function first(array $left): string
    {
        return $left === [] ? '' : "{$left[0]['place']}: {$left[0]['why']}";
    }

    /**
     * @return array{int|null, int|null, string|null} since when and until when access logs are known without a gap, and
     *     where none is: why those that were read do not count
     */
    private function logged(): array
    {
        $from = $until = null;
        $spans = DB::table('log_files')
            ->where('site_id', $this->siteId)
            ->whereNotNull('from_at')
            ->whereRaw(WhoseLog::IS_WITNESS)
            ->orderByDesc('until_at')
            ->limit(5000)
            ->get(['from_at', 'until_at']);
        foreach ($spans as $span) {
            $begins = CarbonImmutable::parse((string) $span->from_at)->getTimestamp();
            $ends = CarbonImmutable::parse((string) $span->until_at)->getTimestamp();
            $until ??= $ends;
            if ($from !== null && $ends < $from - self::GAP) {
                break;
            }
            $from = $from === null ? $begins : min($from, $begins);
        }

        $last = $until === null
            ? DB::table('log_files')->where('site_id', $this->siteId)->orderByDesc('read_at')->first()
            : null;

        return [$from, $until, $last instanceof stdClass ? WhoseLog::row($last)->doubt() : null];
    }

    /**
     * Items with what was found of each of their files.
     *
     * @param  list<int>|null  $items null for all
     * @return iterable<array{stdClass, list<stdClass>}>
     */
    private function gathered(?array $items): iterable
    {
        $of = static fn (string $condition): string => $items === null ? '' : $condition;
        $only = $of('and i.id = any(cast(:items as bigint[]))');
        $own = $of('and f.media_item_id = any(cast(:items as bigint[]))');
        $at = $of('and a.media_item_id = any(cast(:items as bigint[]))');
        // Of a few items, nothing is counted over the whole site.
        $referred = $of('and m.media_item_id = any(cast(:items as bigint[]))');
        $shown = $of('and s.path in (select path from own)');
        $copied = $of('and sha256 in (select sha256 from own)');
        [$shared, $bindings] = $this->shared();
        $rows = DB::cursor(
            <<<SQL
            with own as materialized (
                select f.id, f.path, f.sha256, f.modified, f.is_original, f.media_item_id
                from files f where f.site_id = :site and f.media_item_id is not null $own
            ), named as (
                select a.file_id, count(*) as n from addresses a join media_references m on m.address_id = a.id
                where a.site_id = :site and a.file_id is not null and not a.leads $at group by 1
            ), led as (
                select a.path, count(*) as n from addresses a join links l on l.address_id = a.id
                where a.site_id = :site and a.leads and a.path is not null
                    and exists (select 1 from own where own.path = a.path) group by 1
            ), by_id as (
                select m.media_item_id as item, count(*) as n from media_references m
                where m.site_id = :site and m.names = 'media-item' and m.media_item_id is not null $referred group by 1
            ), hits as materialized (
                select v.file_id, m.source, m.strength in ('path', 'name') as whole, r.state = 0 as live,
                    case
                        when r.id is not null then '“' || r.title || '” (' || m.field || ')'
                        when m.source = 'table' then m.place || case m.at when '' then '' else ', row ' || m.at end
                        else m.place || coalesce(':' || m.line, '')
                    end as at
                from mentioned(:site, cast(:of as bigint[])) v join mentions m on m.id = v.mention_id
                join own f on f.id = v.file_id join media_items i on i.id = f.media_item_id
                left join records r on r.id = m.record_id
                where m.place <> f.path
                    -- What a row of the list of media says of its own file names nothing else.
                    and not (m.source = 'table' and starts_with(m.place, :media) and m.at = i.source_id)
            ), coded as (
                select file_id, count(*) as n, min(at) as at from hits where source = 'code' and whole group by 1
            ), hinted as (
                select file_id, count(*) as n, coalesce(bool_or(whole and live), false) as whole,
                    (array_agg(at order by coalesce(live, false) and whole desc, whole desc, at))[1] as at
                from hits where not (source = 'code' and whole) group by 1
            ), meant as (
                select o.id as file_id, count(distinct a.id) as n
                from addresses a cross join lateral jsonb_array_elements_text(a.candidates) as c(path)
                join own o on o.path = c.path
                where a.site_id = :site and a.file_id is distinct from o.id and a.candidates <> '[]' group by 1
            ), seen as (
                select s.path, count(distinct s.record_id) as n from sightings s
                where s.site_id = :site and s.seen and s.path is not null $shown group by 1
            ), shared as ($shared), same as (
                select sha256, count(*) as n from files where site_id = :site and is_original $copied group by 1
                having count(*) > 1
            )
            select i.id, i.standing, i.uses, i.path as item_path, coalesce(b.n, 0) as by_id, f.id as file_id, f.path,
                f.modified, coalesce(f.is_original, false) as is_original, coalesce(n.n, 0) + coalesce(d.n, 0) as named,
                coalesce(c.n, 0) as coded, c.at as coded_at, k.path is not null as is_code,
                coalesce(t.n, 0) as mentions, t.at as mentioned_at, coalesce(t.whole, false) as named_whole,
                coalesce(w.n, 0) as meant,
                coalesce(s.n, 0) as seen, coalesce(l.visitors, 0) as visitors,
                coalesce(l.other_sites, 0) as other_sites,
                (select k from jsonb_object_keys(l.pages) as k limit 1) as other_page, coalesce(l.mail, 0) as mail,
                coalesce(l.robots, 0) as robots, extract(epoch from l.last_person_at)::bigint as last_person,
                coalesce(e.n, 1) - 1 as copies, h.name as shared_by
            from media_items i left join own f on f.media_item_id = i.id
            left join by_id b on b.item = i.id left join named n on n.file_id = f.id left join led d on d.path = f.path
            left join coded c on c.file_id = f.id left join hinted t on t.file_id = f.id
            left join meant w on w.file_id = f.id left join code_files k on k.site_id = :site and k.path = f.path
            left join seen s on s.path = f.path
            left join asked_for l on l.site_id = :site and md5(l.path) = md5(f.path) and l.path = f.path
            left join same e on e.sha256 = f.sha256 left join shared h on h.file_id = f.id
            where i.site_id = :site $only order by i.id, f.is_original desc, f.path
            SQL
            ,
            [
                'site' => $this->siteId,
                'of' => $items === null ? null : Sql::ids($items),
                'media' => Mentioned::mediaTable(Site::query()->findOrFail($this->siteId)).'.',
                ...$bindings, ...$items === null ? [] : ['items' => Sql::ids($items)],
            ],
        );
        $item = null;
        $files = [];
        /** @var stdClass $row */
        foreach ($rows as $row) {
            if ($item !== null && $item->id !== $row->id) {
                yield [$item, $files];
                $files = [];
            }
            $item = $row;
            if ($row->file_id !== null) {
                $files[] = $row;
            }
        }
        if ($item !== null) {
            yield [$item, $files];
        }
    }

    /**
     * SQL: files that another site here keeps as well, and uses, with the name of that site.
     *
     * @return array{string, array<string, string|int>} the statement, and its values
     */
    private function shared(): array
    {
        $parts = $bindings = [];
        foreach (SharedFiles::of(Site::query()->findOrFail($this->siteId)) as $n => $with) {
            $parts[] = <<<SQL
                select f.id as file_id, cast(:name$n as text) as name from own f
                join files o on o.site_id = :other$n
                    and o.path = cast(:theirs$n as text) || substr(f.path, length(cast(:mine$n as text)) + 1)
                join media_items i on i.id = o.media_item_id
                where starts_with(f.path, :mine$n) and (i.uses > 0 or i.standing <> 'idle')
                SQL;
            $bindings += [
                "name$n" => $with['name'],
                "other$n" => $with['site'],
                "theirs$n" => $with['theirs'],
                "mine$n" => $with['mine'],
            ];
        }

        return [
            $parts === []
                ? "select cast(null as bigint) as file_id, '' as name where false"
                : 'select file_id, min(name) as name from ('.implode(' union all ', $parts).') as each group by 1',
            $bindings,
        ];
    }

    /** @param  list<stdClass>  $files */
    private static function ofItem(stdClass $item, array $files): Traces
    {
        $sum = static fn (string $column): int => array_sum(
            array_map(static fn (stdClass $file): int => (int) $file->{$column}, $files),
        );
        $first = static fn (string $column): string => (string) (array_values(
            array_filter(array_map(static fn (stdClass $file): mixed => $file->{$column}, $files)),
        )[0] ?? '');
        $any = static fn (string $column): bool => in_array(true, array_column($files, $column), true);
        $last = array_filter(array_map(static fn (stdClass $file): mixed => $file->last_person, $files));
        $original = $files[0] ?? null;
        $led = $sum('named');

        return new Traces(
            self::standing($item, $led),
            // Links to one of its files count, though they show nothing.
            max((int) $item->uses, $led),
            false,
            $sum('coded'),
            $first('coded_at'),
            $sum('seen'),
            $sum('visitors'),
            $sum('other_sites'),
            $first('other_page'),
            $sum('mail'),
            $sum('robots'),
            $last === [] ? null : max(array_map(intval(...), $last)),
            $original === null ? null : (int) $original->modified,
            $original === null ? 0 : (int) $original->copies,
            $first('shared_by'),
            $any('is_code'),
            $sum('mentions'),
            $first('mentioned_at'),
            $any('named_whole'),
            $sum('meant'),
            ! $any('is_original'),
        );
    }

    private static function ofFile(stdClass $item, stdClass $file): Traces
    {
        return new Traces(
            self::standing($item, (int) $file->named),
            (int) $file->named,
            (int) $item->by_id > 0,
            (int) $file->coded,
            (string) $file->coded_at,
            (int) $file->seen,
            (int) $file->visitors,
            (int) $file->other_sites,
            (string) $file->other_page,
            (int) $file->mail,
            (int) $file->robots,
            $file->last_person === null ? null : (int) $file->last_person,
            (int) $file->modified,
            // What is drawn from an original is never the only one.
            1,
            (string) $file->shared_by,
            $file->is_code === true,
            (int) $file->mentions,
            (string) $file->mentioned_at,
            $file->named_whole === true,
            (int) $file->meant,
        );
    }

    /** What only a link names is led to by somebody: nobody knows from where, so it counts as met. */
    private static function standing(stdClass $item, int $named): Standing
    {
        $standing = Standing::from((string) $item->standing);

        return $standing === Standing::Idle && $named > 0 ? Standing::Live : $standing;
    }
}
