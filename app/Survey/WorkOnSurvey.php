<?php

declare(strict_types=1);

namespace App\Survey;

use App\Models\Survey;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Throwable;

/** Works on a survey for a while, and hands on what is left of it, so that nothing else waits for long. */
final class WorkOnSurvey implements ShouldQueue
{
    use Queueable;

    public int $tries = 3;

    public int $timeout = 900;

    public function __construct(public readonly int $surveyId)
    {
    }

    public function handle(Surveyor $surveyor): void
    {
        $survey = Survey::query()->with('site')->find($this->surveyId);
        if ($survey !== null && $surveyor->work($survey)) {
            self::dispatch($survey->id);
        }
    }

    public function failed(?Throwable $why): void
    {
        Survey::halt(
            $this->surveyId,
            'The survey stopped on an error of its own: '
            .mb_strcut($why?->getMessage() ?? 'the worker was cut off', 0, 500)
            .' It goes on where it was when it is asked for again.',
        );
    }
}
