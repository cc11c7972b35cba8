<?php

declare(strict_types=1);

use App\Logs\LogReader;
use App\Models\MediaItem;
use App\Models\Role;
use App\Reading\ReadSite;
use App\Reading\RefreshIndex;
use App\Retire\Proofs;
use App\Usage\Mentioned;
use App\Usage\PlaceQuestions;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;

/** @return array{string, string} what a line of an item's sheet says, and its sentence */
function lineOf(object $test, string $path, string $source): array
{
    $id = MediaItem::query()->where('path', "media/$path")->firstOrFail()->id;
    foreach ((new Proofs($test->site()->id))->sheets([$id])[$id]['sheet']->lines as $line) {
        if ($line->source->value === $source) {
            return [$line->says->value, $line->sentence];
        }
    }

    return ['', ''];
}

/** @return list<string> where an item is named in a way that is not read */
function namedAt(object $test, string $path): array
{
    $item = MediaItem::query()->where('path', "media/$path")->firstOrFail();

    return array_column((new Mentioned($test->site()))->of($item)['rows'], 'place');
}

function readAll(object $test): void
{
    app(ReadSite::class)->begin($test->site(), null);
    expect($test->site()->readings()->orderByDesc('id')->first()->state->value)->toBe('done');
}

it('tells a plain word that stands here and there from one of the site', function (): void {
    $this->touched();
    copy(self::folder().'/site/media/archive/left-09.jpg', self::folder().'/site/media/archive/quokka.jpg');
    copy(self::folder().'/site/media/archive/left-10.jpg', self::folder().'/site/media/archive/header.jpg');
    self::content()->exec('create table words (id serial primary key, word text)');
    self::content()->exec("insert into words (word) values ('quokka'), ('header'), ('header'), ('header'), ('header')");
    readAll($this);
    expect(namedAt($this, 'archive/quokka.jpg'))->toBe(['words.word, row 1'])
        ->and(namedAt($this, 'archive/header.jpg'))->toBe([]);
    // It stays one of the site's words, however few are left.
    self::content()->exec("delete from words where word = 'header' and id > 3");
    readAll($this);
    expect(namedAt($this, 'archive/header.jpg'))->toBe([]);
});

/** @return array<string, array<string, mixed>> what is asked, by place */
function askedOf(object $test): array
{
    return array_column((new PlaceQuestions($test->site()))->all(), null, 'place');
}

function answered(object $test, int $question, bool $names): void
{
    expect((new PlaceQuestions($test->site()))->answer($question, $names))->toBeTrue();
    (new Proofs($test->site()->id))->settle();
}

it('asks of a column that names nearly every item, which may only list them', function (): void {
    $this->touched();
    self::content()->exec('create table uploads (no serial primary key, path text, made text)');
    self::content()->exec("insert into uploads (path, made) select path, 'today' from media");
    $row = 'uploads.path, row '.self::content()
        ->query("select no from uploads where path = 'media/archive/left-09.jpg'")->fetchColumn();
    readAll($this);
    expect(namedAt($this, 'archive/left-09.jpg'))->toBe([$row]);
    $asked = askedOf($this)['uploads.path'];
    expect($asked['asks'])->toContain('of '.$asked['of'].' items, as a list of uploads would')
        ->and($asked['answer'])->toBeNull();
    answered($this, $asked['id'], false);
    expect(namedAt($this, 'archive/left-09.jpg'))->toBe([])
        ->and($this->item('archive/left-09.jpg')->mentions)->toBe(0);
    // It is remembered, and may be taken back.
    readAll($this);
    expect(namedAt($this, 'archive/left-09.jpg'))->toBe([])->and((new PlaceQuestions($this->site()))->open())->toBe(0);
    answered($this, $asked['id'], true);
    expect(namedAt($this, 'archive/left-09.jpg'))->toBe([$row]);
});

