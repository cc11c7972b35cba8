<?php

declare(strict_types=1);

namespace App\Health;

use App\Bytes\Part;
use App\Models\ChangeState;
use App\Models\PlanState;
use App\Models\ReadingState;
use App\Models\WorkState;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;

/**
 * What is kept for how long. docs/operate.md says the same, and the nightly `ylema:clear --nightly` keeps to it. What
 * has a rule elsewhere (uploads, the vault, backups, logs of the framework) is named there.
 */
final class Retention
{
    private const PLANS = 30;

    private const DRAFTS = 30;

    private const HISTORY = 90;

    private const THUMBNAILS = 30;

    private const FAILED = 30;

    /** Plans that go with one statement: each may have a hundred thousand steps. */
    private const AT_ONCE = 20;

    /** @return list<Rule> */
    public static function rules(): array
    {
        $days = config('retention.changes');
        $days = is_int($days) ? $days : null;

        return [
            new Rule(
                'changes, with all that undo needs',
                $days === null ? 'for good (YLEMA_KEEP_CHANGES says otherwise)' : "$days days after they ended",
                static fn (): int => DB::table('changes')->count(),
                static fn (): int => $days === null ? 0 : self::changes($days),
            ),
            new Rule(
                'plans that nobody carried out',
                self::PLANS.' days',
                static fn (): int => self::plans(0)->count(),
                static fn (): int => self::inParts(self::plans(self::PLANS)),
            ),
            new Rule(
                'sites that are being connected',
                self::DRAFTS.' days without a word',
                static fn (): int => DB::table('drafts')->count(),
                static fn (): int => DB::table('drafts')->where('updated_at', '<', now()->subDays(self::DRAFTS))
                    ->delete(),
            ),
            new Rule(
                'what readings found on their way',
                'the end of the reading; its figures '.self::HISTORY.' days, the last of each site for good',
                static fn (): int => DB::table('readings')->count(),
                static fn (): int => self::staging() + self::history('readings', ReadingState::open()),
            ),
            new Rule(
                'surveys',
                self::HISTORY.' days, the last of each site for good',
                static fn (): int => DB::table('surveys')->count(),
                static fn (): int => self::history('surveys', [WorkState::Waiting->value, WorkState::Running->value]),
            ),
            new Rule(
                'jobs that failed',
                self::FAILED.' days',
                static fn (): int => DB::table('failed_jobs')->count(),
                static fn (): int => DB::table('failed_jobs')->where('failed_at', '<', now()->subDays(self::FAILED))
                    ->delete(),
            ),
            new Rule(
                'small pictures',
                self::THUMBNAILS.' days after their file went',
                self::thumbnails(...),
                self::clearThumbnails(...),
            ),
        ];
    }

    private static function changes(int $days): int
    {
        $ended = [ChangeState::Applied, ChangeState::AppliedInPart, ChangeState::Undone, ChangeState::UndoneInPart];
        $gone = 0;
        $over = static fn (): Builder => DB::table('changes')->whereIn('state', $ended)->where('followed_up', true)
            ->where('updated_at', '<', now()->subDays($days));
        do {
            $rows = $over()->limit(self::AT_ONCE)->pluck('plan_id', 'id');
            // Asked again as it is deleted: somebody may undo one just now, and then it stays, with its plan.
            $went = DB::transaction(static function () use ($over, $rows): int {
                $went = $over()->whereIn('id', $rows->keys())->delete();
                DB::table('plans')->whereIn('id', $rows->values())->whereNotExists(self::changeOf(...))->delete();

                return $went;
            });
            $gone += $went;
        } while ($went === self::AT_ONCE);

        return $gone;
    }

    private static function plans(int $days): Builder
    {
        return DB::table('plans')
            ->whereIn('state', [PlanState::Open, PlanState::Refused, PlanState::Dropped])
            ->where('updated_at', '<=', now()->subDays($days))
            ->whereNotExists(self::changeOf(...));
    }

    private static function changeOf(Builder $change): void
    {
        $change->from('changes')->whereColumn('plan_id', 'plans.id');
    }

    private static function inParts(Builder $rows): int
    {
        $gone = 0;
        do {
            $ids = (clone $rows)->limit(self::AT_ONCE)->pluck('id');
            $gone += DB::table('plans')->whereIn('id', $ids)->delete();
        } while ($ids->count() === self::AT_ONCE);

        return $gone;
    }

    /** What a reading staged that came to no good end. */
    private static function staging(): int
    {
        $gone = 0;
        $over = DB::table('readings')->whereNotIn('state', ReadingState::open())->select('id');
        $tables = DB::table('information_schema.columns')->where('column_name', 'reading_id')
            ->whereRaw("table_schema = current_schema() and table_name like 'staged\\_%'")->pluck('table_name');
        foreach ($tables as $table) {
            $gone += DB::table((string) $table)->whereIn('reading_id', $over)->delete();
        }

        return $gone;
    }

    /** @param  list<string>  $open states of those that are under way */
    private static function history(string $table, array $open): int
    {
        $last = DB::table($table)->whereNotIn('state', $open)->groupBy('site_id')->selectRaw('max(id)');

        return DB::table($table)->whereNotIn('state', $open)->whereNotIn('id', $last)
            ->where('finished_at', '<', now()->subDays(self::HISTORY))->delete();
    }

    private static function thumbnails(): int
    {
        return count(Storage::disk('work')->allFiles('thumbs'));
    }

    private static function clearThumbnails(): int
    {
        $disk = Storage::disk('work');
        $gone = 0;
        foreach ($disk->directories('thumbs') as $folder) {
            $hashes = DB::table('files')->whereRaw('left(sha256, 2) = ?', [basename($folder)])->distinct()
                ->pluck('sha256')->flip();
            foreach ($disk->files($folder) as $path) {
                $isOver = $disk->lastModified($path) < now()->subDays(self::THUMBNAILS)->getTimestamp();
                if ($isOver && ! Part::is($path) && ! isset($hashes[substr(basename($path), 0, 64)])) {
                    $disk->delete($path);
                    $gone++;
                }
            }
        }

        return $gone;
    }
}
