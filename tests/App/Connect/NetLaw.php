<?php

declare(strict_types=1);

namespace Tests\App\Connect;

use App\Models\MediaItem;
use App\Models\Site;
use App\Retire\Proofs;
use App\Usage\Mentioned;
use Illuminate\Support\Facades\DB;
use PDO;
use Tests\App\Hiding;

/**
 * The law of the net on a site that nobody described, read by the map that was proposed for it: what is used is never
 * safe, what nothing names nearly always is, and whatever is hidden where no line reads it is safe no more.
 */
final class NetLaw
{
    /** So many of a hundred items that nothing uses are safe once all witnesses have looked. */
    private const PERCENT = 80;

    /**
     * @param  list<string>  $used paths, as the site's makers know them
     */
    public static function holds(Site $site, PDO $pdo, string $folder, array $used): void
    {
        @mkdir("$folder/parts");
        file_put_contents("$folder/parts/frame.phtml", '<main><?= $body ?></main>');
        $site->update(['field_map' => "$site->field_map\ncode: [\"parts/*.phtml\"]\n"]);
        // What came lately is idle for not having been placed yet.
        shell_exec('find '.escapeshellarg($folder)." -type f -exec touch -d '900 days ago' {} +");
        self::look($site);
        $verdicts = self::verdicts($site);
        expect(array_intersect(array_keys($verdicts, 'safe', true), $used))->toBe([]);

        $idle = MediaItem::query()->where('site_id', $site->id)->where('standing', 'idle')->orderBy('path')->get();
        $safe = $idle->filter(static fn (MediaItem $item): bool => $verdicts[$item->path] === 'safe');
        $said = $idle->map(static fn (MediaItem $i): array => [
            $i->path,
            $verdicts[$i->path],
            $i->verdict_by,
            array_column((new Mentioned($site))->of($i)['rows'], 'place'),
        ])->all();
        expect(100 * count($safe))
            ->toBeGreaterThanOrEqual(self::PERCENT * count($idle), (string) json_encode($said));

        $hiding = new Hiding(crc32($site->address), $folder, $pdo);
        $hidden = [];
        foreach ($safe as $n => $item) {
            $hidden[$item->path] = $hiding->hideAnywhere($item->path, (int) $n);
        }
        self::look($site);
        $verdicts = self::verdicts($site);
        foreach ($hidden as $path => $how) {
            expect($verdicts[$path])->not->toBe('safe', $how);
        }
    }

    /** As if all other witnesses had looked and seen nothing: the net alone decides. */
    private static function look(Site $site): void
    {
        expect(SecondSite::read($site)->problem)->toBeNull();
        self::allLooked($site);
        (new Proofs($site->id))->settle();
    }

    /** A survey and a log of a quarter of a year that met nothing. */
    public static function allLooked(Site $site): void
    {
        DB::table('surveys')->where('site_id', $site->id)->delete();
        DB::table('surveys')->insert([
            'site_id' => $site->id,
            'state' => 'done',
            'stage' => 'end',
            'started_at' => now(),
            'worked_at' => now(),
            'finished_at' => now(),
        ]);
        DB::table('log_files')->where('site_id', $site->id)->delete();
        DB::table('log_files')->insert([
            'site_id' => $site->id,
            'name' => 'all.log',
            'begins' => hash('sha256', 'all.log'),
            'lines' => 1,
            'own' => 1,
            'accepted' => true,
            'from_at' => now()->subDays(90),
            'until_at' => now(),
            'read_at' => now(),
        ]);
    }

    /** @return array<string, string> path → verdict */
    private static function verdicts(Site $site): array
    {
        return MediaItem::query()->where('site_id', $site->id)->pluck('verdict', 'path')->all();
    }
}
