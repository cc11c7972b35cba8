<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Adopt\Adoptions;
use App\Adopt\ForeignHosts;
use App\Http\Resources\PlanView;
use App\Models\Adoption;
use App\Models\Site;
use App\Models\User;
use App\Plans\PlanDesk;
use App\Plans\PlanRefused;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Validation\Rule;
use Ylema\Adopt\AdoptPlanner;
use Ylema\Adopt\AdoptRequest;

/** Other hosts that lend pictures: allowed, or their pictures brought home. */
final class HostController
{
    public function index(Site $site): JsonResponse
    {
        return new JsonResponse(self::hosts($site));
    }

    public function decide(Request $request, Site $site, string $host): JsonResponse
    {
        $data = $request->validate([
            'decision' => ['present', 'nullable', Rule::in([ForeignHosts::ALLOW, ForeignHosts::ADOPT])],
        ]);
        $this->expectKnown($site, [$host]);
        (new ForeignHosts($site))->decide($host, $data['decision'] === null ? null : (string) $data['decision']);

        return new JsonResponse(self::hosts($site->refresh()));
    }

    public function accept(Site $site, string $host): JsonResponse
    {
        (new ForeignHosts($site))->accept($host);

        return new JsonResponse(self::hosts($site));
    }

    public function fetch(Request $request, Site $site, Adoptions $adoptions): JsonResponse
    {
        $hosts = self::named($request, true);
        $this->expectKnown($site, $hosts);
        $user = $request->user();

        return new JsonResponse(
            self::adoption($adoptions->begin($site, $hosts, $user instanceof User ? $user : null)),
            202,
        );
    }

    public function stop(Site $site, int $adoption): JsonResponse
    {
        $own = Adoption::query()->where('site_id', $site->id)->findOrFail($adoption);
        $own->stop();

        return new JsonResponse(self::adoption($own->refresh()));
    }

    public function plan(Request $request, Site $site, PlanDesk $desk): JsonResponse
    {
        $request->validate(['pasted' => ['nullable', 'boolean']]);
        $hosts = self::named($request, false);
        if ($hosts === [] && ! $request->boolean('pasted')) {
            throw new PlanRefused('Say whose pictures shall come home.');
        }
        $user = $request->user();
        $plan = $desk->begin(
            $site,
            new AdoptPlanner(new AdoptRequest($hosts, $request->boolean('pasted'))),
            $user instanceof User ? $user : null,
        );

        return new JsonResponse(PlanView::of($plan), 201);
    }

    /** @return list<string> */
    private static function named(Request $request, bool $isNeeded): array
    {
        $request->validate(['hosts' => [$isNeeded ? 'required' : 'nullable', 'array', 'list', 'max:200']]);
        $data = $request->validate(['hosts.*' => ['string', 'max:253']]);

        return array_values(
            array_map(static fn (mixed $host): string => is_string($host) ? $host : '', $data['hosts'] ?? []),
        );
    }

    /**
     * A host that no content names is none of this site's affair, and is not asked.
     *
     * @param  list<string>  $hosts
     *
     * @throws PlanRefused
     */
    private function expectKnown(Site $site, array $hosts): void
    {
        $known = array_column((new ForeignHosts($site))->all(), 'host');
        foreach (array_diff($hosts, $known) as $host) {
            throw new PlanRefused("Nothing on this site names a picture of $host.");
        }
    }

    /** @return array<string, mixed> */
    private static function hosts(Site $site): array
    {
        $hosts = new ForeignHosts($site);
        $last = Adoption::query()->where('site_id', $site->id)->orderByDesc('id')->first();

        return [
            'hosts' => $hosts->all(),
            'pasted' => $hosts->pasted(),
            'adoption' => $last === null ? null : self::adoption($last),
        ];
    }

    /** @return array<string, mixed> */
    private static function adoption(Adoption $adoption): array
    {
        return [
            'id' => $adoption->id,
            'state' => $adoption->state->value,
            'hosts' => $adoption->hosts,
            'expected' => $adoption->expected,
            'fetched' => $adoption->total('fetched'),
            'refused' => $adoption->total('refused'),
            'problem' => $adoption->problem,
            'started_at' => $adoption->started_at->toIso8601String(),
            'finished_at' => $adoption->finished_at?->toIso8601String(),
        ];
    }
}
