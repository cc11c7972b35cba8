<?php

declare(strict_types=1);

namespace App\Survey;

use App\Models\Site;
use App\Models\Survey;
use App\Models\WorkState;
use App\Outgoing\DeepVisitor;
use App\Outgoing\HostNames;
use App\Outgoing\Question;
use App\Outgoing\Visit;
use App\Outgoing\Visitor;
use App\Reading\DbFileIndex;
use App\Reading\LinkLanding;
use App\Retire\Proofs;
use App\Retire\Watch;
use App\Sites\OpenSite;
use App\Sites\SiteOpener;
use App\Support\Clock;
use App\Support\Sql;
use App\Support\WorkLock;
use App\Usage\Findings;
use App\Usage\UsageIndex;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Addresses\Resolver;
use Ylema\Reading\Notation;

/**
 * Asks the public site as visitors do: every page, what the pages show, and the links that lead to no known page. Works
 * in small windows and notes down how far it is after each, so that it can be cut off anywhere.
 */
final class Surveyor
{
    private const PAGES = 24;

    private const MEDIA = 48;

    private const DEEP = 4;

    /** Pages that are looked at in a browser in one survey; each takes seconds. */
    private const MOST_DEEP = 400;

    /** Links of one site that are asked for in one survey; a site with more dead ones has one cause for many. */
    private const MOST_LINKS = 20_000;

    /** Bytes of a page or style sheet at most. */
    private const LARGEST_PAGE = 8 * 1024 * 1024;

    /** Bytes of a picture whose fingerprint is taken. */
    private const LARGEST_PICTURE = 64 * 1024 * 1024;

    private const SECONDS = 10;

    /** What other hosts are asked at a time. */
    private const ABROAD_AT_ONCE = 2;

    /** Failures in a row after which a site is left in peace. */
    private const PATIENCE = 12;

    /** The same for a host that lends pictures. */
    private const PATIENCE_ABROAD = 3;

    /** Seconds that one worker gives to a survey before others get their turn. */
    private const TURN = 240;

    /** Style sheets that are remembered. */
    private const SHEETS = 200;

    private OpenSite $site;

    private Site $model;

    private Visits $visits;

    private SeenPage $reader;

    private PageNet $net;

    private MapAndTruth $map;

    /** @var array<string, array<string, array{string, string|null, string}>> style sheet → what it names */
    private array $sheets = [];

    /** @var array<int, Visitor> by the size of what they take */
    private array $visitors = [];

    private ?Visitor $abroad = null;

    public function __construct(private readonly SiteOpener $opener, private readonly HostNames $names)
    {
    }

    /** @return bool whether there is more to do */
    public function work(Survey $survey): bool
    {
        $lock = WorkLock::take(WorkLock::SURVEY, $survey->id);
        if ($lock === null || ! $survey->refresh()->state->isOpen()) {
            $lock?->release();

            return false;
        }
        try {
            $this->open($survey);
            $survey->update(['state' => WorkState::Running]);
            $until = Clock::seconds() + self::TURN;
            while ($survey->state === WorkState::Running && Clock::seconds() < $until) {
                $this->step($survey);
                $survey->refresh();
                if ($survey->stop_asked && $survey->state === WorkState::Running) {
                    $survey->update(['state' => WorkState::Stopped]);
                }
            }

            if ($survey->state === WorkState::Done) {
                // What pages show is one of the things that speak for a file, or against it.
                (new Watch($this->model))->ofSurvey();
                (new Proofs($this->model->id))->settle();
            }

            return $survey->state === WorkState::Running;
        } finally {
            // A client holds itself in cycles, and its connections with it; a worker lives long, and select() takes no
            // more than 1,024 of them.
            $this->visitors = [];
            $this->abroad = null;
            gc_collect_cycles();
            $lock->release();
        }
    }

    private function open(Survey $survey): void
    {
        $survey->loadMissing('site');
        $this->model = $survey->site;
        $this->site = $this->opener->open($this->model);
        $resolver = new Resolver(
            new DbFileIndex($this->site->id),
            $this->site->renditionNames(),
            $this->site->map->mediaFolders,
            $this->site->map->mediaPages,
        );
        $this->visits = new Visits($survey, $this->site->addresses);
        $this->net = new PageNet($this->site);
        $this->reader = new SeenPage($this->site, $resolver, $this->net);
        $this->map = new MapAndTruth($this->model);
        $this->sheets = $this->visitors = [];
        $this->abroad = null;
    }

