<?php

declare(strict_types=1);

use App\Models\ChangeState;
use App\Models\MediaItem;
use App\Models\MediaReference;
use App\Models\Plan;
use App\Models\Role;
use App\Plans\MoveAsked;
use App\Plans\PlanDesk;
use App\Plans\PlanRefused;
use App\Reading\ReadSite;
use App\Redirects\RedirectList;
use Illuminate\Support\Facades\DB;
use Ylema\Move\MovePlanner;
use Ylema\Redirects\Format;

/*
 * Files, folders and addresses that go elsewhere, with all that names them.
 */

function movePlan(object $test, string $from, string $to, bool $keep = true): Plan
{
    $request = MoveAsked::of($test->site(), $from, $to, $keep);

    return app(PlanDesk::class)->make($test->site(), new MovePlanner($request), null);
}

/** A word for all that the site's content and folder hold. */
function wholeSite(string $folder): string
{
    $content = new PDO(config('demo.dsn'), config('demo.user'), config('demo.password'));
    $said = '';
    foreach (['entries', 'media', 'parts', 'styles', 'settings', 'redirects', 'revisions'] as $table) {
        $said .= $content->query("select md5(string_agg(t::text, '|' order by t::text)) from $table t")->fetchColumn();
    }

    return md5($said.shell_exec('cd '.escapeshellarg($folder).' && find . -type f -printf "%P %s %T@\n" | sort'));
}

it('moves a folder with all its files, rows, references and old addresses, and back byte for byte', function (): void {
    $this->touched();
    $site = self::folder().'/site';
    $before = wholeSite($site);
    $broken = MediaReference::query()->whereIn('outcome', ['missing-file', 'missing-rendition', 'moved'])->count();
    $files = DB::table('files')->where('path', 'like', 'media/people/%')->count();
    $change = $this->apply(movePlan($this, 'media/people', 'media/staff/people'));
    expect($change->state)
        ->toBe(ChangeState::Applied)
        ->and($change->sentence)
        ->toContain("$files files moved")
        ->and(is_dir("$site/media/staff/people"))
        ->toBeTrue()
        ->and(glob("$site/media/people/*"))
        ->toBe([])
        ->and(self::contentValue("select count(*) from media where path like 'media/people/%'"))
        ->toBe('0')
        ->and(self::contentValue("select renditions from media where path = 'media/staff/people/maren-oake.jpg'"))
        ->toContain('media/staff/people/maren-oake.w160.jpg')
        ->not->toContain('media/people')
        ->and(self::contentValue("select new_path from redirects where old_path = '/media/people/maren-oake.jpg'"))
        ->toBe('/media/staff/people/maren-oake.jpg')
        ->and(self::contentValue("select count(*) from entries where body like '%/media/people/%'"))
        ->toBe('0');
    app(ReadSite::class)->begin($this->site(), null);
    expect(MediaReference::query()->whereIn('outcome', ['missing-file', 'missing-rendition', 'moved'])->count())
        ->toBe($broken)
        ->and($this->item('staff/people/maren-oake.jpg')->uses)
        ->toBeGreaterThan(20);
    $this->undo($change);
    expect(wholeSite($site))->toBe($before);
});

it('renames a file with its renditions, in the way of writing of each place', function (): void {
    $this->touched();
    $change = $this->apply(movePlan($this, '/media/people/maren-oake.jpg', 'media/people/warden.jpg', false));
    $site = self::folder().'/site/media/people';
    expect($change->state)
        ->toBe(ChangeState::Applied)
        ->and(is_file("$site/warden.w160.jpg"))
        ->toBeTrue()
        ->and(is_file("$site/maren-oake.w160.jpg"))
        ->toBeFalse()
        ->and(self::contentValue("select count(*) from redirects where old_path like '%maren%'"))
        ->toBe('0')
        ->and(
            self::contentValue(
                "select count(*) from entries where body like '%https://korrinbay.example/media/people/warden%'",
            ),
        )
        ->not->toBe('0')
        ->and(self::contentValue("select count(*) from entries where body like '%maren-oake.%'"))
        ->toBe('0');
});

it('says before it is planned, and in the plan, what names a file in a way that is not read', function (): void {
    $this->touched();
    self::content()->exec('create table notes (id serial primary key, note text)');
    self::content()->exec("insert into notes (note) values ('see harbour-17.jpg'), ('or harbour-17.jpg')");
    app(ReadSite::class)->begin($this->site(), null);
    $path = MediaItem::query()->where('path', 'like', '%/harbour-17.jpg')->value('path');
    $this->as(Role::Maintainer);
    foreach ([$path, dirname($path), dirname($path).'/'] as $from) {
        $this->getJson('/api/sites/korrin-bay/moves/names?from='.urlencode($from))->assertOk()->assertJson([
            'places' => 2,
            'items' => 1,
            'example' => 'notes.note, row 1',
        ]);
    }
    $this->getJson('/api/sites/korrin-bay/moves/names?from=nowhere')->assertJson(['places' => 0]);
    expect(movePlan($this, $path, "$path.jpg")->outline['notes'] ?? [])
        ->toContain('2 places name 1 item of these in a way that is not read, and stay as they are: '
            .'notes.note, row 1, for one.');
});

