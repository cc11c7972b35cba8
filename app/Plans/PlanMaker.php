<?php

declare(strict_types=1);

namespace App\Plans;

use App\Media\Uploads;
use App\Models\Plan;
use App\Models\PlanState;
use App\Models\StepState;
use App\Redirects\RedirectReach;
use App\Sites\SiteOpener;
use App\Support\BulkRows;
use App\Support\OwnDatabase;
use App\Support\Sql;
use App\Usage\Touched;
use App\Usage\UsageIndex;
use App\Vault\Vault;
use Illuminate\Support\Facades\DB;
use Throwable;
use Ylema\Failure;
use Ylema\Plan\Outline;
use Ylema\Plan\Picture;
use Ylema\Plan\Planner;
use Ylema\Plan\Refused;
use Ylema\Plan\Step;
use Ylema\Plan\Steps\EditRecord;
use Ylema\Plan\Waiting;

/**
 * Lets a planner run and keeps what it yields: the steps in bulk, progress on the way, and what the plan says of
 * itself.
 */
final readonly class PlanMaker
{
    /** How many of the pages that a plan reaches are kept with their names. */
    private const PAGES = 200;

    private const COLUMNS = [
        'plan_id',
        'position',
        'kind',
        'title',
        'record_kind',
        'record_key',
        'path',
        'detail',
        'state',
        'message',
        'gives',
        'needs',
    ];

    public function __construct(
        private SiteOpener $opener,
        private Vault $vault,
        private Uploads $uploads,
        private LostFiles $lost,
        private RedirectReach $reach,
    ) {
    }

    public function make(Plan $plan, Planner $planner): void
    {
        try {
            $site = $this->opener->open($plan->site);
            $expect = static function (int $expected) use ($plan): void {
                Plan::query()
                    ->whereKey($plan->id)
                    ->update(['expected' => $expected]);
            };
            $facts = new SiteFacts($site, $plan->id, $this->vault, $this->uploads, $this->lost, $expect);
            DB::table('plan_steps')->where('plan_id', $plan->id)->delete();
            $outline = $this->steps($plan, $planner, $facts);
            $facts->close();
            $this->ready($plan, $outline);
        } catch (Failure $e) {
            $this->refuse($plan, $e->getMessage());
        } catch (Throwable $e) {
            report($e);
            $this->refuse(
                $plan,
                OwnDatabase::says($e) ?? 'The plan could not be made, by a fault of Ylema that is in its log. Nothing '
                    .'was written; ask for it again.',
            );
        }
    }

    private function steps(Plan $plan, Planner $planner, SiteFacts $facts): Outline
    {
        $rows = new BulkRows('plan_steps', self::COLUMNS);
        $position = 0;
        $waiting = new Waiting();
        $steps = $planner->plan($facts);
        foreach ($steps as $proposed) {
            [$step, $why] = $proposed instanceof Refused ? [$proposed->step, $proposed->why] : [$proposed, null];
            $why = $waiting->met($step, $why);
            $rows->add(self::row($plan->id, $position++, $step, $why));
            if ($position % 1000 === 0) {
                $rows->flush();
                Plan::query()
                    ->whereKey($plan->id)
                    ->update(['made' => $position]);
            }
        }
        $rows->flush();

        return $steps->getReturn();
    }

    /** @return list<scalar|array<mixed>|null> */
    private static function row(int $plan, int $position, Step $step, ?string $why): array
    {
        $detail = $step->toArray();
        $record = $step instanceof EditRecord ? $step : null;
        $path = $record === null ? $detail['path'] ?? ($detail['to'] ?? null) : null;

        return [
            $plan,
            $position,
            $step->kind()->value,
            $step->title(),
            $record?->record,
            $record?->key,
            is_string($path) ? $path : null,
            $detail,
            $why === null ? StepState::Proposed->value : StepState::LeftOut->value,
            $why,
            $step->gives(),
            $step->needs() === [] ? null : Sql::texts($step->needs()),
        ];
    }

    private function ready(Plan $plan, Outline $outline): void
    {
        [$count, $pages] = $this->pages($plan);
        $counts = ['pages' => $count];
        $states = DB::table('plan_steps')
            ->where('plan_id', $plan->id)
            ->groupBy('state')
            ->selectRaw('state, count(*) as count')
            ->get();
        foreach ($states as $row) {
            $counts[(string) $row->state] = (int) $row->count;
        }
        $open = Plan::query()
            ->whereKey($plan->id)
            ->where('state', PlanState::Making)
            ->update([
                'state' => PlanState::Open,
                'title' => $outline->title,
                'sentence' => $outline->sentence,
                'counts' => json_encode($counts),
                'pages' => json_encode($pages),
                'made' => array_sum($counts) - $count,
                'outline' => json_encode(
                    [
                        'notes' => [...$outline->notes, ...$this->reach->notes($plan), ...OtherSites::notes($plan)],
                        'bench' => $outline->bench,
                        'boxes' => array_map(get_object_vars(...), $outline->boxes),
                        'expectation' => $outline->expectation->toArray(),
                        'pictures' => array_map(
                            static fn (Picture $p): array => [
                                'label' => $p->label,
                                'item' => $p->item,
                                'words' => $p->words,
                                'sha256' => $p->file?->sha256,
                                'type' => $p->file?->extension,
                                'width' => $p->file?->pixels?->width,
                                'height' => $p->file?->pixels?->height,
                                'weight' => $p->file?->weight,
                            ],
                            $outline->pictures,
                        ),
                    ],
                    JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE,
                ),
            ]);
        if ($open === 0) {
            // Somebody dropped it while it was made.
            DB::table('plan_steps')->where('plan_id', $plan->id)->delete();
        }
    }

    /**
     * The public pages on which a visitor meets what the plan touches: the records that it edits, and those that show
     * the files that it writes.
     *
     * @return array{int, list<array{id: int, title: string, address: string}>}
     */
    private function pages(Plan $plan): array
    {
        return (new UsageIndex($plan->site_id))->named(Touched::by($plan->site_id, $plan->id), self::PAGES);
    }

    private function refuse(Plan $plan, string $why): void
    {
        DB::table('plan_steps')->where('plan_id', $plan->id)->delete();
        Plan::query()
            ->whereKey($plan->id)
            ->where('state', PlanState::Making)
            ->update(['state' => PlanState::Refused, 'problem' => $why]);
    }
}
