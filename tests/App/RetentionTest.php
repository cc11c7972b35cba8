<?php

declare(strict_types=1);

use App\Health\Retention;
use App\Models\Change;
use App\Models\Plan;
use App\Reading\ReadSite;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;

/*
 * What is kept for how long: as docs/operate.md says, and never something that is needed still.
 */

beforeEach(fn () => $this->touched());

it('says the same in the documents, in the status, and in what it does', function (): void {
    $said = (string) file_get_contents(base_path('docs/operate.md'));
    foreach (Retention::rules() as $rule) {
        expect($said)->toContain("| $rule->what | $rule->until |");
    }
    Artisan::call('ylema:status', ['--json' => true]);
    expect(array_column(json_decode(Artisan::output(), true)['kept'], 'count', 'what'))
        ->toHaveKey('changes, with all that undo needs', 0)
        ->toHaveKey('what readings found on their way', 1);
});

it('takes plans, drafts, histories and small pictures that are over, and no others', function (): void {
    $site = $this->site();
    $open = $this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg');
    $old = $this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg');
    $applied = $this->apply($this->plan('people/tobin-vale.jpg', 'people/lise-holm.jpg'));
    DB::table('plans')->whereIn('id', [$old->id, $applied->plan_id])->update(['updated_at' => now()->subDays(31)]);
    $columns = collect(DB::select("select column_name as name, data_type as type from information_schema.columns
        where table_name = 'drafts' and is_nullable = 'NO' and column_default is null and column_name <> 'id'"));
    foreach ([31, 29] as $days) {
        $row = $columns->mapWithKeys(static fn (object $one): array => [$one->name => match (true) {
            str_contains($one->type, 'json') => '{}',
            str_contains($one->type, 'int') => 0,
            default => "x$days",
        }])->all();
        DB::table('drafts')->insert([...$row, 'created_at' => now(), 'updated_at' => now()->subDays($days)]);
    }
    app(ReadSite::class)->begin($site, null);
    DB::table('readings')->update(['finished_at' => now()->subDays(91)]);
    $last = (int) DB::table('readings')->max('id');
    $job = ['connection' => '', 'queue' => '', 'payload' => '', 'exception' => ''];
    DB::table('failed_jobs')->insert([
        ['uuid' => 'a', 'failed_at' => now()->subDays(31), ...$job],
        ['uuid' => 'b', 'failed_at' => now(), ...$job],
    ]);
    DB::table('staged_media')
        ->insert(['reading_id' => $last, 'path' => 'x', 'source_id' => '1', 'hash' => '', 'row' => '{}']);
    $sha = (string) DB::table('files')->where('is_original', true)->value('sha256');
    $thumb = static fn (string $of): string => 'thumbs/'.substr($of, 0, 2)."/$of-160.webp";
    foreach ([$sha, $gone = hash('sha256', 'gone'), $fresh = hash('sha256', 'fresh')] as $of) {
        Storage::disk('work')->put($thumb($of), 'x');
        $of === $fresh || touch(Storage::disk('work')->path($thumb($of)), time() - 40 * 86_400);
    }
    expect(Artisan::call('ylema:clear', ['--nightly' => true]))->toBe(0)
        ->and(Plan::query()->pluck('id')->all())->toEqualCanonicalizing([$open->id, $applied->plan_id])
        ->and(DB::table('drafts')->count())->toBe(1)
        ->and(DB::table('readings')->pluck('id')->all())->toBe([$last])
        ->and(DB::table('staged_media')->count())->toBe(0)
        ->and(DB::table('failed_jobs')->pluck('uuid')->all())->toBe(['b'])
        ->and(Storage::disk('work')->exists($thumb($gone)))->toBeFalse()
        ->and(Storage::disk('work')->exists($thumb($sha)))->toBeTrue()
        ->and(Storage::disk('work')->exists($thumb($fresh)))->toBeTrue()
        ->and($this->undo($applied)->state->value)->toBe('undone');
    Storage::disk('work')->delete([$thumb($sha), $thumb($fresh)]);
});

it('lets changes go only where that was said, and only those that ended long ago', function (): void {
    $change = $this->apply($this->plan('people/tobin-vale.jpg', 'people/lise-holm.jpg'));
    DB::table('changes')->update(['updated_at' => now()->subDays(401), 'followed_up' => true]);
    $fresh = $this->apply($this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg'));
    Artisan::call('ylema:clear', ['--nightly' => true]);
    expect(Change::query()->count())->toBe(2);
    config(['retention.changes' => 400]);
    Artisan::call('ylema:clear', ['--nightly' => true]);
    expect(Change::query()->pluck('id')->all())->toBe([$fresh->id])
        ->and(Plan::query()->whereKey($change->plan_id)->exists())->toBeFalse()
        ->and($this->undo($fresh)->state->value)->toBe('undone');
});
