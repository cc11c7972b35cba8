<?php

declare(strict_types=1);

namespace App\Changes\Executors;

use App\Sites\OpenSite;
use App\Vault\Vault;
use Illuminate\Support\Facades\DB;
use LogicException;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;
use Ylema\Plan\Steps\RestFile;
use Ylema\Plan\Steps\WakeFile;

/** Files laid to rest and woken: their bytes in the vault, a line that says until when, nothing in the public tree. */
final class Rests extends OneByOne
{
    public function __construct(private readonly Vault $vault)
    {
    }

    public function kinds(): array
    {
        return [StepKind::RestFile, StepKind::WakeFile];
    }

    protected function look(OpenSite $site, Step $step): Now
    {
        [$path, $file] = match (true) {
            $step instanceof RestFile, $step instanceof WakeFile => [$step->path, $step->file],
            default => throw new LogicException("{$step->kind()->value} is no step with a resting file."),
        };
        $lies = $site->files->state($path)?->sha256;
        $rests = DB::table('resting_files')->where('site_id', $site->id)->where('path', $path)->exists();
        $isOut = $lies === $file->sha256;

        return match (true) {
            // Between taking the file away and noting it down, either way, a killed process leaves one of these.
            $step instanceof RestFile => $lies === null
                ? ($rests
                    ? Now::After
                    : ($this->vault->has($file->sha256)
                        ? Now::Before
                        : Now::Other))
                : ($isOut
                    ? Now::Before
                    : Now::Other),
            default => $lies === null ? Now::Before : ($isOut ? ($rests ? Now::Before : Now::After) : Now::Other),
        };
    }

    protected function carryOut(OpenSite $site, Step $step): ?Step
    {
        if ($step instanceof RestFile) {
            if (! $this->vault->has($step->file->sha256)) {
                $this->vault->put($site->files->read($step->path));
            }
            // Its bytes are kept and can be read before it leaves the public tree.
            $this->vault->get($step->file->sha256);
            DB::table('resting_files')->updateOrInsert(
                ['site_id' => $site->id, 'path' => $step->path],
                [
                    'file' => json_encode($step->file->toArray(), JSON_THROW_ON_ERROR),
                    'until' => $step->until,
                    'rested_at' => now(),
                ],
            );
            $site->files->delete($step->path);
        } elseif ($step instanceof WakeFile) {
            if (! $site->files->exists($step->path)) {
                $site->files->write($step->path, $this->vault->get($step->file->sha256), $step->file);
            }
            DB::table('resting_files')->where('site_id', $site->id)->where('path', $step->path)->delete();
        }

        return null;
    }

    protected function otherwise(Step $step, bool $back): string
    {
        return "At {$step->title()} lies another file now, so it was left as it is.";
    }
}
