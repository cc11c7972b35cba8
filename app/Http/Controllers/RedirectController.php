<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Changes\CheckRedirects;
use App\Http\Resources\PlanView;
use App\Models\Site;
use App\Models\User;
use App\Plans\PlanDesk;
use App\Plans\PlanRefused;
use App\Redirects\RedirectList;
use App\Sites\FieldMap;
use App\Sites\RedirectPlace;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Validation\Rule;
use Symfony\Component\HttpFoundation\StreamedResponse;
use Ylema\Redirects\Entry;
use Ylema\Redirects\Format;
use Ylema\Redirects\RedirectPlanner;
use Ylema\Redirects\RedirectRequest;

/** Addresses whose visitors are sent on: listed, edited by plans, checked, and handed to the web server. */
final class RedirectController
{
    public function index(Request $request, Site $site): JsonResponse
    {
        $request->validate([
            'q' => ['nullable', 'string', 'max:500'],
            'offset' => ['nullable', 'integer', 'min:0', 'max:10000000'],
            'limit' => ['nullable', 'integer', 'min:1', 'max:200'],
        ]);
        $offset = $request->integer('offset');
        $limit = $request->integer('limit', 100);
        $page = (new RedirectList($site))->page(trim($request->string('q')->toString()), $offset, $limit);

        return new JsonResponse([
            ...$page,
            'verdicts' => (object) $page['verdicts'],
            'table' => FieldMap::parse($site->field_map)->redirects['table'] ?? null,
            'former' => array_map(strval(...), $site->former),
            'next' => $offset + $limit < $page['total'] ? $offset + $limit : null,
        ]);
    }

    /** Asks for the plan that puts and drops redirects. */
    public function store(Request $request, Site $site, PlanDesk $desk): JsonResponse
    {
        $request->validate([
            'put' => ['nullable', 'array', 'list', 'max:500'],
            'drop' => ['nullable', 'array', 'list', 'max:500'],
        ]);
        $data = $request->validate([
            'put.*' => ['array:from,to,status'],
            'put.*.from' => ['required', 'string', 'max:2000'],
            'put.*.to' => ['nullable', 'string', 'max:2000'],
            'put.*.status' => ['required', 'integer', Rule::in(Entry::STATUSES)],
            'drop.*' => ['string', 'max:2000'],
        ]);
        $addresses = $site->addresses();
        $key = static fn (string $said): string => RedirectPlace::key($addresses, $said)
            ?? throw new PlanRefused("$said is no address of this site. Say a path of it, such as /old/page.");
        $put = [];
        foreach ($data['put'] ?? [] as $row) {
            $status = (int) $row['status'];
            $to = trim((string) ($row['to'] ?? ''));
            if ($status !== 410 && ($to === '' || $addresses->locate($to)?->url->isWeb() !== true)) {
                throw new PlanRefused('Say where visitors of '.$row['from'].' are sent: a path, or a whole address.');
            }
            $put[] = new Entry($key((string) $row['from']), $status === 410 ? '' : $to, $status);
        }
        $request = new RedirectRequest(
            $put,
            array_map($key, array_map(static fn (mixed $said): string => "/$said", array_values($data['drop'] ?? []))),
        );
        $user = request()->user();
        $plan = $desk->begin($site, new RedirectPlanner($request), $user instanceof User ? $user : null);

        return new JsonResponse(PlanView::of($plan), 201);
    }

    public function check(Site $site): Response
    {
        CheckRedirects::dispatch($site->id);

        return response()->noContent(202);
    }

    /** The list as a file for a web server; of the former address, what content still asks for there. */
    public function export(Request $request, Site $site): StreamedResponse
    {
        $request->validate([
            'as' => ['required', Rule::enum(Format::class)],
            'former' => ['nullable', 'boolean'],
        ]);
        $format = Format::from($request->string('as')->toString());
        $list = new RedirectList($site);
        $former = $request->boolean('former') ? $site->addresses()->former()[0] ?? abort(404) : null;
        $pieces = $format->write(
            $former === null ? $list->entries() : $list->ofFormer(),
            $former === null ? $site->addresses()->now->path : $former->path,
        );

        return response()->streamDownload(
            static function () use ($pieces): void {
                foreach ($pieces as $piece) {
                    echo $piece;
                }
            },
            "redirects-{$site->slug}.{$format->extension()}",
            ['Content-Type' => $format->mediaType()],
        );
    }
}
