<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Resources\PlanView;
use App\Models\Site;
use App\Models\User;
use App\Plans\MoveAsked;
use App\Plans\PlanDesk;
use App\Usage\Mentioned;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Ylema\Move\MovePlanner;

/** Plans for what goes elsewhere. */
final class MoveController
{
    public function store(Request $request, Site $site, PlanDesk $desk): JsonResponse
    {
        $data = $request->validate([
            'from' => ['required', 'string', 'max:2000'],
            'to' => ['required', 'string', 'max:2000'],
            'keep' => ['nullable', 'boolean'],
        ]);
        $asked = MoveAsked::of(
            $site,
            (string) $data['from'],
            (string) $data['to'],
            ! $request->filled('keep') || $request->boolean('keep'),
        );
        $user = $request->user();
        $plan = $desk->begin($site, new MovePlanner($asked), $user instanceof User ? $user : null);

        return new JsonResponse(PlanView::of($plan), 201);
    }

    /** Who names what may move in a way that is not read: said before anything is planned. */
    public function names(Request $request, Site $site): JsonResponse
    {
        $data = $request->validate(['from' => ['required', 'string', 'max:2000']]);

        return new JsonResponse((new Mentioned($site))->at(ltrim(trim((string) $data['from']), '/')));
    }
}