it('asks of columns of numbers that could be ids of media, and calls none of them safe before', function (): void {
    $this->touched();
    $idle = array_map(
        fn (int $n): string => (string) $this->item(sprintf('archive/left-%02d.jpg', $n))->source_id,
        range(5, 10),
    );
    self::content()->exec(
        <<<SQL
        create table boats (id serial primary key, name text, second_id integer, price integer);
        insert into boats (name, second_id, price) values ('Gull', {$idle[0]}, 12), ('Seal', null, 15);
        create table walls (id serial primary key, shown text);
        insert into walls (shown) values ('{$idle[1]} {$idle[2]}');
        create table facts (boat integer, code text, value text, primary key (boat, code));
        insert into facts values (1, 'length', '14'), (1, 'hull_image', '{$idle[3]}'), (1, 'note', 'Built by hand.');
        create table ties (id serial primary key, what text, which integer, picture integer);
        insert into ties (what, which, picture) values ('page', 900001, 0), ('picture', {$idle[4]}, null);
        SQL,
    );
    readAll($this);
    $asked = askedOf($this);
    expect($asked)->toHaveKeys([
        'boats.second_id',
        'walls.shown',
        'facts.value, rows with code “hull_image”',
        'ties.which, rows with what “picture”',
    ])->and($asked['boats.second_id']['asks'])->toBe('Its 1 value could be ids of media.');
    foreach ([5 => 'boats.second_id, row 1', 6 => 'walls.shown, row 1', 7 => 'walls.shown, row 1'] as $n => $place) {
        expect(namedAt($this, sprintf('archive/left-%02d.jpg', $n)))->toBe([$place]);
    }
    foreach ([5, 6, 7, 8, 9] as $n) {
        expect($this->item(sprintf('archive/left-%02d.jpg', $n))->mentions)->toBe(1);
    }
    expect($this->item('archive/left-10.jpg')->mentions)->toBe(0);
    answered($this, $asked['boats.second_id']['id'], false);
    expect($this->item('archive/left-05.jpg')->mentions)->toBe(0)
        ->and($this->item('archive/left-06.jpg')->mentions)->toBe(1);
});

it('searches what the map says is packed', function (): void {
    $this->touched();
    self::content()->exec('alter table entries add column coded text');
    $coded = base64_encode('<p>One more.</p><!-- was archive/left-08.jpg -->');
    self::content()->exec("update entries set coded = '$coded' where id = 130");
    $map = str_replace(
        "fields: &entry\n",
        "fields: &entry\n      coded: { notation: html, packed: base64 }\n",
        $this->site()->field_map,
    );
    $this->site()->update(['field_map' => $map]);
    readAll($this);
    $item = MediaItem::query()->where('path', 'media/archive/left-08.jpg')->firstOrFail();
    $rows = (new Mentioned($this->site()))->of($item)['rows'];
    expect($rows)->toHaveCount(1)
        ->and($rows[0]['field'])->toBe('coded')
        ->and($rows[0]['said'])->toBe('archive/left-08.jpg');
});

it('finds a name that came since in records that stay as they are', function (): void {
    $this->touched();
    self::content()->exec("update entries set body = body || '<!-- see late-arrival-77 -->' where id = 130");
    readAll($this);
    copy(self::folder().'/site/media/archive/left-09.jpg', self::folder().'/site/media/archive/late-arrival-77.jpg');
    readAll($this);
    $title = self::contentValue('select title from entries where id = 130');
    expect(namedAt($this, 'archive/late-arrival-77.jpg'))->toBe([$title])
        ->and(lineOf($this, 'archive/late-arrival-77.jpg', 'mentions')[0])->toBe('not-known');
    // And forgets it when the record does not say it any more, also where it alone is read again.
    self::content()->exec("update entries set body = 'gone' where id = 130");
    app(RefreshIndex::class)->refresh($this->site(), [['post', ['130']], ['page', ['130']]], [], false);
    expect(namedAt($this, 'archive/late-arrival-77.jpg'))->toBe([])
        ->and($this->item('archive/late-arrival-77.jpg')->refresh()->mentions)->toBe(0);
});

