<?php

declare(strict_types=1);

namespace App\Redirects;

use App\Models\Site;
use App\Outgoing\HostNames;
use App\Outgoing\Question;
use App\Outgoing\Visit;
use App\Outgoing\Visitor;
use App\Support\BulkRows;
use Illuminate\Support\Facades\DB;
use Ylema\Redirects\Check;
use Ylema\Redirects\Entry;

/** Asks old addresses, and notes down whether their redirects lead where the list says. */
final readonly class RedirectChecker
{
    private const BATCH = 48;

    /** Old addresses that are asked in one check; whoever asks is told how many were left out. */
    private const MOST = 20_000;

    public const LEFT_OUT = 'left-out';

    private const LARGEST = 8 * 1024 * 1024;

    private const SECONDS = 10;

    public function __construct(private HostNames $names)
    {
    }

    /** @return array<string, int> verdict → how many; under `left-out` those of a long list that were not asked */
    public function check(Site $site): array
    {
        $counts = [];
        $after = '';
        for ($asked = 0; $asked < self::MOST; $asked += self::BATCH) {
            $rows = DB::table('redirects')
                ->where('site_id', $site->id)
                ->where('from_path', '>', $after)
                ->orderBy('from_path')
                ->limit(self::BATCH)
                ->get()
                ->all();
            if ($rows === []) {
                break;
            }
            $entries = [];
            foreach ($rows as $row) {
                $after = (string) $row->from_path;
                $entries[] = new Entry($after, (string) $row->to_address, (int) $row->status);
            }
            foreach ($this->ask($site, $entries) as $check) {
                $counts[$check->verdict->value] = ($counts[$check->verdict->value] ?? 0) + 1;
            }
        }
        $left = DB::table('redirects')->where('site_id', $site->id)->count() - array_sum($counts);

        return $left > 0 ? [...$counts, self::LEFT_OUT => $left] : $counts;
    }

    /**
     * @param  list<Entry>  $entries
     * @param  int  $seconds until an answer is given up
     * @return array<int, Check> by the number of the entry; noted down as well
     */
    public function ask(Site $site, array $entries, int $seconds = self::SECONDS): array
    {
        $addresses = $site->addresses();
        $visitor = new Visitor($site, $this->names, self::LARGEST, $seconds, $site->at_once, $site->pause);
        $questions = array_map(
            static fn (Entry $entry): Question => new Question($addresses->addressOfPage($entry->from)),
            $entries,
        );
        $noted = [];
        $visitor->visit($questions, function (int $i, Visit $visit) use ($entries, $addresses, &$noted): void {
            $noted[$i] = $this->judge($entries[$i], $visit, (string) $addresses->locate($entries[$i]->to)?->url);
        });
        ksort($noted);
        foreach (array_chunk($noted, self::BATCH, true) as $batch) {
            $said = [];
            foreach ($batch as $i => $check) {
                $said[] = [
                    'f' => $entries[$i]->from, 't' => $entries[$i]->to, 'v' => $check->verdict->value,
                    'w' => $check->words,
                ];
            }
            DB::update(
                <<<'SQL'
                update redirects d set verdict = c.v, words = c.w, checked_at = now()
                from jsonb_to_recordset(cast(? as jsonb)) as c(f text, t text, v text, w text)
                where d.site_id = ? and d.from_path = c.f and d.to_address = c.t
                SQL
                ,
                [BulkRows::json($said), $site->id],
            );
        }

        return $noted;
    }

    private function judge(Entry $entry, Visit $visit, string $expected): Check
    {
        $steps = $visit->steps;
        $last = $steps === [] ? null : $steps[count($steps) - 1];
        $location = $visit->header('Location');
        if ($last !== null && $location !== null && Check::sendsOn($last[1])) {
            $next = Visitor::resolved($last[0], $location);
            // Round in a circle, or out of the site, where nobody was allowed to ask.
            if ($next !== null && in_array($next, array_column($steps, 0), true)) {
                $steps[] = [$next, $last[1]];
            } elseif ($next !== null) {
                $steps[] = [$next, 0];
            }
        }

        return Check::judge($entry, $steps, $expected, $visit->problem);
    }
}
