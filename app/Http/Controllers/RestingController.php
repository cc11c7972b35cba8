<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Archive\BagDisk;
use App\Http\Resources\PlanView;
use App\Media\Pictures;
use App\Media\Thumbnails;
use App\Models\Change;
use App\Models\Site;
use App\Models\User;
use App\Plans\PlanDesk;
use App\Rest\RestStore;
use App\Retire\Keeping;
use App\Retire\RestingList;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\Rule;
use stdClass;
use Ylema\Failure;
use Ylema\Imaging\MediaType;
use Ylema\Imaging\UploadRefused;
use Ylema\Plan\IdleQuestion;
use Ylema\Plan\Planner;
use Ylema\Plan\RestingQuestion;
use Ylema\Plan\Words;
use Ylema\Retire\RestorePlanner;
use Ylema\Retire\RestoreRequest;
use Ylema\Retire\RestPlanner;
use Ylema\Retire\RestRequest;
use Ylema\Sites\FileState;

/** What rests: listed, laid to rest, watched, brought back. */
final class RestingController
{
    private const MARKS =
        ['q', 'standing', 'proof', 'because', 'folder', 'type', 'year', 'use', 'left', 'unlisted', 'mentioned'];

    public function index(Site $site): JsonResponse
    {
        return new JsonResponse((new RestingList($site))->lanes());
    }

    public function files(Request $request, Site $site): JsonResponse
    {
        $request->validate([
            'q' => ['nullable', 'string', 'max:500'],
            'state' => ['nullable', Rule::in(['all', 'called', 'over'])],
            'offset' => ['nullable', 'integer', 'min:0', 'max:10000000'],
            'limit' => ['nullable', 'integer', 'min:1', 'max:200'],
        ]);
        $offset = $request->integer('offset');
        $limit = $request->integer('limit', 50);
        $page = (new RestingList($site))->page(
            trim($request->string('q')->toString()),
            $request->string('state', 'all')->toString(),
            $offset,
            $limit,
        );

        return new JsonResponse([...$page, 'next' => $offset + $limit < $page['total'] ? $offset + $limit : null]);
    }

    /** Its picture, of what rests (`resting`) or of what lies in a bag (`bagged`). */
    public function picture(Site $site, string $where, int $id, Thumbnails $thumbnails, RestStore $rest): Response
    {
        $row =
            $where === 'resting'
                ? DB::table('resting_files')->where('site_id', $site->id)->where('id', $id)->first()
                : DB::table('bag_files as f')
                    ->join('bags as b', 'b.id', '=', 'f.bag_id')
                    ->where('f.site_id', $site->id)
                    ->where('f.id', $id)
                    ->first(['f.path', 'f.file', 'f.payload', 'f.sha256', 'b.name']);
        abort_unless($row instanceof stdClass, 404);
        // A film is not read whole to find that it has no picture.
        abort_unless(
            in_array(MediaType::extension((string) $row->path), ['svg', ...Pictures::WRITABLE], true),
            404,
        );
        $data = json_decode((string) $row->file, true);
        $file = FileState::fromArray(is_array($data) ? $data : []);
        try {
            $stream =
                $where === 'resting'
                    ? $rest->stream($site->id, (string) $row->path, $file)
                    : BagDisk::of($site->id, (string) $row->name)->stream((string) $row->payload);
            [$type, $bytes] = $thumbnails->ofBytes(
                (string) stream_get_contents($stream),
                MediaType::extension((string) $row->path),
                $file->sha256,
            );
        } catch (UploadRefused|Failure) {
            abort(404);
        }

        return PictureController::answer($type, $bytes);
    }

    /** Asks for the plan that lays files to rest. */
    public function rest(Request $request, Site $site, PlanDesk $desk): JsonResponse
    {
        $request->validate(
            [
                'marks' => ['nullable', 'array:'.implode(',', self::MARKS)],
                'marks.*' => ['nullable', 'string', 'max:2000'],
                'items' => ['nullable', 'array', 'list', 'min:1', 'max:1000'],
                'items.*' => ['integer', 'min:1', 'max:9007199254740991'],
                'files' => ['nullable', 'array', 'list', 'min:1', 'max:1000'],
                'files.*' => ['integer', 'min:1', 'max:9007199254740991'],
                'size' => ['nullable', 'array', 'list', 'size:2'],
                'size.*' => ['integer', 'min:0', 'max:100000'],
                'asks' => ['nullable', 'boolean'],
                'to' => ['nullable', 'string', 'max:2000', 'regex:~^(?:https?://|/)~'],
            ],
            ['to.regex' => 'Say an address of a page, such as /pictures or https://example.org/.'],
        );
        $marks = array_filter($request->array('marks'), is_string(...));
        $planner = new RestPlanner(
            new RestRequest(
                IdleQuestion::fromArray([
                    'marks' => $marks,
                    'items' => self::numbers($request, 'items'),
                    'files' => self::numbers($request, 'files'),
                    'size' => self::numbers($request, 'size'),
                ]),
                $request->boolean('asks'),
                $request->filled('to') ? $request->string('to')->toString() : null,
            ),
        );

        return self::planned($request, $site, $planner, $desk);
    }

