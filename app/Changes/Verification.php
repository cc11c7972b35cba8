<?php

declare(strict_types=1);

namespace App\Changes;

use App\Changes\Verifying\FileLook;
use App\Changes\Verifying\PageLook;
use App\Changes\Verifying\RedirectLook;
use App\Models\Change;
use App\Models\ChangeState;
use App\Models\Record;
use App\Models\Site;
use App\Outgoing\HostNames;
use App\Outgoing\Visitor;
use App\Redirects\RedirectChecker;
use App\Sites\OpenSite;
use App\Sites\SiteOpener;
use App\Support\Sql;
use App\Usage\Touched;
use Psr\Http\Message\ResponseInterface;
use Ylema\Reading\FieldReader;

/**
 * Looks at the public site after a change, as a visitor would: the pages that it reaches, the files that it wrote and
 * the old addresses that it promised to lead on, against what its plan said should be met. A page that a cache made
 * before the change is told apart from one that is wrong; what was not looked at is counted, and never as good.
 *
 * @phpstan-type Seen array<string, mixed>
 */
final readonly class Verification
{
    /** Enough to be sure of the rest, and bounded in time whatever the site's size; the rest can be asked for. */
    private const PAGES = 60;

    private const FILES = 40;

    private const REDIRECTS = 200;

    /** What is looked at where somebody asked for the rest. */
    private const WHOLE = 5000;

    /** Of each list, what is shown: all that is not well before what is. */
    private const SHOWN = 500;

    /** Changes that wait for the same pages, and are looked at again with them. */
    private const WAITING = 20;

    /** What a verification says that was made before this was looked at. */
    public const NONE = [
        'asked' => 0,
        'files_of' => 0,
        'unclear' => 0,
        'whole' => false,
        'redirects' => ['of' => 0, 'asked' => 0, 'right' => 0, 'unknown' => 0, 'rows' => []],
        'unkept' => 0,
    ];

    public function __construct(
        private SiteOpener $opener,
        private FieldReader $reader,
        private HostNames $names,
        private RedirectChecker $redirects,
    ) {
    }

    /** @param  bool  $whole whether all that it reaches is asked for, not a sample */
    public function look(Change $change, bool $whole = false): void
    {
        $change->loadMissing('site');
        $site = $this->opener->open($change->site);
        $visitor = new Visitor($change->site, $this->names);
        [$files, $filesOf] = (new FileLook($site, $visitor))->look($change, $whole ? self::WHOLE : self::FILES);
        [$pages, $asked, $reached] = $this->pageLook($change, $site, $visitor)->look(
            Touched::by($site->id, $change->plan_id),
            $whole ? self::WHOLE : self::PAGES,
        );
        $redirects = $this->redirectLook()->look($change, $whole ? self::WHOLE : self::REDIRECTS);
        $this->keep($change, [
            'looked_at' => now()->toIso8601String(),
            'pages' => $pages,
            'asked' => $asked,
            'reached' => $reached,
            'files' => $files,
            'files_of' => $filesOf,
            'redirects' => $redirects,
            'whole' => $whole,
        ]);
    }

    /**
     * Asks the site's page cache to forget the pages that were stale, and looks again: also for other changes that wait
     * for the same pages. @return int how many were asked
     */
    public function purge(Change $change): int
    {
        $change->loadMissing('site');
        $targets = self::stale($change);
        $asked = 0;
        $count = static function (int $i, ?ResponseInterface $response) use (&$asked): void {
            $asked += $response !== null && $response->getStatusCode() < 400 ? 1 : 0;
        };
        (new Visitor($change->site, $this->names))->ask($targets, 'PURGE', $count);
        $this->look($change, ($change->verification['whole'] ?? false) === true);
        foreach ($this->waiting($change->site, 'stale') as $other) {
            if ($other->id !== $change->id && array_intersect(self::stale($other), $targets) !== []) {
                $this->lookAtStale($other);
            }
        }

        return $asked;
    }

    /** Asks again for the old addresses that did not lead on, in all changes of a site that promised them. */
    public function askAgain(Site $site): void
    {
        foreach ($this->waiting($site, 'unkept') as $change) {
            $whole = ($change->verification['whole'] ?? false) === true;
            $redirects = $this->redirectLook()->look($change, $whole ? self::WHOLE : self::REDIRECTS);
            $this->keep($change, [...$change->verification ?? [], 'redirects' => $redirects]);
        }
    }

    /** The stale pages of another change, once a cache has forgotten them. */
    private function lookAtStale(Change $change): void
    {
        $site = $this->opener->open($change->site);
        $seen = self::rows($change, 'pages');
        $ids = [];
        foreach ($seen as $i => $row) {
            if (($row['verdict'] ?? '') === 'stale' && is_int($row['id'] ?? null)) {
                $ids[$row['id']] = $i;
            }
        }
        $records = Record::query()
            ->whereRaw('id = any(cast(? as bigint[]))', [Sql::ids(array_keys($ids))])
            ->orderBy('id')
            ->get();
        $visitor = new Visitor($change->site, $this->names);
        foreach ($this->pageLook($change, $site, $visitor)->ask(array_values($records->all())) as $row) {
            $seen[$ids[(int) $row['id']]] = $row;
        }
        $this->keep($change, [...$change->verification ?? [], 'pages' => array_values($seen)]);
    }

    /** @return array<string, mixed>|null what was found last, as it is shown; null before anybody looked */
    public static function of(Change $change): ?array
    {
        return $change->verification === null ? null : [
            ...self::NONE,
            ...$change->verification,
            'pages' => self::first(self::rows($change, 'pages')),
            'files' => self::first(self::rows($change, 'files')),
        ];
    }

    /** @param  array<string, mixed>  $found */
    private function keep(Change $change, array $found): void
    {
        $found = [...self::NONE, ...$found];
        $pages = self::listed($found['pages'] ?? []);
        $files = self::listed($found['files'] ?? []);
        $verdicts = array_count_values(array_column([...$pages, ...$files], 'verdict'));
        $redirects = is_array($found['redirects']) ? $found['redirects'] : self::NONE['redirects'];
        $change->update([
            'verification' => [
                ...$found,
                'pages' => $pages,
                'files' => $files,
                'stale' => $verdicts['stale'] ?? 0,
                'fresh' => array_count_values(array_column($pages, 'verdict'))['fresh'] ?? 0,
                'unreachable' => $verdicts['unreachable'] ?? 0,
                'unclear' => $verdicts['unclear'] ?? 0,
                'unkept' => (int) $redirects['asked'] - (int) $redirects['right'] - (int) $redirects['unknown'],
            ],
        ]);
    }

    /** @return iterable<Change> changes at rest whose last look found some of a kind */
    private function waiting(Site $site, string $kind): iterable
    {
        return Change::query()
            ->with('site')
            ->where('site_id', $site->id)
            ->whereIn('state', ChangeState::atRest())
            ->whereRaw("(verification->>'$kind')::int > 0")
            ->orderByDesc('id')
            ->limit(self::WAITING)
            ->get();
    }

    private function pageLook(Change $change, OpenSite $site, Visitor $visitor): PageLook
    {
        $since = ($change->state->isBack() ? $change->undone_at : $change->applied_at)?->getTimestamp() ?? time();

        return new PageLook($site, $visitor, $this->reader, $change->expected(), $since);
    }

    private function redirectLook(): RedirectLook
    {
        return new RedirectLook($this->redirects);
    }

    /** @return list<string> addresses of pages and files of which a cache gives out the old */
    private static function stale(Change $change): array
    {
        $stale = [];
        foreach ([...self::rows($change, 'pages'), ...self::rows($change, 'files')] as $row) {
            if (($row['verdict'] ?? '') === 'stale') {
                $stale[] = (string) $row['address'];
            }
        }

        return $stale;
    }

    /** @return list<Seen> */
    private static function rows(Change $change, string $list): array
    {
        return self::listed($change->verification[$list] ?? []);
    }

    /** @return list<Seen> */
    private static function listed(mixed $rows): array
    {
        return is_array($rows) ? array_values(array_filter($rows, is_array(...))) : [];
    }

    /**
     * @param  list<Seen>  $rows
     * @return list<Seen>
     */
    private static function first(array $rows): array
    {
        if (count($rows) <= self::SHOWN) {
            return $rows;
        }
        $isWell = static fn (array $row): bool => $row['verdict'] === 'fresh';
        usort($rows, static fn (array $a, array $b): int => $isWell($a) <=> $isWell($b));

        return array_slice($rows, 0, self::SHOWN);
    }
}
