<?php

declare(strict_types=1);

use Illuminate\Support\Facades\DB;

/**
 * @param  list<string>  $wanted
 * @param  list<string>  $found
 */
function sameInBothDirections(array $wanted, array $found): void
{
    $wanted = array_count_values($wanted);
    $found = array_count_values($found);
    $missed = array_diff_assoc($wanted, $found);
    $invented = array_diff_assoc($found, $wanted);
    expect([array_slice($missed, 0, 5), array_slice($invented, 0, 5)])->toBe([[], []]);
}

it(
    'finds every planted use of media, with the item meant and what is wrong with it, and invents none',
    function (): void {
        $wanted = array_map(
            static fn (array $u): string => implode('|', [
                $u['kind'],
                $u['key'],
                $u['field'],
                // A picture in the text is found again by its place; the index keeps its beginning.
                $u['outcome'] === 'pasted' ? substr($u['value'], 0, 120) : $u['value'],
                $u['media'],
                $u['outcome'],
            ]),
            self::planted()->truth->uses,
        );
        $found = array_map(
            static fn (object $r): string => implode('|', (array) $r),
            DB::select(
                <<<'SQL'
                select r.kind, r.key, m.field, m.value, i.path as media, m.outcome
                from media_references m join records r on r.id = m.record_id
                left join media_items i on i.id = m.media_item_id
                where m.names <> 'record'
                SQL
                ,
            ),
        );
        expect(count($wanted))->toBeGreaterThan(900);
        sameInBothDirections($wanted, $found);
    },
);

it('finds every carrier: layouts, parts, slots, sets, banners and galleries', function (): void {
    $wanted = [];
    foreach (self::planted()->truth->carries as $from => $shown) {
        foreach ($shown as $to) {
            $wanted[] = "$from>$to";
        }
    }
    $found = array_map(
        static fn (object $r): string => "{$r->kind}:{$r->key}>{$r->k2}:{$r->key2}",
        DB::select(
            <<<'SQL'
            select r.kind, r.key, t.kind as k2, t.key as key2
            from media_references m join records r on r.id = m.record_id
            join records t on t.id = m.target_record_id where m.names = 'record'
            SQL
            ,
        ),
    );
    sameInBothDirections($wanted, $found);
});

it('holds the bytes of each reference at the place it says', function (): void {
    $rows = DB::select(
        <<<'SQL'
        select m.start, m.length, m.value, r.key from media_references m join records r on r.id = m.record_id
        where r.kind = 'post' and m.field = 'body' and m.layers = 'html' limit 300
        SQL
        ,
    );
    expect($rows)->not->toBeEmpty();
    foreach ($rows as $row) {
        $body = self::contentValue('select body from entries where id = ?', $row->key);
        $said = html_entity_decode(substr($body, $row->start, $row->length), ENT_QUOTES | ENT_HTML5);
        expect(str_starts_with($said, 'data:') ? substr($said, 0, 120) : $said)->toBe($row->value);
    }
});

it('says how each item stands', function (string $path, string $standing): void {
    expect($this->item($path)->standing)->toBe($standing);
})->with([
    'in the header' => ['brand/korrin-logo.png', 'live'],
    'in a banner in a set in a slot in the header' => ['banners/quayside-chandlery.jpg', 'live'],
    'in an expired banner only' => ['banners/compass-optics.jpg', 'fading'],
    'in a banner that begins in the future' => ['banners/anchor-bank.jpg', 'waiting'],
    'in a banner switched off' => ['banners/bell-buoy-cafe.jpg', 'fading'],
    'in a draft only' => ['archive/unsorted-01.jpg', 'waiting'],
    'in the bin only' => ['archive/unsorted-05.jpg', 'fading'],
    'in a past version only' => ['archive/unsorted-09.jpg', 'fading'],
    'nowhere' => ['archive/unsorted-14.jpg', 'idle'],
]);

it('reaches a banner through its carriers exactly where the public site shows it', function (): void {
    $shown = (int) self::contentValue(
        "select count(*) from entries where state = 'published' and published_at <= now() and (expires_at is null or "
            .'expires_at > now())',
    );
    expect($this->item('banners/quayside-chandlery.jpg')->reach)->toBe($shown);
});

it('tells apart two files of the same name', function (): void {
    expect($this->item('2015/open-day.jpg')->uses)
        ->toBe(1)
        ->and($this->item('2022/open-day.jpg')->uses)
        ->toBe(1)
        ->and($this->item('2022/team.jpg')->uses)
        ->toBe(1)
        ->and($this->item('2015/team.jpg')->uses)
        ->toBe(0);
});
