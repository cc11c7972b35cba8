<?php

declare(strict_types=1);

namespace App\Reading;

use App\Models\Reading;
use App\Sites\OpenSite;
use App\Support\BulkRows;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Addresses\OutcomeKind;
use Ylema\Addresses\PageResolver;
use Ylema\Addresses\Place;
use Ylema\Plan\Finding;
use Ylema\Repair\Cures;

/** Says of the addresses to which links lead which page they are, and what they mean where they are none. */
final readonly class LinkLanding
{
    private const BATCH = 2000;

    public function __construct(private OpenSite $site, private ?Reading $reading = null)
    {
    }

    /**
     * @param  bool  $whole whether any page may have come or gone
     */
    public function resolve(bool $whole): void
    {
        $all = $this->reading->anew ?? true;
        DB::statement(
            'create temporary table led (id bigint primary key, outcome text, path text, asked text, candidates jsonb, '
                .'sure boolean, bare text, whole text) on commit drop',
        );
        $resolver = new PageResolver(new DbPageIndex($this->site));
        $cures = new Cures($this->site->renditionNames());
        DB::table('addresses')
            ->where('site_id', $this->site->id)
            ->where('leads', true)
            ->when(
                ! $all,
                fn ($q) => $q->where(
                    fn ($either) => $either
                        ->whereNull('outcome')
                        ->orWhere('outcome', '<>', OutcomeKind::Page->value)
                        ->orWhereIn('page_id', DB::table('moved_pages')->select('id'))
                        ->orWhereIn('asked', $this->newRedirects())
                        // What leads to no page may lead to one that came.
                        ->when(
                            $whole || DB::table('moved_pages')->exists(),
                            fn ($m) => $m->orWhereNotExists(
                                DB::table('records')->whereColumn('records.id', 'addresses.page_id'),
                            ),
                        ),
                ),
            )
            ->select('id', 'url')
            ->chunkById(self::BATCH, function ($rows) use ($resolver, $cures): void {
                $places = [];
                /** @var stdClass $row */
                foreach ($rows as $row) {
                    $place = $this->site->addresses->locate((string) $row->url);
                    if ($place !== null) {
                        $places[(int) $row->id] = $place;
                    }
                }
                $this->keep($places, $resolver, $cures);
            });
        DB::update(
            'update addresses a set outcome = l.outcome, path = l.path, asked = l.asked, candidates = l.candidates, '
                .'sure = l.sure from led l where l.id = a.id',
        );
        DB::update(
            <<<'SQL'
            with pages as (select address, min(id) as id from (
                select rtrim(address, '/') as address, id from records where site_id = ? and is_page
                union all
                select rtrim(address, '/'), record_id from further_addresses where site_id = ?) as p group by 1)
            update addresses a set page_id = coalesce(q.id, p.id)
            from led l left join pages q on q.address = l.whole left join pages p on p.address = l.bare
            where l.id = a.id and a.page_id is distinct from coalesce(q.id, p.id)
            SQL
            ,
            [$this->site->id, $this->site->id],
        );
        DB::statement('drop table led');
        $this->newRedirects()->update(['is_new' => false]);
    }

    private function newRedirects(): Builder
    {
        return DB::table('redirects')->where('site_id', $this->site->id)->where('is_new', true)->select('from_path');
    }

    /** @param  array<int, Place>  $places */
    private function keep(array $places, PageResolver $resolver, Cures $cures): void
    {
        $rows = new BulkRows('led', ['id', 'outcome', 'path', 'asked', 'candidates', 'sure', 'bare', 'whole']);
        foreach ($resolver->resolve($places) as $id => $outcome) {
            $finding = new Finding($outcome->kind, $outcome->asked, $outcome->path, $outcome->candidates);
            $rows->add([
                $id,
                $outcome->kind->value,
                $outcome->path,
                $outcome->asked,
                $outcome->candidates,
                $outcome->kind !== OutcomeKind::Page && $cures->of($finding)->isSure,
                PageResolver::bare((string) $outcome->asked),
                (string) $outcome->asked,
            ]);
        }
        $rows->flush();
    }
}
