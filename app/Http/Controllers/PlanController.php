<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Changes\Journal;
use App\Changes\SwapPlans;
use App\Changes\SwapRequest;
use App\Models\Plan;
use App\Models\PlanWrite;
use App\Models\Site;
use App\Models\User;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Validation\Rule;

final class PlanController
{
    public function __construct(private readonly SwapPlans $plans, private readonly Journal $journal)
    {
    }

    public function store(Request $request, Site $site): JsonResponse
    {
        $data = $request->validate([
            'from' => ['required', 'integer'], 'manner' => ['required', Rule::in(['same-address', 'new-reference'])],
            'to' => ['nullable', 'integer', 'required_without:upload'], 'upload' => ['nullable', 'string', 'required_without:to'],
            'places' => ['nullable', 'array', 'max:100000'], 'places.*' => ['integer'],
            'title' => ['nullable', 'string', 'max:300'], 'alt' => ['nullable', 'string', 'max:1000'],
        ]);
        $places = is_array($data['places'] ?? null) ? array_values(array_map(intval(...), $data['places'])) : null;
        $plan = $this->plans->make($site, new SwapRequest(
            $request->integer('from'), $data['manner'] === 'same-address', $request->filled('to') ? $request->integer('to') : null,
            $request->filled('upload') ? $request->string('upload')->toString() : null, $places, $request->string('title')->toString(), $request->string('alt')->toString(),
        ), self::user($request));

        return new JsonResponse(self::plan($plan), 201);
    }

    public function show(Site $site, Plan $plan): JsonResponse
    {
        return new JsonResponse(self::plan($plan));
    }

    public function apply(Request $request, Site $site, Plan $plan): JsonResponse
    {
        $request->validate(['reason' => ['nullable', 'string', 'max:1000']]);
        $change = $this->journal->apply($plan, self::user($request), $request->string('reason')->toString());

        return new JsonResponse(['change' => $change->id], 202);
    }

    public function again(Request $request, Site $site, Plan $plan): JsonResponse
    {
        return new JsonResponse(self::plan($this->plans->again($plan, self::user($request))), 201);
    }

    public function destroy(Site $site, Plan $plan): Response
    {
        if ($plan->state === 'open') {
            $plan->update(['state' => 'dropped']);
        }

        return response()->noContent();
    }

    private static function user(Request $request): ?User
    {
        $user = $request->user();

        return $user instanceof User ? $user : null;
    }

    /** @return array<string, mixed> */
    private static function plan(Plan $plan): array
    {
        return [
            'id' => $plan->id, 'state' => $plan->state, 'title' => $plan->title, 'summary' => (object) $plan->summary, 'request' => (object) $plan->request, 'made_at' => $plan->created_at->toIso8601String(),
            'writes' => $plan->writes()->orderBy('position')->get()->map(static fn (PlanWrite $w): array => [
                'id' => $w->id, 'target' => $w->target, 'kind' => $w->record_kind, 'key' => $w->record_key, 'title' => $w->title,
                'new' => $w->before_hash === null, 'detail' => (object) $w->detail, 'problem' => $w->problem,
            ])->all(),
        ];
    }
}
