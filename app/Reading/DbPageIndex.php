<?php

declare(strict_types=1);

namespace App\Reading;

use App\Sites\OpenSite;
use App\Support\Sql;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Addresses\PageAnswer;
use Ylema\Addresses\PageIndex;

/** What the index knows of a site's pages: one statement for each batch. */
final readonly class DbPageIndex implements PageIndex
{
    /** Redirects of redirects that are followed; browsers stop at 20. */
    private const CHAIN = 10;

    private const HANDFUL = 6;

    /** Pages with one of the words that are looked at before the likeliest are taken. */
    private const ALIKE = 300;

    /** Words shorter than this tell no page from another. */
    private const LETTERS = 4;

    public function __construct(private OpenSite $site)
    {
    }

    public function pages(array $addresses): array
    {
        $pages = [];
        $rows = DB::select(
            <<<'SQL'
            select asked, min(address) as address, bool_or(live) as live from (
                select rtrim(address, '/') as asked, address, state = 0 as live from records
                where site_id = ? and is_page and rtrim(address, '/') = any(cast(? as text[]))
                union all
                select rtrim(f.address, '/'), f.address, r.state = 0
                from further_addresses f join records r on r.id = f.record_id
                where f.site_id = ? and rtrim(f.address, '/') = any(cast(? as text[]))
            ) as found group by 1
            SQL
            ,
            [$this->site->id, Sql::texts($addresses), $this->site->id, Sql::texts($addresses)],
        );
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $pages[(string) $row->asked] = [ltrim((string) $row->address, '/'), $row->live === true];
        }

        return $pages;
    }

    public function formerly(array $addresses): array
    {
        $pages = [];
        $rows = DB::select(
            <<<'SQL'
            select distinct on (g.address) g.address as asked, r.address from former_pages g
            left join records r on r.site_id = g.site_id and r.kind = g.kind and r.key = g.key and r.is_page
                and r.state = 0
            where g.site_id = ? and g.address = any(cast(? as text[]))
            order by g.address, r.address is null, g.left_at desc
            SQL
            ,
            [$this->site->id, Sql::texts($addresses)],
        );
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $now = $row->address === null ? null : trim((string) $row->address, '/');
            $pages[(string) $row->asked] = $now === $row->asked ? null : $now;
        }

        return $pages;
    }

    public function redirected(array $addresses): array
    {
        $to = [];
        $rows = DB::select(
            <<<'SQL'
            with recursive chain(asked, at, to_address, to_path, status, steps) as (
                select from_path, from_path, to_address, to_path, status, 1 from redirects
                where site_id = ? and from_path = any(cast(? as text[]))
                union all
                select c.asked, d.from_path, d.to_address, d.to_path, d.status, c.steps + 1
                from chain c join redirects d on d.site_id = ? and d.from_path = c.to_path
                where c.steps < ? and d.from_path <> c.at
            )
            select distinct on (asked) asked, to_address, to_path, status, steps from chain order by asked, steps desc
            SQL
            ,
            [$this->site->id, Sql::texts($addresses), $this->site->id, self::CHAIN],
        );
        /** @var stdClass $row */
        foreach ($rows as $row) {
            // What goes round in circles leads nowhere, and what is said to be gone has no other place.
            if ((int) $row->steps < self::CHAIN && (int) $row->status < 400 && $row->to_path !== $row->asked) {
                $to[(string) $row->asked] = (string) ($row->to_path ?? $row->to_address);
            }
        }

        return $to;
    }

    public function answers(array $addresses): array
    {
        $answers = [];
        $rows = DB::select(
            <<<'SQL'
            select distinct on (asked) asked, status, leads_to from visits
            where site_id = ? and status is not null and asked = any(cast(? as text[]))
            order by asked, asked_at desc
            SQL
            ,
            [$this->site->id, Sql::texts($addresses)],
        );
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $answers[(string) $row->asked] = new PageAnswer(
                (int) $row->status,
                (int) $row->status < 400 ? $row->leads_to : null,
            );
        }

        return $answers;
    }

    public function alike(array $addresses): array
    {
        $queries = [];
        foreach ($addresses as $address) {
            $words = self::words($address);
            if ($words !== []) {
                $queries[$address] = implode(' | ', $words);
            }
        }
        $alike = [];
        $rows = DB::select(
            <<<'SQL'
            select d.asked, p.address from unnest(cast(? as text[]), cast(? as text[])) as d(asked, query)
            cross join lateral (
                select trim(both '/' from address) as address from (
                    select address, to_tsvector('simple', regexp_replace(address, '[^[:alnum:]]+', ' ', 'g')) as words
                    from records where site_id = ? and is_page and state = 0
                        and to_tsvector('simple', regexp_replace(address, '[^[:alnum:]]+', ' ', 'g'))
                            @@ cast(d.query as tsquery) limit ?
                ) as found order by ts_rank(words, cast(d.query as tsquery)) desc, length(address), address limit ?
            ) as p
            SQL
            ,
            [
                Sql::texts(array_map(strval(...), array_keys($queries))),
                Sql::texts(array_values($queries)),
                $this->site->id,
                self::ALIKE,
                self::HANDFUL,
            ],
        );
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $alike[(string) $row->asked][] = (string) $row->address;
        }

        return $alike;
    }

    /** @return list<string> the words of the last part of an address, as the index of words has them */
    private static function words(string $address): array
    {
        $name = mb_strtolower(basename(explode('?', mb_scrub($address), 2)[0]), 'UTF-8');
        $words = preg_split('~[^\p{L}\p{N}]+~u', preg_replace('~\.[a-z]{2,5}$~', '', $name) ?? '') ?: [];

        return array_values(
            array_unique(array_filter($words, static fn (string $word): bool => mb_strlen($word) >= self::LETTERS)),
        );
    }
}
