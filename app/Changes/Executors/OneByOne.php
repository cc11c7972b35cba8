<?php

declare(strict_types=1);

namespace App\Changes\Executors;

use App\Sites\OpenSite;
use App\Vault\VaultTrouble;
use Ylema\Plan\Step;
use Ylema\Sites\FileMissing;
use Ylema\Sites\RecordChanged;
use Ylema\Sites\SourceUnavailable;
use Ylema\Sites\WriteRefused;

/** For steps that no source takes in batches: there are few of them, and each looks first at what is there. */
abstract class OneByOne implements Executor
{
    public function complete(OpenSite $site, array $steps, array $made): array
    {
        return [];
    }

    public function forward(OpenSite $site, array $steps): array
    {
        return array_map(fn (Step $step): Result => $this->attempt($site, $step, false), $steps);
    }

    public function ways(OpenSite $site, array $steps, array $noted): array
    {
        return [];
    }

    public function back(OpenSite $site, array $steps, array $ways = []): array
    {
        return array_map(function (Step $step) use ($site): Result {
            $result = $this->attempt($site, $step->inverse(), true);

            // What the way back learnt is of the inverse, not of the step that the journal keeps.
            return $result->why === null ? Result::done() : $result;
        }, $steps);
    }

    public function now(OpenSite $site, array $steps): array
    {
        return array_map(fn (Step $step): Now => $this->look($site, $step), $steps);
    }

    /** @throws SourceUnavailable|WriteRefused */
    abstract protected function look(OpenSite $site, Step $step): Now;

    /**
     * Only called where all is as the step expects it.
     *
     * @return Step|null see Result::$step
     *
     * @throws SourceUnavailable|WriteRefused|RecordChanged|FileMissing|VaultTrouble|CannotCarryOut
     */
    abstract protected function carryOut(OpenSite $site, Step $step): ?Step;

    /** What to say where somebody else was there. */
    abstract protected function otherwise(Step $step, bool $back): string;

    private function attempt(OpenSite $site, Step $step, bool $back): Result
    {
        try {
            $now = $this->look($site, $step);
            if ($now === Now::Other) {
                return Result::refused($this->otherwise($step, $back));
            }

            return Result::done($now === Now::After ? $this->found($site, $step) : $this->carryOut($site, $step));
        } catch (WriteRefused|FileMissing|VaultTrouble|CannotCarryOut $e) {
            return Result::refused($e->getMessage());
        } catch (RecordChanged) {
            return Result::refused($this->otherwise($step, $back));
        }
    }

    /** The step with what a process that was killed could not note down. */
    protected function found(OpenSite $site, Step $step): ?Step
    {
        return null;
    }
}
