<?php

declare(strict_types=1);

namespace App\Changes\Executors;

use App\Sites\OpenSite;
use Illuminate\Support\Facades\DB;
use LogicException;
use stdClass;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;
use Ylema\Plan\Steps\DropRedirect;
use Ylema\Plan\Steps\Redirect;

/** Redirects, in the list that is handed to the web server. */
final class Redirects extends OneByOne
{
    public function kinds(): array
    {
        return [StepKind::Redirect, StepKind::DropRedirect];
    }

    protected function look(OpenSite $site, Step $step): Now
    {
        if (! $step instanceof Redirect && ! $step instanceof DropRedirect) {
            throw new LogicException("{$step->kind()->value} is no step with a redirect.");
        }
        $row = DB::table('redirects')->where('site_id', $site->id)->where('from_path', $step->from)->first();
        $same = $row instanceof stdClass && $row->to_address === $step->to && (int) $row->status === $step->status;

        return match (true) {
            $row === null => $step instanceof Redirect ? Now::Before : Now::After,
            ! $same => Now::Other,
            default => $step instanceof Redirect ? Now::After : Now::Before,
        };
    }

    protected function carryOut(OpenSite $site, Step $step): ?Step
    {
        if ($step instanceof Redirect) {
            DB::table('redirects')->insertOrIgnore([
                'site_id' => $site->id,
                'from_path' => $step->from,
                'to_address' => $step->to,
                'status' => $step->status,
            ]);
        } elseif ($step instanceof DropRedirect) {
            DB::table('redirects')
                ->where('site_id', $site->id)
                ->where('from_path', $step->from)
                ->where('to_address', $step->to)
                ->delete();
        }

        return null;
    }

    protected function otherwise(Step $step, bool $back): string
    {
        return "Visitors of {$step->title()} are sent elsewhere already, so that was left as it is.";
    }
}