    private function step(Survey $survey): void
    {
        $next = match ($survey->stage) {
            'pages' => $this->pages($survey) ? 'pages' : ($survey->deep ? 'deep' : 'media'),
            'deep' => $this->deep($survey) ? 'deep' : 'media',
            'media' => $this->media($survey) ? 'media' : 'links',
            'links' => $this->links($survey) ? 'links' : 'end',
            default => $this->end($survey),
        };
        if ($next !== $survey->stage) {
            $survey->fill(['stage' => $next, 'after_id' => 0]);
        }
        $survey->worked_at = now();
        $survey->save();
    }

    /** @return bool whether there was anything left */
    private function pages(Survey $survey): bool
    {
        $pages = $this->nextPages($survey, self::PAGES);
        if ($pages === []) {
            return false;
        }
        // A page that is met at several addresses, as in two languages, is what all of them show together.
        $further = $this->further(array_keys($pages));
        $asked = [];
        foreach ($pages as $id => $address) {
            foreach ([$address, ...$further[$id] ?? []] as $one) {
                $asked[] = [$id, $one];
            }
        }
        $tags = $this->tags(array_values(array_diff_key($pages, $further)));
        $questions = array_map(
            static fn (array $one): Question => new Question(
                $one[1],
                headers: isset($tags[$one[1]]) ? ['If-None-Match' => $tags[$one[1]][0]] : [],
            ),
            $asked,
        );
        $seen = $visits = $same = $ages = $named = [];
        $sheets = [];
        $tally = new Tally($survey->totals);
        $this->visitor(self::LARGEST_PAGE)->visit($questions, function (int $n, Visit $visit) use (
            $asked,
            $tally,
            &$seen,
            &$visits,
            &$same,
            &$sheets,
            &$ages,
            &$named,
        ): void {
            [$id, $address] = $asked[$n];
            $visits[$n] = $visit;
            $tally->add('pages');
            $status = $visit->status();
            $ages[$id] = max($ages[$id] ?? 0, (int) ($visit->header('Age') ?? 0));
            $tally->answered($status !== null && $status < 500, $visit);
            if ($status === 304) {
                $same[$n] = $id;

                return;
            }
            if ($status === null || $status < 200 || $status >= 300 || ! $visit->isPage()) {
                $tally->add('pages_failed');

                return;
            }
            [$media, $own, $isCut, $mentions] = $this->reader->read(
                (string) $visit->response?->getBody(),
                $visit->address() ?? $address,
                Notation::Html,
                $visit->header('Content-Type'),
            );
            $seen[$id] = ($seen[$id] ?? []) + $media;
            $named[$id] = [...$named[$id] ?? [], ...$mentions];
            $sheets[$n] = $own;
            $tally->add('pages_cut', $isCut ? 1 : 0);
        });
        // A page that is as it was may have style sheets that are not.
        $before = $same === [] ? [] : $this->map->before(array_values($same));
        foreach (array_keys($same) as $n) {
            $sheets[$n] = $tags[$asked[$n][1]][1] ?? [];
        }
        $noted = [];
        foreach ($visits as $n => $visit) {
            $noted[] = [$asked[$n][1], 'page', $visit, null, $sheets[$n] ?? []];
        }
        $this->fetchSheets(array_merge(...array_values($sheets)), $tally);
        foreach ($sheets as $n => $own) {
            $id = $asked[$n][0];
            $seen[$id] ??= $before[$id];
            foreach ($own as $sheet) {
                $seen[$id] += $this->sheets[$sheet] ?? [];
            }
        }
        // Of a page that is met at several addresses, one that was not sent again leaves what was known.
        $named = array_diff_key($named, array_flip($same));
        DB::transaction(function () use ($seen, $noted, $ages, $named): void {
            $this->visits->note($noted);
            $this->map->keep($seen, $ages);
            $this->net->keep($named);
        });
        $survey->after_id = (int) array_key_last($pages);
        $this->count($survey, $tally, 'The site');

        return true;
    }

