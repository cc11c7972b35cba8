<?php

declare(strict_types=1);

namespace App\Connect;

use App\Models\Site;
use App\Models\User;
use App\Sites\Checkable;
use App\Sites\FieldMapError;
use App\Sites\SiteOpener;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Sites\SourceUnavailable;

/** The field maps that a site has had: each is kept, and can be taken back. */
final readonly class MapVersions
{
    public function __construct(private SiteOpener $opener)
    {
    }

    /** @return list<array{id: int, at: string, by: string|null, reason: string, lines: int}> the newest first */
    public function of(Site $site): array
    {
        return array_values(
            DB::table('field_maps as m')
                ->leftJoin('users as u', 'u.id', '=', 'm.made_by')
                ->where('m.site_id', $site->id)
                ->orderByDesc('m.id')
                ->limit(100)
                ->get(['m.id', 'm.made_at', 'm.reason', 'm.yaml', 'u.name'])
                ->map(
                    static fn (stdClass $m): array => [
                        'id' => (int) $m->id,
                        'at' => (string) $m->made_at,
                        'by' => $m->name,
                        'reason' => (string) $m->reason,
                        'lines' => substr_count((string) $m->yaml, "\n") + 1,
                    ],
                )
                ->all(),
        );
    }

    public function yaml(Site $site, int $version): ?string
    {
        $yaml = DB::table('field_maps')->where('site_id', $site->id)->where('id', $version)->value('yaml');

        return is_string($yaml) ? $yaml : null;
    }

    /**
     * Takes another map, if the source is as it says; the one of before is kept. It holds from the next reading on.
     *
     * @throws FieldMapError|SourceUnavailable then the map of before stays
     */
    public function take(Site $site, string $yaml, string $reason, ?User $by = null): void
    {
        $tried = $site->replicate();
        $tried->field_map = $yaml;
        $content = $this->opener->open($tried)->content;
        if ($content instanceof Checkable) {
            $content->check();
        }
        DB::transaction(function () use ($site, $yaml, $reason, $by): void {
            // A map that nobody kept as a version yet, of a site from before there were any.
            if (! DB::table('field_maps')->where('site_id', $site->id)->where('yaml', $site->field_map)->exists()) {
                $this->keep($site, $site->field_map, 'as it was before', null);
            }
            $site->update(['field_map' => $yaml]);
            $this->keep($site, $yaml, $reason, $by);
        });
    }

    private function keep(Site $site, string $yaml, string $reason, ?User $by): void
    {
        DB::table('field_maps')->insert([
            'site_id' => $site->id,
            'yaml' => $yaml,
            'reason' => mb_strcut($reason, 0, 200),
            'made_by' => $by?->id,
            'made_at' => now(),
        ]);
    }
}
