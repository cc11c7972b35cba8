<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Changes\Journal;
use App\Changes\Verification;
use App\Http\Resources\PlanView;
use App\Models\Change;
use App\Models\Site;
use App\Models\StepState;
use App\Models\Survey;
use App\Models\User;
use App\Survey\SurveyReport;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use stdClass;

final class ChangeController
{
    /** What still does not load, as far as a person reads on. */
    private const FAILING = 20;

    /** Later changes on one that are named. */
    private const STANDING = 20;

    public function __construct(private readonly Journal $journal)
    {
    }

    public function index(Request $request, Site $site): JsonResponse
    {
        $request->validate(['before' => ['nullable', 'integer', 'min:1', 'max:9007199254740991']]);
        $changes = $site
            ->changes()
            ->with(['author', 'undoer'])
            ->when($request->filled('before'), fn ($q) => $q->where('id', '<', $request->integer('before')))
            ->orderByDesc('id')
            ->limit(100)
            // A verification names each page that was looked at; of each change no more than its counts is shown here.
            ->get([
                '*',
                DB::raw("jsonb_build_object('stale', verification->'stale', 'unkept', verification->'unkept') "
                    .'as verification'),
            ]);

        return new JsonResponse(['changes' => $changes->map(self::row(...))->all()]);
    }

    public function show(Site $site, Change $change): JsonResponse
    {
        $change->load(['author', 'undoer', 'plan']);

        return new JsonResponse([
            ...self::row($change),
            ...PlanView::outline($change->plan),
            'pages' => $change->plan->pages,
            'verification' => Verification::of($change),
            'stop_asked' => $change->stop_asked,
            'stands_on' => self::standsOn($change),
            'survey' => self::survey($site, $change),
        ]);
    }

    public function undo(Request $request, Site $site, Change $change): JsonResponse
    {
        $asked = $request->validate(['with_later' => ['nullable', 'boolean']]);
        $user = $request->user();
        $by = $user instanceof User ? $user : null;

        $hasLater = ($asked['with_later'] ?? false) === true;

        return self::accepted(
            $hasLater ? $this->journal->undoWithLater($change, $by) : $this->journal->undo($change, $by),
        );
    }

    public function stop(Site $site, Change $change): JsonResponse
    {
        return self::accepted($this->journal->stop($change));
    }

    public function goOn(Site $site, Change $change): JsonResponse
    {
        return self::accepted($this->journal->goOn($change));
    }

    public function retry(Site $site, Change $change): JsonResponse
    {
        return self::accepted($this->journal->retry($change));
    }

    /** Looks at the public pages again: at a sample at once, or at all that the change reaches by a worker. */
    public function verify(Request $request, Site $site, Change $change, Verification $verification): JsonResponse
    {
        $asked = $request->validate(['whole' => ['nullable', 'boolean']]);
        if (($asked['whole'] ?? false) === true) {
            return self::accepted($this->journal->askTheRest($change));
        }
        $verification->look($change);

        return new JsonResponse(['verification' => Verification::of($change->refresh())]);
    }

    public function purge(Site $site, Change $change, Verification $verification): JsonResponse
    {
        $asked = $verification->purge($change);

        return new JsonResponse(['asked' => $asked, 'verification' => Verification::of($change->refresh())]);
    }

    /** @return array<string, mixed>|null what the survey of the pages that it touches showed */
    private static function survey(Site $site, Change $change): ?array
    {
        $survey = Survey::query()->where('change_id', $change->id)->orderByDesc('id')->first();
        if ($survey === null) {
            return null;
        }
        $report = new SurveyReport($site, $survey->pages);

        return [
            'state' => $survey->state->value,
            'problem' => $survey->problem,
            'sentence' => $survey->state->isOpen() ? '' : $report->sentence(),
            'failing' => $survey->state->isOpen() ? [] : $report->failing(0, self::FAILING)['rows'],
        ];
    }

    /** @return list<array<string, mixed>> later changes of ours because of which steps were kept, the newest first */
    private static function standsOn(Change $change): array
    {
        return array_values(DB::table('plan_steps as s')
            ->join('changes as c', 'c.id', '=', 's.stands_on')
            ->where('s.plan_id', $change->plan_id)
            ->where('s.state', StepState::Kept->value)
            ->groupBy('c.id', 'c.title')
            ->orderByDesc('c.id')
            ->limit(self::STANDING)
            ->get(['c.id', 'c.title', DB::raw('count(*) as steps')])
            ->map(static fn (stdClass $row): array => [
                'id' => (int) $row->id, 'title' => (string) $row->title, 'steps' => (int) $row->steps,
            ])
            ->all());
    }

    private static function accepted(Change $change): JsonResponse
    {
        return new JsonResponse(['change' => $change->id], 202);
    }

    /** @return array<string, mixed> */
    private static function row(Change $change): array
    {
        return [
            'id' => $change->id,
            'plan_id' => $change->plan_id,
            'kind' => $change->kind,
            'state' => $change->state->value,
            'title' => $change->title,
            'sentence' => $change->sentence,
            'reason' => $change->reason,
            'counts' => (object) $change->counts,
            'by' => $change->author?->name,
            'undone_by' => $change->undoer?->name,
            'made_at' => $change->created_at->toIso8601String(),
            'applied_at' => $change->applied_at?->toIso8601String(),
            'undone_at' => $change->undone_at?->toIso8601String(),
            'stale' => $change->verification['stale'] ?? null,
            'unkept' => $change->verification['unkept'] ?? null,
        ];
    }
}
