<?php

declare(strict_types=1);

use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Tests\App\Connect\SecondSite;

/*
 * The field map of a site that is connected: changed, kept, taken back, and asked what it leaves out.
 */

beforeEach(fn () => $this->touched());

function fieldMap(array $options): array
{
    $code = Artisan::call('ylema:fieldmap', ['site' => 'korrin-bay', ...$options]);

    return [$code, Artisan::output()];
}

it('takes another map only if the source is as it says, keeps the one of before and takes it back', function (): void {
    [, $before] = fieldMap([]);
    $file = self::folder().'/map.yaml';
    file_put_contents($file, str_replace('table: banners', 'table: posters', $before));
    [$code, $says] = fieldMap(['file' => $file]);
    expect($code)
        ->toBe(4)
        ->and($says)
        ->toContain('no table "posters"')
        ->toContain('The map of before stays.')
        ->and($this->site()->field_map)
        ->toBe($this->site()->refresh()->field_map)
        ->and(DB::table('field_maps')->count())
        ->toBe(0);
    file_put_contents($file, str_replace('everywhere: true', 'everywhere: false', $before));
    [$code] = fieldMap(['file' => $file, '--reason' => 'Nothing is everywhere']);
    expect($code)->toBe(0)->and($this->site()->field_map)->toContain('everywhere: false');
    [, $list] = fieldMap(['--versions' => true]);
    $ids = DB::table('field_maps')->orderBy('id')->pluck('id')->all();
    expect($list)->toContain('Nothing is everywhere')->toContain('as it was before')->and($ids)->toHaveCount(2);
    [, $shown] = fieldMap(['--show' => (string) $ids[0]]);
    expect(trim($shown))->toBe(trim($before));
    [$code] = fieldMap(['--back' => (string) $ids[0]]);
    expect($code)
        ->toBe(0)
        ->and(trim($this->site()->field_map))
        ->toBe(trim($before))
        ->and(fieldMap(['--back' => '999999'])[0])
        ->toBe(2);
});

it('says which columns hold pictures that no line reads', function (): void {
    SecondSite::onlyDemo();
    expect(Artisan::call('ylema:coverage', ['site' => 'korrin-bay']))
        ->toBe(0)
        ->and(Artisan::output())
        ->toContain('were searched')
        ->toContain('only a survey and access logs see those')
        ->not->toContain('that no line reads');
    $without = preg_replace('~^      featured_id:.*\n~m', '', $this->site()->field_map);
    $without = preg_replace('~^  gallery:\n(?:    .*\n)+~m', '', (string) $without);
    $this->site()->update([
        'field_map' => str_replace(
            "  gallery: { pattern: '%gallery:(?<key>\\d+)%', names: gallery }\n",
            '',
            (string) $without,
        ),
    ]);
    Artisan::call('ylema:coverage', ['site' => 'korrin-bay']);
    expect(Artisan::output())
        ->toContain('entries.featured_id: 127 of 127 sampled values are ids of media')
        ->toContain('galleries.items')
        ->toContain('2 places where media are named that no line reads.');
});
