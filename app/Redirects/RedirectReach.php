<?php

declare(strict_types=1);

namespace App\Redirects;

use App\Models\Plan;
use App\Models\StepState;
use App\Sites\FieldMap;
use Illuminate\Support\Facades\DB;
use Ylema\Plan\StepKind;
use Ylema\Plan\Words;
use Ylema\Redirects\Check;
use Ylema\Redirects\Ending;
use Ylema\Redirects\Entry;
use Ylema\Redirects\Verdict;

/**
 * For which addresses the redirects of a site's own table come into play at all. Most web servers give out files
 * themselves and never look into that table; nothing but asking for one that is in it tells.
 */
final readonly class RedirectReach
{
    /** Redirects that are asked for of each ending: one may be wrong for a reason of its own. */
    private const SAMPLES = 3;

    /** Endings that are told apart in one plan; what has more of them is asked after it was applied. */
    private const ENDINGS = 8;

    private const SECONDS = 5;

    public function __construct(private RedirectChecker $checker)
    {
    }

    /** @return list<string> what a plan has to say of the old addresses that it promises to lead on */
    public function notes(Plan $plan): array
    {
        $promised = $this->promised($plan);
        if ($promised === [] || FieldMap::parse($plan->site->field_map)->redirects === null) {
            // Without a table the planners themselves say that the list is for the web server.
            return [];
        }
        $unseen = $unknown = [];
        $example = null;
        foreach (array_slice($promised, 0, self::ENDINGS, true) as $ending => $count) {
            $met = $this->met($plan, (string) $ending);
            if ($met instanceof Check) {
                $unseen[$ending] = $count;
                $example ??= $met->words;
            } elseif ($met === null) {
                $unknown[$ending] = $count;
            }
        }
        foreach (array_slice($promised, self::ENDINGS, null, true) as $ending => $count) {
            $unknown[$ending] = $count;
        }

        return [
            ...$unseen === [] ? [] : [
                'The site\'s redirects do not come into play for '.self::said($unseen).': asked for one that is in '
                    ."its table, \"$example\" So hand the list to the web server (Repairs, Redirects). Until a check "
                    .'finds that they lead on, this change says that they do not.',
            ],
            ...$unknown === [] ? [] : [
                'Whether the site\'s redirects come into play for '.self::said($unknown).' is not known: none in its '
                    .'table could be asked for that is alike. Each is asked for after applying, and what does not '
                    .'lead on is said.',
            ],
        ];
    }

    /** @return array<array-key, int> ending → how many old addresses, the most first */
    private function promised(Plan $plan): array
    {
        $rows = DB::table('plan_steps')
            ->where('plan_id', $plan->id)
            ->where('kind', StepKind::Redirect->value)
            ->where('state', StepState::Proposed->value)
            ->groupBy('ending')
            ->selectRaw(self::ending("detail->>'from'").' as ending, count(*) as count')
            ->orderByDesc('count')
            ->get();
        $endings = [];
        foreach ($rows as $row) {
            $ending = Ending::of("x.$row->ending");
            $endings[$ending] = ($endings[$ending] ?? 0) + (int) $row->count;
        }

        return $endings;
    }

    /** @return Check|bool|null how one in the table fails; whether one leads on; null where none could be asked */
    private function met(Plan $plan, string $ending): Check|bool|null
    {
        $rows = DB::table('redirects')
            ->where('site_id', $plan->site_id)
            ->where('in_table', true)
            ->where('status', '<>', 410)
            ->where(static function ($alike) use ($ending): void {
                $of = self::ending('from_path');
                foreach ($ending === '' ? Ending::OF_PAGES : [$ending] as $one) {
                    $alike->orWhereRaw("$of = ?", [$one]);
                }
            })
            ->orderBy('from_path')
            ->limit(self::SAMPLES)
            ->get();
        $entries = [];
        foreach ($rows as $row) {
            $entries[] = new Entry((string) $row->from_path, (string) $row->to_address, (int) $row->status);
        }
        $missing = null;
        foreach ($entries === [] ? [] : $this->checker->ask($plan->site, $entries, self::SECONDS) as $check) {
            if ($check->verdict === Verdict::Missing && in_array($check->status, [404, 410], true)) {
                $missing = $check;
            } elseif (! in_array($check->verdict, [Verdict::Missing, Verdict::Unknown], true)) {
                return true;
            }
        }

        return $missing;
    }

    /** SQL for the ending of an address that a column holds; empty where it has none. */
    private static function ending(string $column): string
    {
        return "coalesce(lower(substring(split_part($column, '?', 1) from '".Ending::PATTERN."')), '')";
    }

    /** @param  non-empty-array<array-key, int>  $endings */
    private static function said(array $endings): string
    {
        $files = array_filter(array_keys($endings), static fn (int|string $ending): bool => $ending !== '');
        $count = array_sum($endings);

        return Words::many($count, 'old address', 'old addresses')
            .($files === [] ? ' of '.($count === 1 ? 'a page' : 'pages') : ' of files (.'.implode(', .', $files).')'
                .(isset($endings['']) ? ' and pages' : ''));
    }
}