it('takes what it could not look into for not looked at, and says why', function (): void {
    $this->touched();
    $site = self::folder().'/site';
    $outside = sys_get_temp_dir().'/ylema-outside-'.bin2hex(random_bytes(4));
    mkdir("$outside/deep", recursive: true);
    symlink($outside, "$site/theme/linked");
    mkdir("$site/other");
    file_put_contents("$site/other/list.txt", 'left-11.jpg');
    symlink("$site/other", "$site/again");
    file_put_contents("$site/old.7z", 'PK');
    file_put_contents("$site/page.html.gz", (string) gzencode('<p>left-09.jpg</p>'));
    $packed = (string) gzencode(random_bytes(9000).'<p>left-12.jpg</p>');
    file_put_contents("$site/zcut.html.gz", substr($packed, 0, 5000));
    readAll($this);
    expect($this->site()->code['left'][0]['place'])->toBe('theme/linked')
        ->and($this->site()->code['left'][0]['why'])->toContain('leads out of the site')
        ->and(lineOf($this, 'archive/left-10.jpg', 'code')[0])->toBe('not-known')
        ->and(lineOf($this, 'archive/left-10.jpg', 'code')[1])->toContain('theme/linked')
        ->and(lineOf($this, 'archive/left-10.jpg', 'mentions')[1])->toContain('old.7z: It is packed')
        // What gzip packed is read, and links within the site are followed.
        ->and(namedAt($this, 'archive/left-09.jpg'))->toContain('page.html.gz:1')
        ->and(DB::table('mentions')->where('place', 'again/list.txt')->exists())->toBeTrue();
    Artisan::call('ylema:coverage', ['site' => 'korrin-bay']);
    expect(Artisan::output())->toContain('not searched: old.7z: It is packed')
        ->toContain('not searched: zcut.html.gz: It could not be read to its end')
        ->toContain('only a survey and access logs see those')
        ->not->toContain('All that was seen');
    unlink("$site/theme/linked");
});

it('needs what the site’s code consists of, and says which pattern of it fits nothing', function (): void {
    $this->touched();
    $map = str_replace('code: [', 'code: ["media/archive/left-09.jpg", "themes/**", ', $this->site()->field_map);
    $this->site()->update(['field_map' => $map]);
    readAll($this);
    expect(lineOf($this, 'archive/left-09.jpg', 'code'))->toBe(['against', 'The site’s own code consists of it.'])
        ->and($this->item('archive/left-09.jpg')->verdict)->toBe('needed')
        ->and(lineOf($this, 'archive/left-10.jpg', 'code')[1])->toContain('themes/**: No file in');
});

it('shows what names an item beside its trail, on the Desk and under what is left out', function (): void {
    $this->touched();
    self::content()->exec(
        "update entries set body = body || '<!-- left-09.jpg -->' where state = 'published' and id < 4",
    );
    readAll($this);
    $id = $this->item('archive/left-09.jpg')->id;
    $mentions = $this->as(Role::Viewer)->getJson("/api/sites/korrin-bay/media/$id/trail")->assertOk()->json('mentions');
    expect($mentions['total'])->toBeGreaterThan(0)
        ->and($mentions['rows'][0]['said'])->toBe('left-09.jpg')
        ->and($mentions['rows'][0]['whole'])->toBeTrue()
        ->and($this->getJson('/api/sites/korrin-bay/desk')->json('mentioned'))->toBe(1)
        ->and($this->getJson('/api/sites/korrin-bay/media?mentioned=1')->json('total'))->toBe(1)
        ->and(lineOf($this, 'archive/left-09.jpg', 'mentions')[0])->toBe('against');
    $coverage = $this->as(Role::Owner)->getJson('/api/sites/korrin-bay/coverage')->assertOk()->json();
    expect(array_column($coverage['mentions']['rows'], 'place'))->toContain('page: body')
        ->and($coverage['searched']['tables'])->toBeGreaterThan(10);
});

