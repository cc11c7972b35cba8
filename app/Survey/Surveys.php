<?php

declare(strict_types=1);

namespace App\Survey;

use App\Models\Site;
use App\Models\Survey;
use App\Models\User;
use App\Models\WorkState;
use Illuminate\Database\UniqueConstraintViolationException;

/** Surveys are begun, and taken up again where a dead worker left them. */
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
                && in_array($last->state, [WorkState::Stopped, WorkState::Halted], true)
                && $last->pages === $pages
                && $last->deep === $deep
            ) {
                $last->update([
                    'state' => WorkState::Waiting,
                    'stop_asked' => false,
                    'problem' => null,
                    'worked_at' => now(),
                    'totals' => [...$last->totals, 'in_a_row' => 0],
                ]);
                $survey = $last;
            } else {
                $survey = Survey::query()->create([
                    'site_id' => $site->id,
                    'state' => WorkState::Waiting,
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

    /** @return int how many a dead worker had left, which are taken up where they were */
    public function recover(?Site $site = null): int
    {
        $left = Survey::claimLeft(60, $site);
        foreach ($left as $survey) {
            WorkOnSurvey::dispatch($survey->id);
        }

        return $left->count();
    }
}
