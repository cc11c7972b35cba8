<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\Change;
use App\Models\Plan;

/** A plan as it says of itself what it is; nothing here knows what kind it is. */
final class PlanView
{
    /** @return array<string, mixed> */
    public static function of(Plan $plan): array
    {
        $change = Change::query()->with('author')->where('plan_id', $plan->id)->first();

        return [
            'id' => $plan->id,
            'kind' => $plan->kind,
            'state' => $plan->state->value,
            'title' => $plan->title,
            'sentence' => $plan->sentence,
            'problem' => $plan->problem,
            ...self::outline($plan),
            'counts' => (object) $plan->counts,
            'pages' => $plan->pages,
            'made' => $plan->made,
            'expected' => $plan->expected,
            'change' => $change?->id,
            'applied_by' => $change === null ? null : $change->author->name ?? 'command line',
            'made_at' => $plan->created_at->toIso8601String(),
        ];
    }

    /** @return array{notes: mixed, pictures: mixed, bench: mixed, boxes: mixed} */
    public static function outline(Plan $plan): array
    {
        return [
            'notes' => $plan->outline['notes'] ?? [],
            'pictures' => $plan->outline['pictures'] ?? [],
            'bench' => $plan->outline['bench'] ?? null,
            'boxes' => $plan->outline['boxes'] ?? [],
        ];
    }
}
