<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Resources\PlanView;
use App\Media\Differences;
use App\Models\MediaFile;
use App\Models\Site;
use App\Models\User;
use App\Plans\PlanDesk;
use App\Retire\CopyGroups;
use App\Retire\LookAtPictures;
use App\Sites\SiteOpener;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Validation\Rule;
use Ylema\Retire\MergePlanner;
use Ylema\Retire\MergeRequest;

/** Items that show the same picture: listed side by side, and made one. */
final class CopyController
{
    public function index(Request $request, Site $site): JsonResponse
    {
        $request->validate([
            'how' => ['nullable', Rule::in(['bytes', 'picture', 'part', 'alike'])],
            'offset' => ['nullable', 'integer', 'min:0', 'max:10000000'],
            'limit' => ['nullable', 'integer', 'min:1', 'max:100'],
        ]);
        $offset = $request->integer('offset');
        $limit = $request->integer('limit', 20);
        $page = (new CopyGroups($site))->page($request->string('how')->toString(), $offset, $limit);

        return new JsonResponse([
            ...$page,
            'next' => $offset + $limit < $page['total'] ? $offset + $limit : null,
        ]);
    }

    /** Where two pictures differ that look alike, at a resolution at which letters live. */
    public function differences(
        Request $request,
        Site $site,
        SiteOpener $opener,
        Differences $differences,
    ): JsonResponse {
        $request->validate([
            'one' => ['required', 'integer', 'min:1', 'max:9007199254740991'],
            'other' => ['required', 'integer', 'min:1', 'max:9007199254740991'],
        ]);
        $original = static fn (int $item): MediaFile => MediaFile::query()
            ->where('site_id', $site->id)
            ->where('media_item_id', $item)
            ->where('is_original', true)
            ->firstOrFail();
        $open = $opener->open($site);
        [$one, $other] = [$original($request->integer('one')), $original($request->integer('other'))];
        $found = $differences->between($open, $one, $other);
        $isPart = $found === null
            && ($differences->ofPart($open, $one, $other)?->isSame() === true
                || $differences->ofPart($open, $other, $one)?->isSame() === true);

        return new JsonResponse([
            'places' => $isPart ? [] : $found?->places,
            'compared' => $found !== null || $isPart,
            'marked' => $found !== null && $found->isMarked,
            'part' => $isPart,
        ]);
    }

    /** Pictures that came since are looked at, and groups are worked out anew. */
    public function look(Site $site): JsonResponse
    {
        LookAtPictures::dispatch($site->id);

        return new JsonResponse((object) [], 202);
    }

    /** Asks for the plan that makes several copies one. */
    public function merge(Request $request, Site $site, PlanDesk $desk): JsonResponse
    {
        $request->validate([
            'keeper' => ['required', 'integer', 'min:1', 'max:9007199254740991'],
            'others' => ['bail', 'required', 'array', 'list', 'min:1', 'max:500'],
            'others.*' => ['integer', 'min:1', 'max:9007199254740991'],
        ]);
        $user = $request->user();
        $plan = $desk->begin(
            $site,
            new MergePlanner(
                new MergeRequest(
                    $request->integer('keeper'),
                    array_values(
                        array_map(
                            static fn (mixed $id): int => is_numeric($id) ? (int) $id : 0,
                            $request->array('others'),
                        ),
                    ),
                ),
            ),
            $user instanceof User ? $user : null,
        );

        return new JsonResponse(PlanView::of($plan), 201);
    }
}