it('never counts a row without a file as safe', function (): void {
    $this->touched();
    unlink(self::folder().'/site/media/archive/left-09.jpg');
    app(ReadSite::class)->begin($this->site(), null, true);
    expect(lineOf($this, 'archive/left-09.jpg', 'content')[1])->toContain('Its own file is not there')
        ->and($this->item('archive/left-09.jpg')->verdict)->toBe('ask');
});

it('believes no log that is another site’s until somebody says that it is the site’s own', function (): void {
    $this->touched();
    $file = sys_get_temp_dir().'/ylema-whose-'.bin2hex(random_bytes(4)).'.log';
    $line = static fn (string $host, string $path, int $day): string => sprintf(
        "%s192.0.2.1 - - [%s +0000] \"GET %s HTTP/1.1\" 200 9 \"-\" \"Mozilla/5.0 (X11)\"\n",
        $host,
        gmdate('d/M/Y:H:i:s', time() - $day * 86_400),
        $path,
    );
    $logged = fn (): array => (fn (): array => [$this->looked()->logFrom, $this->looked()->logDoubt])
        ->call(new Proofs($this->site()->id));
    // Of another host: counts for nothing, not even for its days.
    file_put_contents($file, $line('shop.example ', '/media/archive/left-09.jpg', 80).$line('shop.example ', '/', 1));
    Artisan::call('ylema:logs', ['site' => 'korrin-bay', 'files' => [$file]]);
    expect(Artisan::output())->toContain('No line is of this site; it speaks of shop.example')
        ->and($logged()[0])->toBeNull()
        ->and(DB::table('asked_for')->count())->toBe(0);
    // Without hosts, and hardly a file of it that is there.
    $lines = array_map(
        static fn (int $n): string => $line('', "/cart/$n", 80 - intdiv($n, 20)),
        range(1, 999),
    );
    file_put_contents($file, implode('', $lines));
    Artisan::call('ylema:logs', ['site' => 'korrin-bay', 'files' => [$file]]);
    expect(Artisan::output())->toContain('No request of 999 lines is for a file that is there')->toContain('--ours')
        ->and($logged()[0])->toBeNull()
        ->and($logged()[1])->toContain('Not this site’s log?');
    $log = $this->as(Role::Maintainer)->getJson('/api/sites/korrin-bay/logs')->json('logs.0');
    expect($log['doubt'])->toContain('Not this site’s log?');
    $this->postJson("/api/sites/korrin-bay/logs/{$log['id']}/ours")->assertOk();
    expect($logged()[0])->not->toBeNull()->and($logged()[1])->toBeNull();
    unlink($file);
});

it('lists nothing as safe whose witnesses grew too old since it was judged', function (): void {
    $this->touched();
    DB::table('media_items')->where('path', 'media/archive/left-09.jpg')->update(['verdict' => 'safe']);
    Artisan::call('ylema:idle', ['site' => 'korrin-bay', '--safe' => true]);
    expect(Artisan::output())->not->toContain('left-09.jpg');
});

it('knows a visitor from somebody who was told that nothing is there', function (): void {
    $this->touched();
    $file = sys_get_temp_dir().'/ylema-missed-'.bin2hex(random_bytes(4)).'.log';
    $at = gmdate('d/M/Y:H:i:s');
    file_put_contents($file, implode('', array_map(
        static fn (string $what): string => "192.0.2.1 - - [$at +0000] \"$what 9 \"-\" \"Mozilla/5.0 (X11)\"\n",
        [
            'GET /media/archive/left-09.jpg HTTP/1.1" 404',
            'HEAD /media/archive/left-10.jpg HTTP/1.1" 200',
            'GET /media/archive/left-11.jpg HTTP/1.1" 304',
        ],
    )));
    $logs = app(LogReader::class);
    $logs->read($this->site(), $file, 'missed.log');
    $logs->settle($this->site());
    expect(lineOf($this, 'archive/left-09.jpg', 'log')[0])->toBe('not-known')
        ->and(lineOf($this, 'archive/left-10.jpg', 'log')[1])->toContain('1 visitor')
        ->and(lineOf($this, 'archive/left-11.jpg', 'log')[1])->toContain('1 visitor');
    unlink($file);
});
