<?php

declare(strict_types=1);

use App\Connect\MapProposer;
use App\Models\MediaItem;
use App\Models\Site;
use App\Sites\FieldMap;
use App\Sites\FolderStore;
use Tests\App\Connect\SecondSite;
use Tests\App\Connect\Shop;

it('proposes a map of tables whose words run together and whose ids are words', function (): void {
    $this->touched();
    $folder = self::folder().'/shop';
    $file = self::folder().'/shop.sqlite';
    shell_exec('rm -rf '.escapeshellarg($folder).' '.escapeshellarg($file));
    $shop = new Shop(new PDO("sqlite:$file"), $folder);
    $site = Site::query()->create([
        'slug' => 'shop',
        'name' => 'Shop',
        'address' => 'https://www.shop.example/',
        'field_map' => '',
        'connection' => ['dsn' => "sqlite:$file", 'user' => '', 'password' => '', 'folder' => $folder],
    ]);
    $proposer = app(MapProposer::class);
    $proposal = $proposer->propose($site, new FolderStore($folder, ['']));
    $site->update(['field_map' => $proposer->yaml($proposal)]);
    $map = FieldMap::parse($site->field_map);
    expect(SecondSite::read($site)->problem)->toBeNull()->and($map->media?->sizes?->table)->toBe('asset_variants');
    $found = SecondSite::uses($site, static fn (string $kind): string => $map->kind($kind)->table);
    sort($found);
    sort($shop->uses);
    $used = array_unique(array_map(static fn (string $use): string => explode('|', $use)[3], $shop->uses));
    $idle = MediaItem::query()->where('site_id', $site->id)->where('standing', 'idle')->pluck('path')->all();
    expect($found)
        ->toBe($shop->uses)
        ->and(array_intersect($idle, $used))
        ->toBe([])
        ->and($map->kind('attachment')->owners[0]->targetFrom)
        ->toBe(['column' => 'ownerType', 'kinds' => ['article' => 'page', 'product' => 'product']])
        ->and(array_keys($proposal->leftOut))
        ->toContain('page_views');
});
