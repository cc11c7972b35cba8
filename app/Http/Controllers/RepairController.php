<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Resources\PlanView;
use App\Models\LetStand;
use App\Models\MediaFile;
use App\Models\Site;
use App\Models\User;
use App\Plans\PlanDesk;
use App\Plans\PlanRefused;
use App\Sites\SiteOpener;
use App\Support\Sql;
use App\Usage\FindingGroups;
use App\Usage\Findings;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Validation\Rule;
use Ylema\Addresses\OutcomeKind;
use Ylema\Repair\Cures;
use Ylema\Repair\RepairPlanner;
use Ylema\Repair\RepairRequest;

/** Families of findings, and the plans that mend them. */
final class RepairController
{
    private const PAGE = 100;

    /** The findings of one family by what they ask for, with the cure of each or what it may mean. */
    public function groups(Request $request, Site $site, string $cause, SiteOpener $opener): JsonResponse
    {
        $kind = OutcomeKind::tryFrom($cause);
        abort_unless($kind !== null && $kind->isFinding(), 404);
        $request->validate([
            'offset' => ['nullable', 'integer', 'min:0', 'max:10000000'],
            'limit' => ['nullable', 'integer', 'min:1', 'max:200'],
        ]);
        $groups = new FindingGroups($site, $kind, new Cures($opener->open($site)->renditionNames()));
        $offset = $request->integer('offset');
        $limit = $request->integer('limit', 50);
        $total = $groups->count();

        return new JsonResponse([
            'cause' => $kind->value,
            'title' => $kind->title(),
            'sentence' => $kind->cause(),
            'total' => $total,
            'groups' => $groups->page($offset, $limit),
            'next' => $offset + $limit < $total ? $offset + $limit : null,
        ]);
    }

    /** Asks for the plan that mends families, all that is sure and what was decided. */
    public function store(Request $request, Site $site, PlanDesk $desk): JsonResponse
    {
        // How many there are is judged before any of them is: each would become rules of its own.
        $request->validate([
            'causes' => ['nullable', 'array', 'list', 'max:40'],
            'sure' => ['nullable', 'boolean'],
            'decisions' => ['nullable', 'array', 'list', 'max:2000'],
        ]);
        $data = $request->validate([
            'causes.*' => [Rule::enum(OutcomeKind::class)->only(OutcomeKind::findings())],
            'decisions.*' => ['array:asked,path'],
            'decisions.*.asked' => ['required', 'string', 'max:4000'],
            'decisions.*.path' => ['required', 'string', 'max:4000'],
        ]);
        $decisions = [];
        foreach ($data['decisions'] ?? [] as $decision) {
            $decisions[(string) $decision['asked']] = (string) $decision['path'];
        }
        $this->expectFiles($site, $decisions);
        $kinds = array_map(
            static fn (string $cause): OutcomeKind => OutcomeKind::from($cause),
            array_values($data['causes'] ?? []),
        );
        $asked = new RepairRequest(
            $kinds === [] ? OutcomeKind::findings() : $kinds,
            $decisions,
            ! $request->filled('sure') || $request->boolean('sure'),
        );
        $user = $request->user();
        $plan = $desk->begin($site, new RepairPlanner($asked), $user instanceof User ? $user : null);

        return new JsonResponse(PlanView::of($plan), 201);
    }

    /** Findings that somebody decided to let stand, the last first. */
    public function allLetStand(Request $request, Site $site): JsonResponse
    {
        $request->validate(['before' => ['nullable', 'integer', 'min:1', 'max:9007199254740991']]);
        $rows = LetStand::query()
            ->where('site_id', $site->id)
            ->when($request->filled('before'), fn ($q) => $q->where('id', '<', $request->integer('before')))
            ->with('author')
            ->orderByDesc('id')
            ->limit(self::PAGE)
            ->get();

        return new JsonResponse([
            'total' => LetStand::query()->where('site_id', $site->id)->count(),
            'decisions' => $rows->map(self::decision(...))->all(),
            'next' => $rows->count() === self::PAGE ? $rows->last()?->id : null,
        ]);
    }

    public function letStand(Request $request, Site $site, string $cause): JsonResponse
    {
        $kind = OutcomeKind::tryFrom($cause);
        abort_unless($kind !== null && $kind->isFinding(), 404);
        $data = $request->validate([
            'asked' => ['required', 'string', 'max:4000'],
            'reason' => ['required', 'string', 'max:500'],
        ]);
        $user = $request->user();
        $decision = Findings::letStand(
            $site,
            $kind,
            (string) $data['asked'],
            (string) $data['reason'],
            $user instanceof User ? $user : null,
        );

        return new JsonResponse(self::decision($decision), 201);
    }

    public function takeBack(Site $site, int $decision): Response
    {
        // Whoever comes second finds it done.
        $own = LetStand::query()->where('site_id', $site->id)->find($decision);
        if ($own !== null) {
            Findings::takeBack($own);
        }

        return response()->noContent();
    }

    /** @return array<string, mixed> */
    private static function decision(LetStand $decision): array
    {
        $kind = OutcomeKind::from($decision->cause);

        return [
            'id' => $decision->id,
            'cause' => $kind->value,
            'title' => $kind->title(),
            'asked' => $decision->asked,
            'reason' => $decision->reason,
            'by' => $decision->author?->name,
            'at' => $decision->updated_at->toIso8601String(),
        ];
    }

    /**
     * @param  array<string, string>  $decisions
     *
     * @throws PlanRefused
     */
    private function expectFiles(Site $site, array $decisions): void
    {
        $paths = array_values(array_unique($decisions));
        $there = MediaFile::query()
            ->where('site_id', $site->id)
            ->whereRaw('path = any(cast(? as text[]))', [Sql::texts($paths)])
            ->pluck('path')
            ->all();
        foreach (array_diff($paths, $there) as $path) {
            throw new PlanRefused("There is no file $path on this site. Choose another one.");
        }
    }
}