    /**
     * The same pages as a browser shows them, once their scripts have worked; as many as there is patience for.
     *
     * @return bool whether there was anything left
     */
    private function deep(Survey $survey): bool
    {
        $visitor = new DeepVisitor($this->model, $this->names);
        $tally = new Tally($survey->totals);
        if (! DeepVisitor::isThere() || ($tally->totals['deep'] ?? 0) >= self::MOST_DEEP) {
            return false;
        }
        $pages = $this->nextPages($survey, self::DEEP);
        if ($pages === []) {
            return false;
        }
        $before = $this->map->before(array_keys($pages), true);
        $seen = [];
        foreach ($pages as $id => $address) {
            $text = $visitor->look($address);
            $tally->add('deep');
            if ($text === null) {
                $tally->add('deep_failed');
            } else {
                [$media] = $this->reader->read($text, $address, Notation::Html);
                $new = array_diff_key($media, $before[$id]);
                $tally->add('deep_found', count($new));
                $seen[$id] = $before[$id] + $new;
            }
        }
        DB::transaction(fn () => $this->map->keep($seen));
        $survey->after_id = (int) array_key_last($pages);
        $survey->totals = $tally->totals;

        return true;
    }

    /** @return array<int, string> number of each page → its whole address */
    private function nextPages(Survey $survey, int $limit): array
    {
        $pages = DB::table('records')
            ->where('site_id', $this->site->id)
            ->where('is_page', true)
            ->where('state', 0)
            ->whereNotNull('address')
            ->where('id', '>', $survey->after_id)
            ->when(
                $survey->pages !== null,
                fn ($q) => $q->whereRaw('id = any(cast(? as bigint[]))', [Sql::ids($survey->pages ?? [])]),
            )
            ->orderBy('id')
            ->limit($limit)
            ->pluck('address', 'id');
        $addresses = [];
        foreach ($pages as $id => $address) {
            $addresses[(int) $id] = $this->site->addresses->addressOfPage(
                ltrim(is_string($address) ? $address : '', '/'),
            );
        }

        return $addresses;
    }

    /**
     * @param  list<int>  $pages
     * @return array<int, list<string>> number of a page → further whole addresses at which it is met
     */
    private function further(array $pages): array
    {
        $rows = DB::select(
            'select record_id, address from further_addresses where record_id = any(cast(? as bigint[])) order by 1, 2',
            [Sql::ids($pages)],
        );
        $further = [];
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $further[(int) $row->record_id][] = $this->site->addresses->addressOfPage(
                ltrim((string) $row->address, '/'),
            );
        }

