<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Adopt\ForeignHosts;
use App\Http\Resources\PlanView;
use App\Http\Resources\RecordLine;
use App\Models\LetStand;
use App\Models\MediaFile;
use App\Models\Record;
use App\Models\Site;
use App\Models\User;
use App\Plans\LostFiles;
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
use Ylema\Reading\Excerpt;
use Ylema\Repair\Cures;
use Ylema\Repair\RepairPlanner;
use Ylema\Repair\RepairRequest;

/** Families of findings, and the plans that mend them. */
final class RepairController
{
    private const PAGE = 100;

    /** Bytes before and behind a place, for the eye. */
    private const AROUND = 220;

    /** The findings of one family by what they ask for, with the cure of each or what it may mean. */
    public function groups(
        Request $request,
        Site $site,
        string $cause,
        SiteOpener $opener,
        LostFiles $lost,
    ): JsonResponse {
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
            'groups' => self::withEvidence($site, $kind, $groups->page($offset, $limit), $lost),
            'next' => $offset + $limit < $total ? $offset + $limit : null,
        ]);
    }

    /** The raw text of one place that has a finding, with its bytes marked. */
    public function excerpt(Request $request, Site $site, string $cause, SiteOpener $opener): JsonResponse
    {
        $kind = OutcomeKind::tryFrom($cause);
        abort_unless($kind !== null && $kind->isFinding(), 404);
        $data = $request->validate([
            'asked' => ['required', 'string', 'max:8000'],
            'leads' => ['nullable', 'boolean'],
        ]);
        $place = Findings::one($site, $kind, (string) $data['asked'], $request->boolean('leads'));
        abort_if($place === null, 404);
        $record = Record::query()->where('site_id', $site->id)->findOrFail($place['record']);
        $text = null;
        foreach ($opener->open($site)->content->find($record->kind, [$record->key]) as $source) {
            if ($source->contentHash === trim($record->content_hash)) {
                $text = $source->field($place['field'])?->text;
            }
        }
        $excerpt = $text === null ? null : Excerpt::of($text, $place['start'], $place['length'], self::AROUND);

        return new JsonResponse([
            'record' => RecordLine::of($record),
            'field' => $place['field'],
            'line' => $place['line'],
            'lead' => $excerpt === null ? '' : mb_scrub($excerpt->lead),
            'marked' => $excerpt === null ? '' : mb_scrub($excerpt->marked),
            'tail' => $excerpt === null ? '' : mb_scrub($excerpt->tail),
        ]);
    }

    /**
     * What else speaks for a cure: where a missing file's bytes still are, and why another host's cannot be had.
     *
     * @param  list<array<string, mixed>>  $groups
     * @return list<array<string, mixed>>
     */
    private static function withEvidence(Site $site, OutcomeKind $kind, array $groups, LostFiles $lost): array
    {
        $asked = array_values(array_filter(array_column($groups, 'asked'), is_string(...)));
        $where = $kind === OutcomeKind::MissingFile ? $lost->whereabouts($site, $asked) : [];
        $why = $kind === OutcomeKind::ForeignGone ? ForeignHosts::reasons($site->id, $asked) : [];

        return array_map(static function (array $group) use ($where, $why): array {
            $asked = is_string($group['asked']) ? $group['asked'] : '';

            return [...$group, 'bytes' => $where[$asked] ?? null, 'reason' => $why[$asked] ?? null];
        }, $groups);
    }

    /** Asks for the plan that mends families, all that is sure and what was decided. */
    public function store(Request $request, Site $site, PlanDesk $desk): JsonResponse
    {
        // How many there are is judged before any of them is: each would become rules of its own.
        $request->validate([
            'causes' => ['nullable', 'array', 'list', 'max:40'],
            'sure' => ['nullable', 'boolean'],
            'decisions' => ['nullable', 'array', 'list', 'max:2000'],
            'rules' => ['nullable', 'array', 'list', 'max:50'],
        ]);
        $data = $request->validate([
            'causes.*' => [Rule::enum(OutcomeKind::class)->only(OutcomeKind::findings())],
            'rules.*' => ['array:from,to'],
            'rules.*.from' => ['required', 'string', 'max:1000'],
            'rules.*.to' => ['present', 'nullable', 'string', 'max:1000'],
            'decisions.*' => ['array:asked,path'],
            'decisions.*.asked' => ['required', 'string', 'max:4000'],
            'decisions.*.path' => ['present', 'nullable', 'string', 'max:4000'],
        ]);
        $decisions = [];
        foreach ($data['decisions'] ?? [] as $decision) {
            $decisions[(string) $decision['asked']] = $decision['path'] === null ? null : (string) $decision['path'];
        }
        $rules = [];
        foreach ($data['rules'] ?? [] as $rule) {
            $rules[] = [(string) $rule['from'], (string) $rule['to']];
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
            $rules,
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
     * @param  array<string, string|null>  $decisions
     *
     * @throws PlanRefused
     */
    private function expectFiles(Site $site, array $decisions): void
    {
        $elsewhere = array_filter(
            $decisions,
            static fn (?string $path, string|int $asked): bool => $path !== null && $path !== (string) $asked,
            ARRAY_FILTER_USE_BOTH,
        );
        $paths = array_values(array_unique($elsewhere));
        $there = MediaFile::query()
            ->where('site_id', $site->id)
            ->whereRaw('path = any(cast(? as text[]))', [Sql::texts($paths)])
            ->pluck('path')
            ->all();
        $pages = $site
            ->records()
            ->where('is_page', true)
            ->whereRaw("rtrim(address, '/') = any(cast(? as text[]))", [Sql::texts($paths)])
            ->pluck('address')
            ->map(static fn (mixed $address): string => is_string($address) ? trim($address, '/') : '')
            ->all();
        foreach (array_diff($paths, $there, $pages) as $path) {
            if (preg_match('~^https?://~', $path) !== 1) {
                throw new PlanRefused("There is no file or page $path on this site. Choose another one.");
            }
        }
    }
}