it('leads on at once what led to the old place', function (): void {
    $this->touched();
    self::content()->exec(
        "insert into redirects (old_path, new_path) values ('/portrait.jpg', '/media/people/maren-oake.jpg')",
    );
    app(ReadSite::class)->begin($this->site(), null);
    $this->apply(movePlan($this, 'media/people/maren-oake.jpg', 'media/people/warden.jpg'));
    expect(self::contentValue("select new_path from redirects where old_path = '/portrait.jpg'"))
        ->toBe('/media/people/warden.jpg');
});

it('sends on from a file whose name holds what begins a query', function (): void {
    $this->touched();
    $folder = self::folder().'/site/media/archive';
    copy("$folder/left-09.jpg", "$folder/what?now=1.jpg");
    app(ReadSite::class)->begin($this->site(), null);
    $change = $this->apply(movePlan($this, 'media/archive/what?now=1.jpg', 'media/archive/what-now.jpg'));
    $list = implode('', iterator_to_array(Format::Csv->write((new RedirectList($this->site()))->entries()), false));
    expect($change->state)->toBe(ChangeState::Applied)
        ->and(is_file("$folder/what-now.jpg"))->toBeTrue()
        ->and($list)->toContain('/media/archive/what%3Fnow%3D1.jpg,/media/archive/what-now.jpg,301')
        ->and(self::contentValue("select new_path from redirects where old_path like '%what\\%3Fnow%3D1.jpg'"))
        ->toBe('/media/archive/what-now.jpg');
    // As the table says it, it is known again.
    app(ReadSite::class)->begin($this->site(), null);
    expect(DB::table('redirects')->where('from_path', 'media/archive/what%3Fnow=1.jpg')->count())->toBe(1)
        ->and($this->undo($change)->state)->toBe(ChangeState::Undone)
        ->and(is_file("$folder/what?now=1.jpg"))->toBeTrue()
        ->and(DB::table('redirects')->where('from_path', 'like', '%what%')->count())->toBe(0);
});

it('refuses what would write over, lose or loop', function (string $from, string $to, string $why): void {
    expect(fn () => movePlan($this, $from, $to))->toThrow(PlanRefused::class, $why);
})->with([
    'over another file' => ['media/people/maren-oake.jpg', 'media/people/lise-holm.jpg', 'There is media/people/lise'],
    'to another type' => ['media/people/maren-oake.jpg', 'media/people/maren.png', 'keeps its extension'],
    'out of sight' => ['media/people/', 'elsewhere/', 'outside of the folders'],
    'out of the root' => ['media/people/', 'media/../../etc/', 'outside of the folders'],
    'into itself' => ['media/people/', 'media/people/more/', 'into itself'],
    'nothing' => ['media/nowhere/', 'media/there/', 'nothing at media/nowhere/'],
    'the same' => ['media/people/', 'media/people/', 'where it goes'],
    'an address of another site' => ['https://x.example/a.jpg', 'media/', 'no address of this site'],
]);

it('moves an address, before the move and after it', function (): void {
    $this->touched();
    $former = DB::table('findings')->where('outcome', 'former-address')->count();
    $plan = movePlan($this, 'https://www.korrin-observatory.example/bay/', 'https://korrinbay.example/');
    $change = $this->apply($plan);
    expect($change->state)->toBe(ChangeState::Applied);
    app(ReadSite::class)->begin($this->site(), null);
    // What was named twice wrongly, by its address and its name, keeps the other fault.
    expect(DB::table('findings')->where('outcome', 'former-address')->count())
        ->toBe(0)
        ->and($former)
        ->toBeGreaterThan(70)
        ->and(self::contentValue("select count(*) from entries where body like '%korrin-observatory.example%'"))
        ->toBe('0');
    $next = movePlan($this, 'https://korrinbay.example/', 'https://bay.korrin.example/');
    expect($next->outline['notes'][0])
        ->toContain('say its new address in its settings')
        ->and($next->counts['pages'] ?? 0)
        ->toBeGreaterThan(10);
    $this->apply($next);
    expect(self::contentValue("select count(*) from entries where body like '%https://korrinbay.example%'"))->toBe('0');
});

it('is asked for on the command line and in the browser', function (): void {
    $this->touched();
    $arguments = ['site' => 'korrin-bay', 'from' => 'media/people/', 'to' => 'media/staff/'];
    $this->artisan('ylema:move', [...$arguments, '--dry-run' => true])
        ->expectsOutputToContain('files moved')
        ->assertSuccessful();
    expect(is_dir(self::folder().'/site/media/staff'))->toBeFalse();
    $this->artisan('ylema:move', ['site' => 'korrin-bay', 'from' => 'media/x', 'to' => 'media/y'])->assertFailed();
    $this->as(Role::Viewer)
        ->postJson('/api/sites/korrin-bay/moves', ['from' => 'media/people', 'to' => 'media/staff'])
        ->assertForbidden();
    $id = $this->as(Role::Maintainer)
        ->postJson('/api/sites/korrin-bay/moves', ['from' => 'media/people', 'to' => 'media/staff'])
        ->assertCreated()
        ->json('id');
    $steps = $this->getJson("/api/sites/korrin-bay/plans/$id/steps")->assertOk()->json('steps');
    expect($steps[0]['says'])->toContain('from media/people/');
    $this->artisan('ylema:move', $arguments)->assertSuccessful();
    expect(is_file(self::folder().'/site/media/staff/maren-oake.jpg'))->toBeTrue();
});