        return $further;
    }

    /** @param  list<string>  $sheets */
    private function fetchSheets(array $sheets, Tally $tally): void
    {
        $unknown = array_values(
            array_filter(array_unique($sheets), fn (string $sheet): bool => ! isset($this->sheets[$sheet])),
        );
        $unknown = array_slice($unknown, 0, max(0, self::SHEETS - count($this->sheets)));
        $this->visitor(self::LARGEST_PAGE)->visit(
            array_map(static fn (string $sheet): Question => new Question($sheet), $unknown),
            function (int $i, Visit $visit) use ($unknown, $tally): void {
                $status = $visit->status();
                $this->sheets[$unknown[$i]] =
                    $status === null || $status < 200 || $status >= 300
                        ? []
                        : array_map(
                            static fn (array $named): array => [$named[0], $named[1], MapAndTruth::SHEET],
                            $this->reader->read(
                                (string) $visit->response?->getBody(),
                                $visit->address() ?? $unknown[$i],
                                Notation::Css,
                                $visit->header('Content-Type'),
                            )[0],
                        );
                $tally->add('sheets');
            },
        );
    }

    /** @return bool whether there was anything left */
    private function media(Survey $survey): bool
    {
        if ($survey->after_id === 0) {
            $this->listMedia($survey);
        }
        $rows = DB::table('visits')
            ->where('site_id', $this->site->id)
            ->where('kind', 'media')
            ->where('id', '>', $survey->after_id)
            ->where(fn ($q) => $q->whereNull('survey_id')->orWhere('survey_id', '<>', $survey->id))
            ->whereExists(
                DB::table('sightings')
                    ->whereColumn('sightings.site_id', 'visits.site_id')
                    ->whereColumn('sightings.url_hash', 'visits.url_hash')
                    ->where('seen', true)
                    ->when(
                        $survey->pages !== null,
                        fn ($q) => $q->whereRaw('record_id = any(cast(? as bigint[]))', [
                            Sql::ids($survey->pages ?? []),
                        ]),
                    ),
            )
            ->orderBy('id')
            ->limit(self::MEDIA)
            ->get();
        if ($rows->isEmpty()) {
            return false;
        }
        $own = $abroad = [];
        foreach ($rows as $row) {
            if ($this->visits->key((string) $row->url) !== null) {
                $own[] = (string) $row->url;
            } else {
                $abroad[] = $row;
            }
        }
        $tally = new Tally($survey->totals);
        $noted = $this->loaded($own, $tally);
        array_push($noted, ...$this->abroad($abroad, $tally));
        DB::transaction(fn () => $this->visits->note($noted));
        $survey->after_id = (int) $rows->last()->id;
        $this->count($survey, $tally, 'The site');

        return true;
    }

    /** Every address that pages show, once. */
    private function listMedia(Survey $survey): void
    {
        DB::insert(
            <<<'SQL'
            insert into visits (site_id, url_hash, url, kind, host)
            select distinct on (s.url_hash) s.site_id, s.url_hash, s.url, 'media',
                coalesce(substring(s.url from '^[a-z]+://([^/:?#]+)'), '')
            from sightings s where s.site_id = ? and s.seen order by s.url_hash
            on conflict (site_id, url_hash) do nothing
            SQL
            ,
            [$survey->site_id],
        );
    }

    /**
     * @param  list<string>  $addresses of the site itself; only asked for, and fetched where that is not understood
     * @return list<array{string, string, Visit, string|null}>
     */
    private function loaded(array $addresses, Tally $tally): array
    {
        $noted = $again = [];
        $this->visitor(self::LARGEST_PICTURE)->visit(
            array_map(static fn (string $address): Question => new Question($address, 'HEAD'), $addresses),
            function (int $i, Visit $visit) use ($addresses, &$noted, &$again): void {
                if (in_array($visit->status(), [400, 403, 405, 501], true)) {
                    $again[] = $addresses[$i];
                } else {
                    $noted[] = [$addresses[$i], 'media', $visit, null];
                }
            },
        );
        $this->visitor(self::LARGEST_PICTURE)->visit(
            array_map(static fn (string $address): Question => new Question($address), $again),
            static function (int $i, Visit $visit) use ($again, &$noted): void {
                $noted[] = [$again[$i], 'media', $visit, null];
            },
        );
        foreach ($noted as [, , $visit]) {
            $status = $visit->status();
            $tally->add('media');
            $tally->add($status !== null && $status < 300 ? 'media_loaded' : 'media_failed');
            $tally->answered($status !== null && $status < 500, $visit);
        }

        return $noted;
    }

    /**
     * Pictures of other hosts are fetched, so that a later survey knows when they are others.
     *
     * @param  list<stdClass>  $rows
     * @return list<array{string, string, Visit, string|null}>
     */
    private function abroad(array $rows, Tally $tally): array
    {
        $questions = $noted = [];
        foreach ($rows as $i => $row) {
            if ($tally->isQuiet((string) $row->host, self::PATIENCE_ABROAD)) {
                $visit = (new Visit())->end(
                    null,
                    'Its host did not answer several times in a row, so it was not asked.',
                );
                $noted[] = [(string) $row->url, 'media', $visit, null];
                $tally->add('media');
                $tally->add('media_failed');
            } else {
                $headers = json_decode((string) $row->headers, true);
                $tag = is_array($headers) && is_string($headers['etag'] ?? null) ? $headers['etag'] : null;
                $questions[$i] = new Question(
                    (string) $row->url,
                    headers: $tag === null || $row->fingerprint === null ? [] : ['If-None-Match' => $tag],
                );
            }
        }
        $this->abroad ??= $this->newVisitor(self::LARGEST_PICTURE, self::ABROAD_AT_ONCE);
        $this->abroad->visit($questions, static function (int $i, Visit $visit) use ($rows, $tally, &$noted): void {
            if ($visit->isAllowed) {
                $tally->quiet((string) $rows[$i]->host, $visit->status() === null);
            }
            if ($visit->status() === 200 && self::isPageInstead($visit)) {
                $visit->end(null, 'It answers with a page in place of a file.');
            }
            $status = $visit->status();
            $hasBytes = $status !== null && $status >= 200 && $status < 300;
            $noted[] = [
                (string) $rows[$i]->url,
                'media',
                $visit,
                $hasBytes ? hash('sha256', (string) $visit->response?->getBody()) : null,
            ];
            if ($visit->isAllowed) {
                $tally->add('media');
                $tally->add($hasBytes || $status === 304 ? 'media_loaded' : 'media_failed');
            } else {
                $tally->add('media_not_asked');
            }
        });

        return $noted;
    }

    /** Hosts that want nobody from elsewhere give out a page, and call it well. */
    private static function isPageInstead(Visit $visit): bool
    {
        $begin = strtolower(ltrim(substr((string) $visit->response?->getBody(), 0, 512)));

        return str_starts_with($begin, '<!doctype html') || str_starts_with($begin, '<html');
    }

    /** @return bool whether there was anything left */
    private function links(Survey $survey): bool
    {
        if ($survey->pages !== null || ($survey->totals['links'] ?? 0) >= self::MOST_LINKS) {
            return false;
        }
        $rows = DB::table('addresses')
            ->where('site_id', $this->site->id)
            ->where('leads', true)
            ->where('id', '>', $survey->after_id)
            ->where(fn ($q) => $q->whereNull('page_id')->orWhere('outcome', 'dead-link'))
            ->orderBy('id')
            ->limit(self::MEDIA)
            ->get(['id', 'asked']);
        if ($rows->isEmpty()) {
            return false;
        }
        $addresses = [];
        foreach ($rows as $row) {
            $addresses[] = $this->site->addresses->addressOfPage((string) $row->asked);
        }
        $addresses = array_values(array_unique($addresses));
        $tally = new Tally($survey->totals);
        $noted = [];
        // Many a site's own code knows no HEAD, and pages are small.
        $this->visitor(self::LARGEST_PAGE)->visit(
            array_map(static fn (string $address): Question => new Question($address), $addresses),
            static function (int $i, Visit $visit) use ($addresses, $tally, &$noted): void {
                $noted[] = [$addresses[$i], 'link', $visit, null];
                $status = $visit->status();
                $tally->add('links');
                $tally->add('links_dead', in_array($status, [404, 410], true) ? 1 : 0);
                $tally->answered($status !== null && $status < 500, $visit);
            },
        );
        DB::transaction(fn () => $this->visits->note($noted));
        $survey->after_id = (int) $rows->last()->id;
        $this->count($survey, $tally, 'The site');

        return true;
    }

    /** What was learnt becomes findings. */
    private function end(Survey $survey): string
    {
        DB::transaction(function (): void {
            // A reading that lands at the same time would work on the same rows.
            DB::selectOne('select id from sites where id = ? for no key update', [$this->site->id]);
            DB::statement('create temporary table moved_pages (id bigint primary key) on commit drop');
            (new LinkLanding($this->site))->resolve(whole: true);
            (new Findings($this->site->id))->settle();
            (new UsageIndex($this->site->id))->rebuild();
        });
        $report = new SurveyReport($this->model);
        $this->model->update(['surveyed' => ['figures' => $report->figures(), 'sentence' => $report->sentence()]]);
        $survey->fill(['state' => WorkState::Done, 'finished_at' => now(), 'problem' => null]);

        return 'end';
    }

    /** One for all questions of a kind: each holds connections of its own, which are many after a long survey. */
    private function visitor(int $largest): Visitor
    {
        return $this->visitors[$largest] ??= $this->newVisitor($largest, $this->model->at_once);
    }

    private function newVisitor(int $largest, int $atOnce): Visitor
    {
        return new Visitor(
            $this->model,
            $this->names,
            $largest,
            self::SECONDS,
            $atOnce,
            $this->model->pause,
            array_map(strval(...), array_keys($this->model->hosts)),
        );
    }

    private function count(Survey $survey, Tally $tally, string $who): void
    {
        $survey->totals = $tally->totals;
        if (($tally->totals['in_a_row'] ?? 0) >= self::PATIENCE) {
            $survey->fill([
                'state' => WorkState::Halted,
                'problem' => "$who did not answer "
                    .self::PATIENCE.
                    " times in a row ({$tally->lastProblem()}), so it "
                    .'was left in peace. Ask for the survey again when it answers; it goes on where it was.',
            ]);
        }
    }

    /**
     * @param  list<string>  $addresses
     * @return array<string, array{string, list<string>}> address → the entity tag that it had, and its style sheets
     */
    private function tags(array $addresses): array
    {
        $hashes = [];
        foreach ($addresses as $address) {
            $hashes[hash('xxh128', $address)] = $address;
        }
        $tags = [];
        $rows = DB::select(
            <<<'SQL'
            select v.url_hash, v.headers->>'etag' as tag, v.headers->'sheets' as sheets from visits v
            where v.site_id = ? and v.status = 200
                and v.headers->>'etag' is not null and v.url_hash = any(cast(? as text[]))
            SQL
            ,
            [$this->site->id, Sql::texts(array_map(strval(...), array_keys($hashes)))],
        );
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $sheets = json_decode((string) $row->sheets, true);
            $tags[$hashes[trim((string) $row->url_hash)]] = [
                (string) $row->tag,
                array_values(array_filter(is_array($sheets) ? $sheets : [], is_string(...))),
            ];
        }

        return $tags;
    }
}
