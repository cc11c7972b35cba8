<?php

declare(strict_types=1);

namespace App\Survey;

use App\Models\Site;
use App\Models\Survey;
use App\Models\SurveyState;
use App\Models\User;
use App\Support\WorkLock;
use Illuminate\Database\UniqueConstraintViolationException;

/** Surveys from their asking to their end: begun, stopped, taken up again. */
final readonly class Surveys
{
    /**
     * A new one; or the last one goes on where it was, if it did not come to its end and asks for the same.
     *
     * @param  list<int>|null  $pages the records that are asked for; null for all pages
     *
     * @throws AlreadySurveying
     */
    public function begin(Site $site, ?User $by, ?array $pages = null, bool $deep = false, ?int $change = null): Survey
    {
        $this->recover($site);
        $last = Survey::query()->where('site_id', $site->id)->where('change_id', $change)->orderByDesc('id')->first();
        try {
            if (
                $last !== null
                && in_array($last->state, [SurveyState::Stopped, SurveyState::Halted], true)
                && $last->pages === $pages
                && $last->deep === $deep
            ) {
                $last->update([
                    'state' => SurveyState::Waiting,
                    'stop_asked' => false,
                    'problem' => null,
                    'worked_at' => now(),
                    'totals' => [...$last->totals, 'in_a_row' => 0],
                ]);
                $survey = $last;
            } else {
                $survey = Survey::query()->create([
                    'site_id' => $site->id,
                    'state' => SurveyState::Waiting,
                    'stage' => 'pages',
                    'pages' => $pages,
                    'deep' => $deep,
                    'started_by' => $by?->id,
                    'change_id' => $change,
                    'started_at' => now(),
                    'worked_at' => now(),
                ]);
            }
        } catch (UniqueConstraintViolationException) {
            throw new AlreadySurveying();
        }
        WorkOnSurvey::dispatch($survey->id);

        return $survey->refresh();
    }

    public function stop(Survey $survey): void
    {
        Survey::query()
            ->whereKey($survey->id)
            ->whereIn('state', [SurveyState::Waiting, SurveyState::Running])
            ->update(['stop_asked' => true]);
        // One that waits for a worker has nobody who would notice.
        if (WorkLock::isFree(WorkLock::SURVEY, $survey->id)) {
            Survey::query()
                ->whereKey($survey->id)
                ->where('state', SurveyState::Waiting)
                ->update(['state' => SurveyState::Stopped]);
        }
    }

    /** @return int how many a dead worker had left, which are taken up where they were */
    public function recover(?Site $site = null): int
    {
        $count = 0;
        $rows = Survey::query()
            ->whereIn('state', [SurveyState::Waiting, SurveyState::Running])
            ->where('worked_at', '<', now()->subSeconds(60))
            ->when($site !== null, fn ($q) => $q->where('site_id', $site?->id))
            ->get();
        foreach ($rows as $survey) {
            if (WorkLock::isFree(WorkLock::SURVEY, $survey->id)) {
                $survey->update(['worked_at' => now()]);
                WorkOnSurvey::dispatch($survey->id);
                $count++;
            }
        }

        return $count;
    }
}
