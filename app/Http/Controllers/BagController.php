<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Archive\BagDisk;
use App\Archive\BagList;
use App\Archive\VerifyBag;
use App\Http\Resources\PlanView;
use App\Media\Looks;
use App\Media\Thumbnails;
use App\Media\Uploads;
use App\Models\Bag;
use App\Models\Site;
use App\Models\User;
use App\Plans\PlanDesk;
use App\Plans\PlanRefused;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Ylema\Plan\RestingQuestion;
use Ylema\Retire\ArchivePlanner;

/** The archive: bags made, verified, searched, and ended. */
final class BagController
{
    public function index(Site $site): JsonResponse
    {
        return new JsonResponse(['bags' => (new BagList($site))->bags()]);
    }

    public function files(Request $request, Site $site, Thumbnails $thumbnails, Uploads $uploads): JsonResponse
    {
        $request->validate([
            'q' => ['nullable', 'string', 'max:500'],
            'bag' => ['nullable', 'string', 'max:80'],
            'upload' => ['nullable', 'string', 'max:100'],
            'offset' => ['nullable', 'integer', 'min:0', 'max:10000000'],
            'limit' => ['nullable', 'integer', 'min:1', 'max:200'],
        ]);
        $offset = $request->integer('offset');
        $limit = $request->integer('limit', 50);
        $upload = $request->filled('upload') ? $request->string('upload')->toString() : null;
        if ($upload !== null) {
            $uploads->expectOwn($upload, $site, $request->user());
        }
        $page = (new BagList($site))->files(
            trim($request->string('q')->toString()),
            $request->string('bag')->toString(),
            $offset,
            $limit,
            $upload === null
                ? null
                : Looks::of($thumbnails->ofUpload($uploads, $upload, $site->id)[1])?->fingerprint(),
        );

        return new JsonResponse([...$page, 'next' => $offset + $limit < $page['total'] ? $offset + $limit : null]);
    }

    /** Asks for the plan that archives all whose days of rest are over. */
    public function store(Request $request, Site $site, PlanDesk $desk): JsonResponse
    {
        $user = $request->user();
        $plan = $desk->begin(
            $site,
            new ArchivePlanner(new RestingQuestion(over: now()->toDateString())),
            $user instanceof User ? $user : null,
        );

        return new JsonResponse(PlanView::of($plan), 201);
    }

    public function verify(Site $site, Bag $bag): JsonResponse
    {
        VerifyBag::dispatch($bag->id);

        return new JsonResponse(['bags' => (new BagList($site))->bags()], 202);
    }

    /** For good: whoever asks has typed the name of the bag. */
    public function destroy(Request $request, Site $site, Bag $bag): JsonResponse
    {
        $request->validate(['name' => ['required', 'string', 'max:80']]);
        if ($request->string('name')->toString() !== $bag->name) {
            throw new PlanRefused(
                "That is not the name of the bag. What lies in it would be gone for good, so type its name: $bag->name.",
            );
        }
        BagDisk::of($site->id, $bag->name)->destroy();
        $bag->delete();

        return new JsonResponse(['bags' => (new BagList($site))->bags()]);
    }
}
