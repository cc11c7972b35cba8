<?php

declare(strict_types=1);

namespace App\Changes;

use App\Models\Change;
use App\Models\ChangeState;
use App\Models\Record;
use App\Models\Site;
use App\Sites\OpenSite;
use App\Sites\SiteOpener;
use App\Usage\UsageIndex;
use GuzzleHttp\Client;
use GuzzleHttp\Exception\TransferException;
use GuzzleHttp\Pool;
use GuzzleHttp\Psr7\Request;
use Psr\Http\Message\ResponseInterface;
use Throwable;
use Ylema\Addresses\Url;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;

/**
 * Looks at the public site after a change, as a visitor would: the pages that the change reaches and the
 * files it wrote. A page that a cache made before the change is told apart from one that is wrong.
 */
final readonly class Verification
{
    /** Enough to be sure of the rest, and bounded in time whatever the site's size. */
    private const PAGES = 60;

    private const FILES = 40;

    private const SECONDS = 5;

    public function __construct(private SiteOpener $opener, private FieldReader $reader)
    {
    }

    public function look(Change $change): void
    {
        $site = $this->opener->open($change->site);
        $back = in_array($change->state, [ChangeState::Undone, ChangeState::UndoneInPart], true);
        $since = ($back ? $change->undone_at : $change->applied_at)?->getTimestamp() ?? time();
        $files = $this->files($change, $site, $back);
        [$pages, $reached] = $this->pages($change, $site, $since);
        $change->update(['verification' => [
            'looked_at' => now()->toIso8601String(), 'pages' => $pages, 'reached' => $reached, 'files' => $files,
            'stale' => count(array_filter($pages, static fn (array $p): bool => $p['verdict'] === 'stale')) + count(array_filter($files, static fn (array $f): bool => $f['verdict'] === 'stale')),
            'fresh' => count(array_filter($pages, static fn (array $p): bool => $p['verdict'] === 'fresh')),
            'unreachable' => count(array_filter($pages, static fn (array $p): bool => $p['verdict'] === 'unreachable')),
        ]]);
    }

    /** Asks the site's page cache to forget the pages that were stale, and looks again. @return int how many were asked */
    public function purge(Change $change): int
    {
        $asked = 0;
        $targets = [];
        foreach ([...($change->verification['pages'] ?? []), ...($change->verification['files'] ?? [])] as $page) {
            if (is_array($page) && ($page['verdict'] ?? '') === 'stale') {
                $targets[] = (string) $page['address'];
            }
        }
        $site = $this->opener->open($change->site);
        $requests = array_map(fn (string $address): Request => $this->request($change->site, $site, $address, 'PURGE'), $targets);
        $this->send($requests, static function (int $i, ?ResponseInterface $response) use (&$asked): void {
            $asked += $response !== null && $response->getStatusCode() < 400 ? 1 : 0;
        });
        $this->look($change);

        return $asked;
    }

    /** @return array{list<array<string, mixed>>, int} pages looked at, pages reached */
    private function pages(Change $change, OpenSite $site, int $since): array
    {
        $keys = $change->writes()->where('target', 'record')->get(['record_kind', 'record_key']);
        $records = [];
        foreach ($keys->groupBy('record_kind') as $kind => $ofKind) {
            array_push($records, ...Record::query()->where('site_id', $site->id)->where('kind', $kind)->whereIn('key', $ofKind->pluck('record_key')->all())->pluck('id')->all());
        }
        if ($records === []) {
            return [[], 0];
        }
        $ids = (new UsageIndex($site->id))->graph($records)->pagesOf($records);
        $pages = Record::query()->whereIn('id', array_slice($ids, 0, self::PAGES))->orderBy('address')->get();
        // A changed style sheet is fetched by address, too, and caches keep it as they keep pages.
        $sheets = Record::query()->whereIn('id', $records)->where('is_page', false)->whereNotNull('address')->get();
        $all = [...$pages->all(), ...$sheets->all()];
        $requests = array_map(fn (Record $page): Request => $this->request($change->site, $site, $site->addresses->addressOf((string) $page->address), 'GET'), $all);
        [$old, $new] = $this->paths($change);
        $seen = [];
        $this->send($requests, function (int $i, ?ResponseInterface $response, ?string $error) use (&$seen, $all, $site, $since, $old, $new): void {
            $page = $all[$i];
            $address = $site->addresses->addressOf((string) $page->address);
            $row = ['id' => $page->id, 'title' => $page->title, 'address' => $address, 'verdict' => 'unreachable', 'words' => $error ?? '', 'age' => null];
            if ($response !== null && $response->getStatusCode() >= 400) {
                $row['words'] = "It answers {$response->getStatusCode()}.";
            } elseif ($response !== null) {
                $age = $response->getHeaderLine('Age');
                $row['age'] = $age === '' ? null : (int) $age;
                $shown = $this->shown((string) $response->getBody(), $page, $site);
                $before = $age !== '' && time() - (int) $age < $since;
                $hasOld = array_intersect_key($shown, $old) !== [];
                $hasNew = array_intersect_key($shown, $new) !== [];
                [$row['verdict'], $row['words']] = match (true) {
                    $hasOld && $before => ['stale', "A cache made this page {$age} s ago, before the change, and still gives it out."],
                    $hasOld && ! $hasNew => ['old', 'It still shows the old picture in a place that was not chosen or could not be written.'],
                    $hasNew => ['fresh', 'It shows the new picture.'],
                    $before => ['stale', "A cache made this page {$age} s ago, before the change."],
                    default => ['fresh', 'It no longer names the old picture.'],
                };
            }
            $seen[$i] = $row;
        });
        ksort($seen);

        return [array_values($seen), count($ids)];
    }

    /**
     * The files that a page or style sheet names, as a browser would resolve them.
     *
     * @return array<string, true> paths
     */
    private function shown(string $body, Record $page, OpenSite $site): array
    {
        $base = Url::parse($site->addresses->addressOf((string) $page->address));
        $paths = [];
        foreach ($this->reader->read($body, $page->is_page ? Notation::Html : Notation::Css, $site->map->rules())->references as $reference) {
            $path = $site->addresses->locate($reference->value, $base)?->path;
            if ($path !== null) {
                $paths[$path] = true;
            }
        }

        return $paths;
    }

    /**
     * Paths that give way and paths that come, read off the edits; turned round for an undone change.
     *
     * @return array{array<string, true>, array<string, true>}
     */
    private function paths(Change $change): array
    {
        $site = $change->site;
        $back = in_array($change->state, [ChangeState::Undone, ChangeState::UndoneInPart], true);
        $of = static function (mixed $id) use ($site): array {
            $item = is_int($id) ? $site->mediaItems()->find($id) : null;

            return $item === null ? [] : array_fill_keys($item->files()->pluck('path')->all(), true);
        };
        $old = $of($change->summary['from'] ?? null);
        $new = $of($change->summary['to'] ?? null);
        foreach ($change->writes()->where('target', 'file')->get() as $write) {
            $new[(string) ($write->detail['path'] ?? '')] = true;
        }

        return $back ? [$new, $old] : [$old, $new];
    }

    /** @return list<array<string, mixed>> */
    private function files(Change $change, OpenSite $site, bool $back): array
    {
        $writes = $change->writes()->where('target', 'file')->orderBy('position')->limit(self::FILES)->get();
        $requests = [];
        foreach ($writes as $write) {
            $requests[] = $this->request($change->site, $site, $site->addresses->addressOf((string) ($write->detail['path'] ?? '')), 'GET');
        }
        $seen = [];
        $this->send($requests, static function (int $i, ?ResponseInterface $response, ?string $error) use (&$seen, $writes, $back, $site): void {
            $write = $writes[$i];
            assert($write !== null);
            $wanted = $back ? $write->before_hash : $write->after_hash;
            $gone = $response !== null && in_array($response->getStatusCode(), [404, 410], true);
            $row = ['path' => $write->title, 'address' => $site->addresses->addressOf($write->title), 'verdict' => 'unreachable', 'words' => $error ?? ''];
            if ($response !== null) {
                $fits = $wanted === null ? $gone : (! $gone && hash('sha256', (string) $response->getBody()) === trim($wanted));
                $row['verdict'] = $fits ? 'fresh' : 'stale';
                $row['words'] = $fits ? '' : 'The public address still serves other bytes; a cache in front of it may hold them.';
            }
            $seen[$i] = $row;
        });
        ksort($seen);

        return array_values($seen);
    }

    /** A host of the site is reached where the site's table says; nothing else is ever asked. */
    private function request(Site $model, OpenSite $site, string $address, string $method): Request
    {
        $url = Url::parse($address) ?? $site->addresses->now;
        $origin = $model->reach_at[$url->host] ?? null;
        $target = $origin === null ? $address : rtrim($origin, '/').$url->path.($url->query === null ? '' : '?'.$url->query);

        return new Request($method, $target, ['Host' => $url->authority(), 'User-Agent' => 'Ylema']);
    }

    /**
     * @param  list<Request>  $requests
     * @param  callable(int, ?ResponseInterface, ?string): void  $seen
     */
    private function send(array $requests, callable $seen): void
    {
        $pool = new Pool(new Client(['timeout' => self::SECONDS, 'connect_timeout' => 2, 'http_errors' => false, 'allow_redirects' => false]), $requests, [
            'concurrency' => 6,
            'fulfilled' => static fn (ResponseInterface $response, int $i) => $seen($i, $response, null),
            'rejected' => static fn (Throwable $e, int $i) => $seen($i, null, $e instanceof TransferException ? 'It does not answer.' : $e->getMessage()),
        ]);
        $pool->promise()->wait();
    }
}
