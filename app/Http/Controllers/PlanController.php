<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Changes\Journal;
use App\Changes\ReadAgain;
use App\Http\Resources\PlanView;
use App\Http\Resources\StepView;
use App\Http\Rules\Ids;
use App\Media\Thumbnails;
use App\Media\Uploads;
use App\Models\Change;
use App\Models\MediaItem;
use App\Models\Plan;
use App\Models\PlanState;
use App\Models\Site;
use App\Models\StepState;
use App\Models\User;
use App\Plans\ChosenPlaces;
use App\Plans\Fitting;
use App\Plans\PlanDesk;
use App\Plans\PlanRefused;
use App\Plans\Rehearsal;
use App\Sites\SiteOpener;
use App\Vault\Vault;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Validation\Rule;
use Symfony\Component\HttpFoundation\StreamedResponse;
use Ylema\Swap\Manner;
use Ylema\Swap\SwapPlanner;
use Ylema\Swap\SwapRequest;

final class PlanController
{
    private const MOST_PLACES = 100_000;

    public function __construct(
        private readonly PlanDesk $desk,
        private readonly Journal $journal,
        private readonly ReadAgain $reader,
        private readonly Uploads $uploads,
    ) {
    }

    public function store(Request $request, Site $site): JsonResponse
    {
        $data = $request->validate([
            'from' => ['required', 'integer', 'min:1', 'max:9007199254740991'],
            'manner' => ['required', Rule::enum(Manner::class)],
            'to' => ['nullable', 'integer', 'min:1', 'max:9007199254740991', 'required_without:upload'],
            'upload' => ['nullable', 'string', 'max:40', 'required_without:to'],
            'places' => ['nullable', new Ids(self::MOST_PLACES), 'prohibits:except'],
            'except' => ['nullable', new Ids(self::MOST_PLACES)],
            'title' => ['nullable', 'string', 'max:300'],
            'alt' => ['nullable', 'string', 'max:1000'],
            'caption' => ['nullable', 'string', 'max:2000'],
            'credit' => ['nullable', 'string', 'max:300'],
            'keep_shape' => ['nullable', 'boolean'],
        ]);
        $from =
            MediaItem::query()->where('site_id', $site->id)->find($request->integer('from'))
            ?? throw new PlanRefused('The item to be swapped is not on this site.');
        $this->expectOwn($request, $site);
        $asked = new SwapRequest(
            $from->id,
            Manner::from((string) $data['manner']),
            $request->filled('to') ? $request->integer('to') : null,
            $request->filled('upload') ? $request->string('upload')->toString() : null,
            ChosenPlaces::of($from, self::ids($data['places'] ?? null), self::ids($data['except'] ?? null)),
            $request->string('title')->toString(),
            $request->string('alt')->toString(),
            $request->string('caption')->toString(),
            $request->string('credit')->toString(),
            $request->boolean('keep_shape'),
        );
        $plan = $this->desk->begin($site, new SwapPlanner($asked), self::user($request));

        return self::begun($plan);
    }

    /** What will look different, before any plan is made. */
    public function fit(Request $request, Site $site, MediaItem $mediaItem, Fitting $fitting): JsonResponse
    {
        $request->validate([
            'manner' => ['required', Rule::enum(Manner::class)],
            'to' => ['nullable', 'integer', 'min:1', 'max:9007199254740991', 'required_without:upload'],
            'upload' => ['nullable', 'string', 'max:40', 'required_without:to'],
            'keep_shape' => ['nullable', 'boolean'],
            'alt' => ['nullable', 'string', 'max:1000'],
        ]);
        $to = $request->filled('to')
            ? MediaItem::query()->where('site_id', $site->id)->find($request->integer('to')) ?? abort(404)
            : null;
        $this->expectOwn($request, $site);
        $fit = $fitting->of(
            $mediaItem,
            $to,
            $request->string('upload')->toString(),
            Manner::from($request->string('manner')->toString()),
            $request->boolean('keep_shape'),
            $request->string('alt')->toString(),
        );

        return new JsonResponse([
            'alike' => $fit['alike'],
            'notes' => $fit['notes'],
            'places' => array_map(
                static fn (int $reference, string $says): array => ['reference' => $reference, 'says' => $says],
                array_keys($fit['places']),
                array_values($fit['places']),
            ),
        ]);
    }

