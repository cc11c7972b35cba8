<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Site;
use App\Models\Survey;
use App\Models\User;
use App\Outgoing\DeepVisitor;
use App\Survey\SurveyReport;
use App\Survey\Surveys;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** Surveys of the public site, and what they showed. */
final readonly class SurveyController
{
    public function __construct(private Surveys $surveys)
    {
    }

    public function show(Site $site): JsonResponse
    {
        $last = Survey::query()->where('site_id', $site->id)->whereNull('change_id')->orderByDesc('id')->first();

        return new JsonResponse([
            'survey' => $last === null ? null : self::survey($last),
            'browser' => DeepVisitor::isThere(),
            'expected' => $site->records()->where('is_page', true)->where('state', 0)->count(),
            'figures' => $site->surveyed['figures'] ?? SurveyReport::NONE,
            'sentence' => $site->surveyed['sentence'] ?? 'No survey came to its end yet.',
        ]);
    }

    public function store(Request $request, Site $site): JsonResponse
    {
        $request->validate(['deep' => ['nullable', 'boolean']]);
        $user = $request->user();
        $survey = $this->surveys->begin(
            $site,
            $user instanceof User ? $user : null,
            deep: $request->boolean('deep'),
        );

        return new JsonResponse(self::survey($survey), 202);
    }

    public function destroy(Site $site, int $survey): JsonResponse
    {
        $own = Survey::query()->where('site_id', $site->id)->findOrFail($survey);
        $own->stop();

        return new JsonResponse(self::survey($own->refresh()));
    }

    /** One of the lists, page by page. */
    public function list(Request $request, Site $site, string $list): JsonResponse
    {
        $request->validate([
            'offset' => ['nullable', 'integer', 'min:0', 'max:10000000'],
            'limit' => ['nullable', 'integer', 'min:1', 'max:200'],
        ]);
        $report = new SurveyReport($site);
        $offset = $request->integer('offset');
        $limit = $request->integer('limit', 50);
        $page = match ($list) {
            'failing' => $report->failing($offset, $limit),
            'unmapped' => $report->unmapped($offset, $limit),
            'unseen' => $report->unseen($offset, $limit),
            default => abort(404),
        };

        return new JsonResponse([
            ...$page,
            'next' => $offset + $limit < $page['total'] ? $offset + $limit : null,
        ]);
    }

    /** @return array<string, mixed> */
    private static function survey(Survey $survey): array
    {
        return [
            'id' => $survey->id,
            'state' => $survey->state->value,
            'stage' => $survey->stage,
            'problem' => $survey->problem,
            'pages' => $survey->total('pages'),
            'media' => $survey->total('media'),
            'failing' => $survey->total('media_failed'),
            'not_asked' => $survey->total('media_not_asked'),
            'links' => $survey->total('links'),
            'started_at' => $survey->started_at->toIso8601String(),
            'finished_at' => $survey->finished_at?->toIso8601String(),
        ];
    }
}