    /** Asks for the plan that brings files back: some, all of a change, or all that something asks for. */
    public function restore(Request $request, Site $site, PlanDesk $desk): JsonResponse
    {
        $request->validate([
            'files' => ['required_without_all:bagged,change,called', 'array', 'list', 'min:1', 'max:1000'],
            'files.*' => ['integer', 'min:1', 'max:9007199254740991'],
            'bagged' => ['nullable', 'array', 'list', 'min:1', 'max:1000'],
            'bagged.*' => ['integer', 'min:1', 'max:9007199254740991'],
            'change' => ['nullable', 'integer', 'min:1', 'max:9007199254740991'],
            'called' => ['nullable', 'boolean'],
            'elsewhere' => ['nullable', 'boolean'],
        ]);
        $plan = null;
        if ($request->filled('change')) {
            $plan = Change::query()->where('site_id', $site->id)->findOrFail($request->integer('change'))->plan_id;
        }
        $which = new RestingQuestion(
            self::numbers($request, 'files'),
            $plan,
            $request->boolean('called'),
            null,
            self::numbers($request, 'bagged'),
        );
        $planner = new RestorePlanner(new RestoreRequest($which, $request->boolean('elsewhere')));

        return self::planned($request, $site, $planner, $desk);
    }

    /** Somebody looked at what calls a file, and it may rest on. */
    public function restOn(Site $site, int $id): JsonResponse
    {
        $row = DB::table('resting_files')
            ->where('site_id', $site->id)
            ->where('id', $id)
            ->first(['item']);
        abort_unless($row instanceof stdClass, 404);
        DB::table('resting_files')
            ->where('site_id', $site->id)
            ->where('item', $row->item)
            ->update(['called_at' => null, 'called_by' => null, 'rested_at' => now()]);

        return new JsonResponse((new RestingList($site))->lanes());
    }

    public function keep(Request $request, Site $site): JsonResponse
    {
        $data = $request->validate([
            'days' => ['integer', 'min:1', 'max:3650'],
            'leaves_rows' => ['boolean'],
            'restores' => ['boolean'],
            'logs' => ['bail', 'nullable', 'string', 'max:1000', 'starts_with:/'],
            'bags' => ['bail', 'nullable', 'string', 'max:1000', 'starts_with:/'],
            'widths' => ['bail', 'nullable', 'array', 'list', 'max:12'],
            'widths.*' => ['integer', 'min:16', 'max:10000'],
        ]);
        foreach (['logs' => 'watched for logs', 'bags' => 'for the archive'] as $name => $what) {
            $folder = $data[$name] ?? null;
            if (is_string($folder) && ! is_dir($folder)) {
                return self::refused($name, "The folder $what is not there: $folder. Make it, then try again.");
            }
            if ($name === 'bags' && is_string($folder) && ! is_writable($folder)) {
                return self::refused($name, "Ylema may not write into $folder. Give this user the right.");
            }
        }
        if (
            isset($data['bags'])
            && str_starts_with(
                rtrim((string) realpath((string) $data['bags']), '/').'/',
                rtrim((string) realpath($site->connection['folder']), '/').'/',
            )
        ) {
            return self::refused('bags', 'That folder lies in the public tree of the site. Choose one outside of it.');
        }
        if (array_key_exists('bags', $data) && ($bags = self::bagsElsewhere($site, $data['bags'])) > 0) {
            return self::refused('bags', Words::many($bags, 'bag').' of this site '.($bags === 1 ? 'lies' : 'lie')
                .' in the folder of before, and would not be found from another one. Bring back what '
                .($bags === 1 ? 'it holds' : 'they hold').', or end '.($bags === 1 ? 'it' : 'them')
                .', before you choose another folder.');
        }
        $site->update(['keeping' => [...$site->keeping, ...$data]]);

        return new JsonResponse(get_object_vars(Keeping::of($site)));
    }

    /** How many bags would be left behind where their site kept them in another folder. */
    private static function bagsElsewhere(Site $site, mixed $folder): int
    {
        $plain = static fn (mixed $path): ?string => is_string($path) && $path !== ''
            ? (realpath($path) ?: rtrim($path, '/'))
            : null;

        return $plain($folder) === $plain(Keeping::of($site)->bags)
            ? 0
            : DB::table('bags')->where('site_id', $site->id)->count();
    }

    private static function refused(string $field, string $why): JsonResponse
    {
        return new JsonResponse(
            [
                'type' => 'about:blank',
                'title' => 'This cannot be',
                'status' => 422,
                'detail' => $why,
                'errors' => [$field => [$why]],
            ],
            422,
            ['Content-Type' => 'application/problem+json'],
        );
    }

    private static function planned(Request $request, Site $site, Planner $planner, PlanDesk $desk): JsonResponse
    {
        $user = $request->user();
        $plan = $desk->begin($site, $planner, $user instanceof User ? $user : null);

        return new JsonResponse(PlanView::of($plan), 201);
    }

    /** @return list<int>|null */
    private static function numbers(Request $request, string $name): ?array
    {
        $list = $request->input($name);

        return is_array($list)
            ? array_values(array_map(static fn (mixed $n): int => is_numeric($n) ? (int) $n : 0, $list))
            : null;
    }
}
