<?php

declare(strict_types=1);

namespace App\Adopt;

use App\Models\Site;
use App\Support\Sql;
use App\Usage\Findings;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use stdClass;

/** The other hosts from which this site takes pictures, and what was decided about each. */
final readonly class ForeignHosts
{
    public const ADOPT = 'adopt';

    public const ALLOW = 'allow';

    private const HOST = "substring(a.url from '^[a-z]+://([^/:?#]+)')";

    /** The most that are listed; a site that takes pictures from more has another problem. */
    private const MOST = 500;

    public function __construct(private Site $site)
    {
    }

    /**
     * @param  list<string>  $hosts
     * @return Builder addresses as `a`
     */
    public static function addresses(int $site, array $hosts): Builder
    {
        return DB::table('addresses as a')
            ->where('a.site_id', $site)
            ->where('a.outcome', 'foreign-host')
            ->whereRaw(self::HOST.' = any(cast(? as text[]))', [Sql::texts($hosts)]);
    }

    /** @return list<array<string, mixed>> those on most pages first */
    public function all(): array
    {
        $host = self::HOST;
        $rows = DB::select(
            <<<SQL
            select $host as host, count(distinct a.id) as files, count(*) as refs,
                count(distinct m.record_id) filter (where r.is_page and r.state = 0) as pages,
                count(distinct a.id) filter (where f.sha256 is not null) as fetched,
                count(distinct a.id) filter (where f.reason is not null or v.status >= 400 or v.status = 0) as lost,
                count(distinct a.id) filter (where v.known_as <> v.fingerprint) as changed,
                sum(distinct v.weight) as weight, min(a.url) as sample
            from addresses a join media_references m on m.address_id = a.id join records r on r.id = m.record_id
            left join foreign_files f on f.site_id = a.site_id and f.url_hash = a.url_hash
            left join visits v on v.site_id = a.site_id and v.url_hash = a.url_hash
            where a.site_id = ? and a.outcome = 'foreign-host' group by 1 order by pages desc, refs desc, 1 limit ?
            SQL
            ,
            [$this->site->id, self::MOST],
        );

        return array_values(
            array_map(
                fn (stdClass $row): array => [
                    'host' => (string) $row->host,
                    'files' => (int) $row->files,
                    'references' => (int) $row->refs,
                    'pages' => (int) $row->pages,
                    'fetched' => (int) $row->fetched,
                    'lost' => (int) $row->lost,
                    'changed' => (int) $row->changed,
                    'weight' => $row->weight === null ? null : (int) $row->weight,
                    'sample' => (string) $row->sample,
                    'decision' => $this->site->hosts[(string) $row->host] ?? null,
                ],
                $rows,
            ),
        );
    }

    /** @return array{files: int, references: int} pictures that lie in the text itself */
    public function pasted(): array
    {
        $row = DB::selectOne(
            'select count(distinct address_id) as files, count(*) as refs from media_references where site_id = ? '
                ."and outcome = 'pasted'",
            [$this->site->id],
        );

        return [
            'files' => $row instanceof stdClass ? (int) $row->files : 0,
            'references' => $row instanceof stdClass ? (int) $row->refs : 0,
        ];
    }

    /**
     * @param  list<string>  $urls
     * @return array<string, string> address → why it cannot be had
     */
    public static function reasons(int $site, array $urls): array
    {
        $reasons = [];
        $rows = DB::select(
            <<<'SQL'
            select a.url, coalesce(f.reason, v.problem, 'It answers ' || v.status || '.') as reason
            from addresses a left join foreign_files f on f.site_id = a.site_id and f.url_hash = a.url_hash
            left join visits v on v.site_id = a.site_id and v.url_hash = a.url_hash
            where a.site_id = ? and a.asked = any(cast(? as text[]))
            SQL
            ,
            [$site, Sql::texts($urls)],
        );
        /** @var stdClass $row */
        foreach ($rows as $row) {
            if ($row->reason !== null) {
                $reasons[(string) $row->url] = (string) $row->reason;
            }
        }

        return $reasons;
    }

    /** @param  string|null  $decision allow, adopt, or null for neither */
    public function decide(string $host, ?string $decision): void
    {
        $hosts = $this->site->hosts;
        unset($hosts[$host]);
        if ($decision !== null) {
            $hosts[$host] = $decision;
        }
        $this->site->update(['hosts' => $hosts]);
        (new Findings($this->site->id))->settle();
    }

    /** A maintainer takes the bytes that are there now for the right ones. */
    public function accept(string $host): void
    {
        DB::table('visits')
            ->where('site_id', $this->site->id)
            ->where('host', $host)
            ->whereColumn('known_as', '<>', 'fingerprint')
            ->update(['known_as' => DB::raw('fingerprint')]);
        (new Findings($this->site->id))->settle();
    }
}
