<?php

declare(strict_types=1);

namespace App\Survey;

use App\Models\MediaReference;
use App\Models\Site;
use App\Support\BulkRows;
use App\Support\Sql;
use App\Usage\Shown;
use Illuminate\Support\Facades\DB;
use stdClass;

/**
 * Holds what pages show against what the map says that they show, both ways. An item counts as shown where any of its
 * files is: which size a page takes is its own affair.
 */
final class MapAndTruth
{
    /** The role of what a style sheet of the page names. */
    public const SHEET = 'style sheet';

    /** References of one record that are compared; a page with more is no page that anybody looks at. */
    private const EACH = 2000;

    private readonly Shown $shown;

    /** @var array{array<int, array{string, string}>, array<string, int|null>}|null what stands on every page */
    private ?array $everywhere = null;

    public function __construct(private readonly Site $site)
    {
        $this->shown = new Shown($site);
    }

    /**
     * @param  array<int, array<string, array{string, string|null, string}>>  $seen page → url hash → whole address,
     *       path and role
     * @param  array<int, int>  $ages page → seconds that a cache had it
     */
    public function keep(array $seen, array $ages = []): void
    {
        if ($seen === []) {
            return;
        }
        $expected = $this->expected(array_keys($seen));
        $items = $this->items($seen);
        $rows = new BulkRows('sightings', [
            'site_id',
            'record_id',
            'url_hash',
            'url',
            'path',
            'role',
            'seen',
            'mapped',
            'made_at',
        ]);
        DB::delete('delete from sightings where record_id = any(cast(? as bigint[]))', [Sql::ids(array_keys($seen))]);
        foreach ($seen as $page => $own) {
            $madeAt = now()->subSeconds($ages[$page] ?? 0)->toIso8601String();
            [$mappedItems, $mappedAddresses] = $expected[$page];
            $met = [];
            foreach ($own as $hash => [$url, $path, $role]) {
                $item = $path === null ? null : $items[$path] ?? null;
                // What is asked for under a wrong name is still what the map says, though it does not load.
                $item ??= $mappedAddresses[$url] ?? $mappedAddresses[$path ?? ''] ?? null;
                if ($item !== null) {
                    $met[$item] = true;
                }
                $isMapped = ($item !== null && isset($mappedItems[$item]))
                    || array_key_exists($path ?? $url, $mappedAddresses);
                $rows->add([
                    $this->site->id,
                    $page,
                    $hash,
                    $url,
                    $path,
                    mb_strcut($role, 0, 60),
                    true,
                    $isMapped,
                    $madeAt,
                ]);
            }
            foreach (array_diff_key($mappedItems, $met) as [$path, $role]) {
                $url = $this->site->addresses()->addressOf($path);
                $hash = hash('xxh128', $url);
                if (! isset($own[$hash])) {
                    $rows->add([
                        $this->site->id,
                        $page,
                        $hash,
                        $url,
                        $path,
                        mb_strcut($role, 0, 60),
                        false,
                        true,
                        $madeAt,
                    ]);
                }
            }
        }
        $rows->flush();
    }

    /**
     * @param  list<int>  $pages
     * @param  bool  $withSheets whether what their style sheets name is meant, too
     * @return array<int, array<string, array{string, string|null, string}>> what their own text named before
     */
    public function before(array $pages, bool $withSheets = false): array
    {
        $seen = array_fill_keys($pages, []);
        $rows = DB::select(
            'select record_id, url_hash, url, path, role from sightings where seen and role <> ? and record_id = '
                .'any(cast(? as bigint[]))',
            [$withSheets ? '' : self::SHEET, Sql::ids($pages)],
        );
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $seen[(int) $row->record_id][trim((string) $row->url_hash)] = [$row->url, $row->path, $row->role];
        }

        return $seen;
    }

    /**
     * @param  list<int>  $pages
     * @return array<int, array{array<int, array{string, string}>, array<string, int|null>}> page → its items, each with
     *       its path and the role that it plays; and the addresses that it names, each with its item
     *       where there is one
     */
    private function expected(array $pages): array
    {
        $shown = $this->shown->by($pages, self::EACH);
        $carriers = [];
        foreach ($shown as $own) {
            foreach ($own as [$via, $reference]) {
                $carriers[$reference->record_id] = true;
                $carriers += array_fill_keys($via, true);
            }
        }
        $live = DB::table('records')
            ->whereRaw('id = any(cast(? as bigint[]))', [Sql::ids(array_keys($carriers))])
            ->where('state', 0)
            ->pluck('id', 'id')
            ->all();
        $this->everywhere ??= $this->everywhere();
        $expected = [];
        foreach ($shown as $page => $own) {
            $expected[$page] = $this->everywhere;
            foreach ($own as [$via, $reference]) {
                $dead = array_diff_key(array_flip([...$via, $reference->record_id]), $live);
                if ($reference->fetch !== 'never' && $dead === []) {
                    self::note($reference, $expected[$page]);
                }
            }
        }

        return $expected;
    }

    /** @return array{array<int, array{string, string}>, array<string, int|null>} */
    private function everywhere(): array
    {
        $records = DB::table('records')
            ->where('site_id', $this->site->id)
            ->where('everywhere', true)
            ->where('state', 0)
            ->pluck('id')
            ->map(static fn (mixed $id): int => is_int($id) ? $id : 0)
            ->all();
        $expected = [[], []];
        foreach ($records === [] ? [] : $this->shown->by(array_values($records), self::EACH) as $own) {
            foreach ($own as [, $reference]) {
                self::note($reference, $expected);
            }
        }

        return $expected;
    }

    /** @param  array{array<int, array{string, string}>, array<string, int|null>}  $expected */
    private static function note(MediaReference $reference, array &$expected): void
    {
        $address = $reference->address;
        if ($reference->media_item_id !== null) {
            $path = $reference->getAttribute('item_path');
            $expected[0][$reference->media_item_id] ??= [is_string($path) ? $path : '', $reference->role];
        }
        if ($address !== null) {
            $expected[1][$address->asked ?? $address->url] = $reference->media_item_id;
            $expected[1][$address->url] = $reference->media_item_id;
        }
    }

    /**
     * @param  array<int, array<string, array{string, string|null, string}>>  $seen
     * @return array<string, int> path → item
     */
    private function items(array $seen): array
    {
        $paths = [];
        foreach ($seen as $own) {
            foreach ($own as [, $path]) {
                if ($path !== null) {
                    $paths[$path] = true;
                }
            }
        }
        $items = [];
        $rows = DB::table('files')
            ->where('site_id', $this->site->id)
            ->whereRaw('path = any(cast(? as text[]))', [Sql::texts(array_map(strval(...), array_keys($paths)))])
            ->whereNotNull('media_item_id')
            ->get(['path', 'media_item_id']);
        foreach ($rows as $row) {
            $items[(string) $row->path] = (int) $row->media_item_id;
        }

        return $items;
    }
}
