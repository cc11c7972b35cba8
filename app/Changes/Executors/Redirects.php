<?php

declare(strict_types=1);

namespace App\Changes\Executors;

use App\Sites\OpenSite;
use App\Sites\RedirectPlace;
use Illuminate\Support\Facades\DB;
use LogicException;
use stdClass;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;
use Ylema\Plan\Steps\DropRedirect;
use Ylema\Plan\Steps\Redirect;
use Ylema\Sites\SourceRedirect;

/**
 * Redirects: in the site's own table where its field map names one, and always in the list that is handed to the web
 * server.
 */
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
        $there = $this->there($site, $step->from);
        if ($there === null) {
            return $step instanceof Redirect ? Now::Before : Now::After;
        }
        $isSame = $there->status === $step->status
            && ($there->to === $step->to
                || (RedirectPlace::key($site->addresses, $there->to) ?? $there->to)
                    === (RedirectPlace::key($site->addresses, $step->to) ?? $step->to));

        return match (true) {
            ! $isSame => Now::Other,
            default => $step instanceof Redirect ? Now::After : Now::Before,
        };
    }

    protected function carryOut(OpenSite $site, Step $step): ?Step
    {
        $inTable = $site->content->keepsRedirects();
        if ($step instanceof Redirect) {
            if ($inTable) {
                $from = RedirectPlace::spellings($site->addresses, $step->from)[0];
                $site->content->addRedirect(new SourceRedirect($from, $step->to, $step->status));
            }
            DB::table('redirects')->updateOrInsert(
                ['site_id' => $site->id, 'from_path' => $step->from],
                [
                    'to_address' => $step->to,
                    'to_path' => RedirectPlace::key($site->addresses, $step->to),
                    'status' => $step->status,
                    'in_table' => $inTable,
                    'is_new' => true,
                    'verdict' => null,
                    'words' => null,
                ],
            );
        } elseif ($step instanceof DropRedirect) {
            if ($inTable) {
                $spellings = RedirectPlace::spellings($site->addresses, $step->from);
                foreach ($site->content->redirectsFrom($spellings) as $there) {
                    $site->content->removeRedirect($there);
                }
            }
            DB::table('redirects')->where('site_id', $site->id)->where('from_path', $step->from)->delete();
        }

        return null;
    }

    protected function otherwise(Step $step, bool $back): string
    {
        return "Visitors of {$step->title()} are sent elsewhere already, so that was left as it is.";
    }

    /** What sends visitors of an address on now. */
    private function there(OpenSite $site, string $from): ?SourceRedirect
    {
        if ($site->content->keepsRedirects()) {
            return $site->content->redirectsFrom(RedirectPlace::spellings($site->addresses, $from))[0] ?? null;
        }
        $row = DB::table('redirects')->where('site_id', $site->id)->where('from_path', $from)->first();

        return $row instanceof stdClass
            ? new SourceRedirect((string) $row->from_path, (string) $row->to_address, (int) $row->status)
            : null;
    }
}
