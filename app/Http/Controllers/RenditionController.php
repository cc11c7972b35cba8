<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Resources\PlanView;
use App\Models\Site;
use App\Models\User;
use App\Plans\PlanDesk;
use App\Retire\Renditions;
use App\Sites\SiteOpener;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Ylema\Retire\RedrawPlanner;
use Ylema\Retire\RedrawRequest;

/** Sizes of pictures: counted, listed, drawn again. */
final class RenditionController
{
    public function index(Site $site, SiteOpener $opener): JsonResponse
    {
        return new JsonResponse((new Renditions($site))->table($opener->open($site)));
    }

    public function files(Request $request, Site $site): JsonResponse
    {
        $request->validate([
            'width' => ['required', 'integer', 'min:1', 'max:100000'],
            'height' => ['nullable', 'integer', 'min:1', 'max:100000'],
            'offset' => ['nullable', 'integer', 'min:0', 'max:10000000'],
            'limit' => ['nullable', 'integer', 'min:1', 'max:200'],
        ]);
        $offset = $request->integer('offset');
        $limit = $request->integer('limit', 50);
        $page = (new Renditions($site))->files(
            $request->integer('width'),
            $request->filled('height') ? $request->integer('height') : null,
            $offset,
            $limit,
        );

        return new JsonResponse([
            ...$page,
            'next' => $offset + $limit < $page['total'] ? $offset + $limit : null,
        ]);
    }

    /** Asks for the plan that draws missing ones again: of an item, of a width, some, or all. */
    public function redraw(Request $request, Site $site, PlanDesk $desk): JsonResponse
    {
        $request->validate([
            'item' => ['nullable', 'integer', 'min:1', 'max:9007199254740991'],
            'width' => ['nullable', 'integer', 'min:1', 'max:100000'],
            'paths' => ['bail', 'nullable', 'array', 'list', 'max:500'],
            'paths.*' => ['string', 'max:2000'],
        ]);
        $user = $request->user();
        $plan = $desk->begin(
            $site,
            new RedrawPlanner(
                RedrawRequest::fromArray([
                    'item' => $request->filled('item') ? $request->integer('item') : null,
                    'width' => $request->filled('width') ? $request->integer('width') : null,
                    'paths' => $request->array('paths'),
                ]),
            ),
            $user instanceof User ? $user : null,
        );

        return new JsonResponse(PlanView::of($plan), 201);
    }
}
