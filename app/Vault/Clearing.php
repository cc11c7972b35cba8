<?php

declare(strict_types=1);

namespace App\Vault;

use App\Bytes\Marks;
use App\Bytes\Place;
use App\Models\PlanState;
use App\Support\WorkLock;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;

/**
 * Takes away kept bytes that no plan, change or rest needs. Whatever any of them mentions stays, be it in a place that
 * nobody thought of: each 64 hexadecimal digits in a plan or in one of its steps count as a hash.
 */
final readonly class Clearing
{
    /** A plan that is being made keeps bytes before it says so. */
    private const DAYS = 2;

    private const SECONDS_A_DAY = 86_400;

    /** @return array{int, int} how many kept bytes went, and how much they weighed */
    public function run(): array
    {
        $lock = WorkLock::take(WorkLock::CLEARING, 0);
        if ($lock === null) {
            return [0, 0];
        }
        try {
            if (app(Marks::class)->wrong(Place::of('vault')) !== null) {
                // What another installation keeps is none of ours to clear; the status says so.
                return [0, 0];
            }
            Place::of('vault')->sweep();
            // Whoever was killed in the middle has moved what nobody asked about since.
            $this->putBack();

            return $this->isQuiet() ? $this->clear() : [0, 0];
        } finally {
            $lock->release();
        }
    }

    /** @return array{int, int} */
    private function clear(): array
    {
        $moved = [];
        $this->gatherNeeded();
        foreach (range(0, 255) as $n) {
            $folder = sprintf('%02x', $n);
            $old = $this->oldIn($folder);
            $needed = $old === [] ? [] : $this->neededIn($folder);
            foreach (array_diff_key($old, $needed) as $sha => $weight) {
                Storage::disk('vault')->move("$folder/$sha", "leaving/$sha");
                $moved[$sha] = $weight;
            }
        }
        // Asked again, now that nobody finds them any more: a plan may have been begun meanwhile.
        if (! $this->isQuiet()) {
            $this->putBack();

            return [0, 0];
        }
        $this->gatherNeeded();
        $stay = [];
        foreach (array_keys($moved) as $sha) {
            $stay[substr($sha, 0, 2)] ??= $this->neededIn(substr($sha, 0, 2));
        }
        $gone = array_diff_key($moved, ...array_values($stay));
        foreach (array_keys($gone) as $sha) {
            Storage::disk('vault')->delete("leaving/$sha");
        }
        $this->putBack();

        return [count($gone), array_sum($gone)];
    }

    private function putBack(): void
    {
        foreach (Storage::disk('vault')->files('leaving') as $path) {
            $sha = basename($path);
            Storage::disk('vault')->move($path, substr($sha, 0, 2)."/$sha");
        }
    }

    private function isQuiet(): bool
    {
        return ! DB::table('plans')->where('state', PlanState::Making)->exists();
    }

    /** @return array<string, int> hash → weight */
    private function oldIn(string $folder): array
    {
        $disk = Storage::disk('vault');
        $old = [];
        foreach ($disk->files($folder) as $path) {
            if ($disk->lastModified($path) > time() - self::DAYS * self::SECONDS_A_DAY) {
                continue;
            }
            if (preg_match('~^[0-9a-f]{64}$~D', basename($path)) === 1) {
                $old[basename($path)] = $disk->size($path);
            }
        }

        return $old;
    }

    /** Every hash that is mentioned, in a table of this connection: there are too many to ask for in each folder. */
    private function gatherNeeded(): void
    {
        DB::statement('drop table if exists pg_temp.needed_bytes');
        // The texts that an edit holds are in the journal itself; they are by far the most.
        DB::statement(
            "create temporary table needed_bytes as select distinct m[1] as sha from (
                select detail::text as said from plan_steps where kind <> 'edit-record'
                union all select outline::text from plans
                union all select request::text from plans
                union all select sha256 from foreign_files where sha256 is not null
            ) as t, lateral regexp_matches(said, '([0-9a-f]{64})', 'g') as m",
        );
        DB::statement('create index on pg_temp.needed_bytes (left(sha, 2))');
    }

    /** @return array<string, true> */
    private function neededIn(string $folder): array
    {
        $shas = DB::table('needed_bytes')->whereRaw('left(sha, 2) = ?', [$folder])->pluck('sha')->all();

        return array_fill_keys(array_map(strval(...), $shas), true);
    }
}