    /** Of a picture that was sent, who asks must have sent it themselves. */
    private function expectOwn(Request $request, Site $site): void
    {
        if (! $request->filled('to') && $request->filled('upload')) {
            $this->uploads->expectOwn($request->string('upload')->toString(), $site, $request->user());
        }
    }

    public function show(Site $site, Plan $plan): JsonResponse
    {
        return new JsonResponse(PlanView::of($plan));
    }

    /** What the plan keeps of one of its two sides, drawn small: an upload is on no site yet. */
    public function picture(Site $site, Plan $plan, string $side, Vault $vault, Thumbnails $thumbnails): Response
    {
        $picture = $plan->outline['pictures'][(int) $side] ?? null;
        $sha = is_array($picture) && is_string($picture['sha256'] ?? null) ? $picture['sha256'] : '';
        abort_unless($sha !== '' && $vault->has($sha), 404);
        [$type, $bytes] = $thumbnails->ofBytes($vault->get($sha), (string) ($picture['type'] ?? ''), $sha);

        return PictureController::answer($type, $bytes);
    }

    /** As text, a statement or file a line; it may be as long as the plan. */
    public function rehearsal(Site $site, Plan $plan, Rehearsal $rehearsal, SiteOpener $opener): StreamedResponse
    {
        $open = $opener->open($site);

        return new StreamedResponse(
            static function () use ($rehearsal, $open, $plan): void {
                foreach ($rehearsal->of($open, $plan) as $line) {
                    echo $line, "\n";
                }
            },
            200,
            ['Content-Type' => 'text/plain; charset=utf-8'],
        );
    }

    public function steps(Request $request, Site $site, Plan $plan): JsonResponse
    {
        $request->validate([
            'after' => ['nullable', 'integer', 'min:-1', 'max:2147483647'],
            'limit' => ['nullable', 'integer', 'min:1', 'max:200'],
            'state' => ['nullable', 'array', 'list'],
            'state.*' => [Rule::enum(StepState::class)],
        ]);
        $limit = $request->integer('limit', 50);
        $steps = $plan
            ->steps()
            ->where('position', '>', $request->integer('after', -1))
            ->when($request->filled('state'), fn ($q) => $q->whereIn('state', $request->array('state')))
            ->orderBy('position')
            ->limit($limit)
            ->get();

        return new JsonResponse(
            [
                'steps' => $steps->map(StepView::of(...))->all(),
                'next' => $steps->count() === $limit ? $steps->last()?->position : null,
            ],
            200,
            [],
            JSON_INVALID_UTF8_SUBSTITUTE,
        );
    }

    public function apply(Request $request, Site $site, Plan $plan): JsonResponse
    {
        $request->validate(['reason' => ['nullable', 'string', 'max:1000']]);
        $change = $this->journal->apply($plan, self::user($request), $request->string('reason')->toString());

        return new JsonResponse(['change' => $change->id], 202);
    }

    public function again(Request $request, Site $site, Plan $plan): JsonResponse
    {
        $plan->load(['site', 'change.site']);
        if ($plan->change !== null) {
            $this->reader->beforePlanning($plan->change);
        }

        return self::begun($this->desk->again($plan, self::user($request)));
    }

    /** A plan that leads back what undo had to leave, since somebody else had edited it meanwhile. */
    public function back(Request $request, Site $site, Change $change): JsonResponse
    {
        $change->load(['site', 'plan']);
        $this->reader->beforePlanning($change);

        return self::begun($this->desk->back($change, self::user($request)));
    }

    public function destroy(Site $site, Plan $plan): Response
    {
        $this->desk->drop($plan);

        return response()->noContent();
    }

    /** Where it turned out at once that it cannot be made, the answer says so; else whoever asked looks again. */
    private static function begun(Plan $plan): JsonResponse
    {
        if ($plan->state === PlanState::Refused) {
            throw new PlanRefused((string) $plan->problem);
        }

        return new JsonResponse(PlanView::of($plan), 201);
    }

    /** @return list<int>|null */
    private static function ids(mixed $list): ?array
    {
        return is_array($list)
            ? array_values(array_map(static fn (mixed $id): int => is_numeric($id) ? (int) $id : 0, $list))
            : null;
    }

    private static function user(Request $request): ?User
    {
        $user = $request->user();

        return $user instanceof User ? $user : null;
    }
}
