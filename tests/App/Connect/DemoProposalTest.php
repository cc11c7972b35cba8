<?php

declare(strict_types=1);

use App\Connect\MapProposer;
use App\Models\MediaItem;
use App\Models\Site;
use App\Sites\FieldMap;
use App\Sites\FolderStore;
use Tests\App\Connect\SecondSite;

it('proposes a map of the demo that finds nearly all that is planted', function (): void {
    $this->touched();
    $demo = $this->site();
    SecondSite::onlyDemo();
    $site = Site::query()->create([
        'slug' => 'again',
        'name' => 'Again',
        'address' => $demo->address,
        'former' => $demo->former,
        'field_map' => '',
        'connection' => $demo->connection,
    ]);
    $proposer = app(MapProposer::class);
    $proposal = $proposer->propose($site, new FolderStore($demo->connection['folder'], ['']));
    $site->update(['field_map' => $proposer->yaml($proposal)]);
    expect(SecondSite::read($site)->problem)->toBeNull();
    [$map, $own] = [FieldMap::parse($site->field_map), FieldMap::parse($demo->field_map)];
    $wanted = $all = [];
    foreach (self::planted()->truth->uses as $use) {
        if ($use['media'] !== null) {
            $wanted[] = implode('|', [$own->kind($use['kind'])->table, $use['key'], $use['field'], $use['media']]);
        }
    }
    $found = SecondSite::uses($site, static fn (string $kind): string => $map->kind($kind)->table);
    // What the theme's own files name is beside what was planted in tables.
    $found = array_values(array_filter($found, static fn (string $use): bool => ! str_starts_with($use, '|')));
    sort($wanted);
    sort($found);
    $used = array_column(
        array_filter(self::planted()->truth->uses, static fn (array $u): bool => $u['media'] !== null),
        'media',
    );
    expect($found)
        ->toBe($wanted)
        ->and(
            MediaItem::query()
                ->where('site_id', $site->id)
                ->where('standing', 'idle')
                ->whereIn('path', $used)
                ->pluck('path')
                ->all(),
        )
        ->toBe([])
        // A slot that shows sets and single banners, by a word in another column.
        ->and($map->kind('slot')->fields['shows_id']->rules['']->targetFrom)
        ->toBe(['column' => 'shows_kind', 'kinds' => ['set' => 'banner-set', 'banner' => 'banner']]);
});
