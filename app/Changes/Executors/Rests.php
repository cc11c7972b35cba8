<?php

declare(strict_types=1);

namespace App\Changes\Executors;

use App\Archive\Bags;
use App\Archive\BagTrouble;
use App\Rest\RestStore;
use App\Rest\RestTrouble;
use App\Sites\OpenSite;
use App\Support\BulkRows;
use App\Support\Sql;
use Illuminate\Support\Facades\DB;
use LogicException;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;
use Ylema\Plan\Steps\RestFile;
use Ylema\Plan\Steps\WakeFile;
use Ylema\Sites\FileMissing;
use Ylema\Sites\FileState;
use Ylema\Sites\WriteRefused;

/**
 * Files laid to rest and woken. A row says what rests before its file leaves the public tree, and goes only after the
 * file is back, so that wherever a process is killed, the file is in one of two places and the row says which.
 */
final readonly class Rests implements Executor
{
    public function __construct(private RestStore $rest, private Bags $bags)
    {
    }

    public function kinds(): array
    {
        return [StepKind::RestFile, StepKind::WakeFile];
    }

    public function complete(OpenSite $site, array $steps, array $made): array
    {
        return [];
    }

    public function forward(OpenSite $site, array $steps): array
    {
        return $this->carryOut($site, self::own($steps));
    }

    public function ways(OpenSite $site, array $steps, array $noted): array
    {
        return [];
    }

    public function back(OpenSite $site, array $steps, array $ways = []): array
    {
        return $this->carryOut($site, self::own(array_map(static fn (Step $step): Step => $step->inverse(), $steps)));
    }

    public function now(OpenSite $site, array $steps): array
    {
        $own = self::own($steps);
        $resting = $this->resting($site->id, $own);

        return array_map(
            fn (RestFile|WakeFile $step): Now => $this->look(
                $site,
                $step,
                isset($resting[self::name($step)]),
                $site->files->state($step->place()),
            ),
            $own,
        );
    }

    /**
     * @param  array<int, RestFile|WakeFile>  $steps
     * @return array<int, Result>
     */
    private function carryOut(OpenSite $site, array $steps): array
    {
        $resting = $this->resting($site->id, $steps);
        $results = $todo = $as = [];
        foreach ($steps as $i => $step) {
            try {
                $lies = $site->files->state($step->place());
                $as[$i] = $step instanceof RestFile ? $lies : $resting[self::name($step)] ?? null;
                $now = $this->look($site, $step, isset($resting[self::name($step)]), $lies);
            } catch (WriteRefused $e) {
                $results[$i] = Result::refused($e->getMessage());

                continue;
            }
            match ($now) {
                Now::Other => ($results[$i] = Result::refused(self::otherwise($step))),
                Now::After => ($results[$i] = Result::done()),
                Now::Before => ($todo[$i] = $step),
            };
        }
        $this->announce(
            $site->id,
            array_filter($todo, static fn (Step $own): bool => $own instanceof RestFile),
            array_filter($as),
        );
        $gone = [];
        foreach ($todo as $i => $step) {
            try {
                $step instanceof RestFile
                    ? $this->rest->take($site, $step->place(), $step->path, $step->file)
                    : $this->wake($site, $step, $as[$i] ?? $step->file);
                $results[$i] = Result::done();
            } catch (RestTrouble|BagTrouble|WriteRefused|FileMissing $e) {
                $results[$i] = Result::refused($e->getMessage());
                if ($step instanceof RestFile && ! isset($resting[self::name($step)])) {
                    $gone[] = $step;
                }
            }
        }
        foreach ($steps as $i => $step) {
            if ($step instanceof WakeFile && ($results[$i] ?? null)?->why === null) {
                if (! isset($todo[$i])) {
                    // The same bytes came back by another way.
                    $this->rest->drop($site->id, $step->path, $step->file);
                }
                $gone[] = $step;
            }
        }
        $this->forget($site->id, $gone);
        ksort($results);

        return $results;
    }

    /**
     * @param  FileState  $as the mode, owner and time that it had
     *
     * @throws RestTrouble|BagTrouble
     */
    private function wake(OpenSite $site, WakeFile $step, FileState $as): void
    {
        if (! $this->rest->has($site->id, $step->path, $step->file)) {
            $this->bags->fetch($site->id, $step->path, $step->file);
        }
        $this->rest->give($site, $step->path, $as, $step->place());
    }

    private function look(OpenSite $site, RestFile|WakeFile $step, bool $isSaid, ?FileState $there): Now
    {
        $lies = $there?->sha256;
        $rests = $isSaid && $this->rest->has($site->id, $step->path, $step->file);
        if ($lies !== null && $lies !== $step->file->sha256) {
            return Now::Other;
        }

        return $step instanceof RestFile
            ? ($lies === null
                ? ($rests
                    ? Now::After
                    : Now::Other)
                : Now::Before)
            : ($lies === null
                ? ($rests || $this->bags->has($site->id, $step->path, $step->file)
                    ? Now::Before
                    : Now::Other)
                : Now::After);
    }

    /**
     * @param  array<int, RestFile>  $steps
     * @param  array<int, FileState>  $as what lies there, with its mode, owner and time
     */
    private function announce(int $site, array $steps, array $as): void
    {
        if ($steps === []) {
            return;
        }
        $rows = array_map(
            fn (RestFile $step, int $i): array => [
                'path' => $step->path,
                'sha256' => $step->file->sha256,
                'size' => $step->file->size,
                'file' => ($as[$i] ?? $step->file)->toArray(),
                'item' => $step->with->item === '' ? $step->path : $step->with->item,
                'title' => $step->with->title,
                'mime' => $step->with->mime,
                'width' => $step->with->pixels?->width,
                'height' => $step->with->pixels?->height,
                'row' => $step->with->row?->toArray(),
                'proof' => $step->with->proof,
                'until' => $step->until,
            ],
            $steps,
            array_keys($steps),
        );
        DB::insert(
            <<<'SQL'
            insert into resting_files as f (site_id, path, sha256, size, file, item, title, mime, width, height, "row",
                proof, until, rested_at)
            select cast(? as bigint), v.path, v.sha256, v.size, v.file, v.item, v.title, v.mime, v.width, v.height,
                v."row", v.proof, v.until, now()
            from jsonb_to_recordset(cast(? as jsonb)) as v(path text, sha256 text, size bigint, file jsonb, item text,
                title text, mime text, width integer, height integer, "row" jsonb, proof jsonb, until date)
            on conflict (site_id, path, sha256) do update set file = excluded.file, until = excluded.until,
                rested_at = excluded.rested_at, "row" = excluded."row", called_at = null,
                called_by = null
            SQL
            ,
            [$site, BulkRows::json($rows)],
        );
    }

    /**
     * @param  array<int, RestFile|WakeFile>  $steps
     * @return array<string, FileState> those that a row says rest, as they lay
     */
    private function resting(int $site, array $steps): array
    {
        $rows = DB::table('resting_files')
            ->where('site_id', $site)
            ->whereRaw('path = any(cast(? as text[]))', [
                Sql::texts(array_values(array_map(static fn (RestFile|WakeFile $s): string => $s->path, $steps))),
            ])
            ->get(['path', 'sha256', 'file']);
        $names = [];
        foreach ($rows as $row) {
            $data = json_decode((string) $row->file, true);
            $names["$row->path\0".trim((string) $row->sha256)] = FileState::fromArray(is_array($data) ? $data : []);
        }

        return $names;
    }

    /** @param  list<RestFile|WakeFile>  $steps */
    private function forget(int $site, array $steps): void
    {
        if ($steps === []) {
            return;
        }
        $paths = Sql::texts(array_map(static fn (RestFile|WakeFile $s): string => $s->path, $steps));
        // Found by their paths, whatever the database believes of a table that grows and shrinks by the minute.
        DB::delete(
            <<<'SQL'
            delete from resting_files f where f.site_id = ? and f.path = any(cast(? as text[])) and exists (
                select 1 from unnest(cast(? as text[]), cast(? as text[])) as v(p, s) where v.p = f.path
                    and v.s = f.sha256)
            SQL
            ,
            [
                $site,
                $paths,
                $paths,
                Sql::texts(array_map(static fn (RestFile|WakeFile $s): string => $s->file->sha256, $steps)),
            ],
        );
    }

    private static function name(RestFile|WakeFile $step): string
    {
        return "$step->path\0{$step->file->sha256}";
    }

    private static function otherwise(RestFile|WakeFile $step): string
    {
        return $step instanceof RestFile
            ? "At {$step->place()} lies another file now, or none, so nothing was laid to rest there."
            : "At {$step->place()} lies another file now, or its bytes rest no more, so it was left as it is.";
    }

    /**
     * @param  array<int, Step>  $steps
     * @return array<int, RestFile|WakeFile>
     */
    private static function own(array $steps): array
    {
        return array_map(
            static fn (Step $step): RestFile|WakeFile => $step instanceof RestFile || $step instanceof WakeFile
                ? $step
                : throw new LogicException("{$step->kind()->value} is no step with a resting file."),
            $steps,
        );
    }
}
