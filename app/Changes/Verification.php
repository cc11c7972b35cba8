<?php

declare(strict_types=1);

namespace App\Changes;

use App\Models\Change;
use App\Models\Record;
use App\Models\StepState;
use App\Outgoing\HostNames;
use App\Outgoing\Visitor;
use App\Sites\OpenSite;
use App\Sites\SiteOpener;
use App\Support\Sql;
use App\Usage\Touched;
use App\Usage\UsageIndex;
use Psr\Http\Message\ResponseInterface;
use Ylema\Addresses\Url;
use Ylema\Plan\Expectation;
use Ylema\Plan\StepKind;
use Ylema\Plan\Steps\DeleteFile;
use Ylema\Plan\Steps\MoveFile;
use Ylema\Plan\Steps\WriteFile;
use Ylema\Reading\Encoding\Charset;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;

/**
 * Looks at the public site after a change, as a visitor would: the pages that the change reaches and the files it
 * wrote, against what its plan said should be met. A page that a cache made before the change is told apart from one
 * that is wrong.
 */
final readonly class Verification
{
    /** Enough to be sure of the rest, and bounded in time whatever the site's size. */
    private const PAGES = 60;

    private const FILES = 40;

    public function __construct(
        private SiteOpener $opener,
        private FieldReader $reader,
        private HostNames $names,
    ) {
    }

    public function look(Change $change): void
    {
        $change->loadMissing('site');
        $site = $this->opener->open($change->site);
        $visitor = new Visitor($change->site, $this->names);
        $since = ($change->state->isBack() ? $change->undone_at : $change->applied_at)?->getTimestamp() ?? time();
        $files = $this->files($change, $site, $visitor);
        [$pages, $reached] = $this->pages($change, $site, $visitor, $since);
        $count = static fn (string $verdict, array ...$lists): int => count(
            array_filter(array_merge(...$lists), static fn (array $seen): bool => $seen['verdict'] === $verdict),
        );
        $change->update([
            'verification' => [
                'looked_at' => now()->toIso8601String(),
                'pages' => $pages,
                'reached' => $reached,
                'files' => $files,
                'stale' => $count('stale', $pages, $files),
                'fresh' => $count('fresh', $pages),
                'unreachable' => $count('unreachable', $pages, $files),
            ],
        ]);
    }

    /**
     * Asks the site's page cache to forget the pages that were stale, and looks again. @return int how many were asked
     */
    public function purge(Change $change): int
    {
        $change->loadMissing('site');
        $targets = [];
        foreach ([...$change->verification['pages'] ?? [], ...$change->verification['files'] ?? []] as $page) {
            if (is_array($page) && ($page['verdict'] ?? '') === 'stale') {
                $targets[] = (string) $page['address'];
            }
        }
        $asked = 0;
        $count = static function (int $i, ?ResponseInterface $response) use (&$asked): void {
            $asked += $response !== null && $response->getStatusCode() < 400 ? 1 : 0;
        };
        (new Visitor($change->site, $this->names))->ask($targets, 'PURGE', $count);
        $this->look($change);

        return $asked;
    }

    /** @return array{list<array<string, mixed>>, int} pages looked at, pages reached */
    private function pages(Change $change, OpenSite $site, Visitor $visitor, int $since): array
    {
        $records = Touched::by($site->id, $change->plan_id);
        if ($records === []) {
            return [[], 0];
        }
        [$reached, $sample] = (new UsageIndex($site->id))->sample($records, self::PAGES);
        $pages = Record::query()
            ->whereRaw('id = any(cast(? as bigint[]))', [Sql::ids($sample)])
            ->orderBy('address')
            ->get();
        // A changed style sheet is fetched by address, too, and caches keep it as they keep pages.
        $sheets = Record::query()
            ->whereRaw('id = any(cast(? as bigint[]))', [Sql::ids($records)])
            ->where('is_page', false)
            ->whereNotNull('address')
            ->orderBy('id')
            ->limit(self::PAGES)
            ->get();
        $all = [...$pages->all(), ...$sheets->all()];
        $expected = $change->expected();
        $seen = [];
        $addresses = array_map(
            static fn (Record $page): string => $site->addresses->addressOf((string) $page->address),
            $all,
        );
        $judge = function (int $i, ?ResponseInterface $response, ?string $error) use (
            &$seen,
            $all,
            $addresses,
            $site,
            $since,
            $expected,
        ): void {
            $page = $all[$i];
            $row = [
                'id' => $page->id,
                'title' => $page->title,
                'address' => $addresses[$i],
                'verdict' => 'unreachable',
                'words' => $error ?? '',
                'age' => null,
            ];
            if ($response !== null && $response->getStatusCode() >= 400) {
                $row['words'] = "It answers {$response->getStatusCode()}.";
            } elseif ($response !== null && $response->getStatusCode() >= 300) {
                $row['words'] =
                    'It leads on to an address that is not the site\'s own, or goes round in circles; '
                    .'nothing can be said of what a visitor meets there.';
            } elseif ($response !== null) {
                $age = $response->getHeaderLine('Age');
                $row['age'] = $age === '' ? null : (int) $age;
                [$row['verdict'], $row['words']] = $this->verdict(
                    (string) $response->getBody(),
                    $page,
                    $addresses[$i],
                    $site,
                    $expected,
                    $row['age'],
                    $since,
                    $response->getHeaderLine('Content-Type'),
                );
            }
            $seen[$i] = $row;
        };
        $visitor->ask($addresses, 'GET', $judge);
        ksort($seen);

        return [array_values($seen), $reached];
    }

    /** @return array{string, string} verdict and words */
    private function verdict(
        string $body,
        Record $page,
        string $address,
        OpenSite $site,
        Expectation $expected,
        ?int $age,
        int $since,
        string $type,
    ): array {
        [$shown, $said] = $this->shown($body, $page, $address, $site, $type);
        $before = $age !== null && time() - $age < $since;
        $hasOld = array_intersect_key($shown, array_fill_keys($expected->gone, true)) !== []
            || array_intersect_key($said, array_fill_keys($expected->unsaid, true)) !== [];
        $hasNew = array_intersect_key($shown, array_fill_keys($expected->there, true)) !== []
            || array_intersect_key($said, array_fill_keys($expected->said, true)) !== [];
        foreach ($expected->texts as $text) {
            $hasNew =
                $hasNew
                || str_contains($body, htmlspecialchars($text, ENT_QUOTES | ENT_HTML5))
                || str_contains($body, $text);
        }

        return match (true) {
            $hasOld && $before => [
                'stale',
                "A cache made this page {$age} s ago, before the change, and still gives it out.",
            ],
            $hasOld && ! $hasNew => [
                'old',
                'It still shows the old file in a place that was not chosen or could not be written.',
            ],
            $hasNew => ['fresh', 'It shows what the plan said.'],
            $before => ['stale', "A cache made this page {$age} s ago, before the change."],
            default => ['fresh', 'It no longer names the old file.'],
        };
    }

    /**
     * The files that a page or style sheet names, as a browser would resolve them, and how it says so.
     *
     * @param  string  $type what it was sent as
     * @return array{array<string, true>, array<string, true>} paths, and values
     */
    private function shown(string $body, Record $page, string $address, OpenSite $site, string $type): array
    {
        $notation = $page->is_page ? Notation::Html : Notation::Css;
        $reading = $this->reader->read($body, $notation, $site->map->rules(), Charset::labelIn($type));
        $own = Url::parse($address);
        $base = $reading->base === null ? $own : Url::parse($reading->base, $own) ?? $own;
        $paths = $values = [];
        foreach ($reading->references as $reference) {
            $values[$reference->value] = true;
            $from = $reading->isBeforeBase($reference) ? $own : $base;
            $path = $site->addresses->locate($reference->value, $from)?->path;
            if ($path !== null) {
                $paths[$path] = true;
            }
        }

        return [$paths, $values];
    }

    /** @return list<array<string, mixed>> */
    private function files(Change $change, OpenSite $site, Visitor $visitor): array
    {
        $wanted = [];
        $rows = $change
            ->steps()
            ->whereIn('kind', [StepKind::WriteFile->value, StepKind::MoveFile->value, StepKind::DeleteFile->value])
            ->whereIn('state', [StepState::Done->value, StepState::Undone->value])
            ->orderBy('position')
            ->limit(self::FILES)
            ->get();
        foreach ($rows as $row) {
            $step = $row->state === StepState::Undone ? $row->step()->inverse() : $row->step();
            if ($step instanceof WriteFile) {
                $wanted[$step->path] = $step->after->sha256;
            } elseif ($step instanceof MoveFile) {
                $wanted[$step->to] = $step->file->sha256;
            } elseif ($step instanceof DeleteFile) {
                $wanted[$step->path] = null;
            }
        }
        $paths = array_map(strval(...), array_keys($wanted));
        $addresses = array_map($site->addresses->addressOf(...), $paths);
        $seen = [];
        $judge = static function (int $i, ?ResponseInterface $response, ?string $error) use (
            &$seen,
            $paths,
            $addresses,
            $wanted,
        ): void {
            $row = [
                'path' => $paths[$i],
                'address' => $addresses[$i],
                'verdict' => 'unreachable',
                'words' => $error ?? '',
            ];
            if ($response !== null) {
                $status = $response->getStatusCode();
                $hash = $wanted[$paths[$i]];
                $fits =
                    $hash === null
                        ? in_array($status, [404, 410], true)
                        : $status < 300 && hash('sha256', (string) $response->getBody()) === $hash;
                [$row['verdict'], $row['words']] = match (true) {
                    $fits => ['fresh', ''],
                    $status >= 300 && $status < 400 => [
                        'unreachable',
                        'It leads on to an address that is not the site\'s own.',
                    ],
                    $status >= 500 => ['unreachable', "It answers $status."],
                    default => [
                        'stale',
                        'The public address still serves other bytes; a cache in front of it may hold them.',
                    ],
                };
            }
            $seen[$i] = $row;
        };
        $visitor->ask($addresses, 'GET', $judge);
        ksort($seen);

        return array_values($seen);
    }
}
