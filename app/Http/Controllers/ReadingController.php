<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Reading;
use App\Models\Site;
use App\Models\User;
use App\Reading\ReadSite;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

final class ReadingController
{
    public function __construct(private readonly ReadSite $readSite)
    {
    }

    public function index(Site $site): JsonResponse
    {
        $readings = $site
            ->readings()
            ->whereRaw("not (totals @> '{\"partial\": true}')")
            ->orderByDesc('id')
            ->limit(10)
            ->get();

        return new JsonResponse(['readings' => $readings->map($this->reading(...))->all()]);
    }

    public function store(Request $request, Site $site): JsonResponse
    {
        $user = $request->user();

        $request->validate(['accept_loss' => ['nullable', 'boolean']]);

        return new JsonResponse(
            $this->reading(
                $this->readSite->begin($site, $user instanceof User ? $user : null, $request->boolean('accept_loss')),
            ),
            202,
        );
    }

    public function destroy(Site $site, Reading $reading): JsonResponse
    {
        $this->readSite->stop($reading);

        return new JsonResponse($this->reading($reading->refresh()));
    }

    /** @return array<string, mixed> */
    private function reading(Reading $reading): array
    {
        $open = $reading->state->isOpen();
        $problems = array_map(
            static fn (array $file): array => [
                'kind' => 'file',
                'key' => $file['path'],
                'title' => $file['path'],
                'field' => '',
                'message' => $file['why'],
            ],
            array_slice($reading->unread, 0, 50),
        );
        foreach ($reading->chunks()->whereRaw('jsonb_array_length(problems) > 0')->limit(50)->get() as $chunk) {
            array_push($problems, ...$chunk->problems);
        }

        return [
            'id' => $reading->id,
            'state' => $reading->state->value,
            'stage' => $reading->stage,
            'problem' => $reading->problem,
            'totals' => (object) ($open ? $this->readSite->totals($reading) : $reading->totals),
            'problems' => array_slice($problems, 0, 100),
            'started_at' => $reading->started_at->toIso8601String(),
            'finished_at' => $reading->finished_at?->toIso8601String(),
        ];
    }
}
