<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Connect\ConnectionTest;
use App\Connect\Connector;
use App\Connect\Finding;
use App\Connect\MapTrial;
use App\Connect\ProposeForDraft;
use App\Connect\Settings;
use App\Models\Draft;
use App\Models\User;
use App\Reading\ReadSite;
use App\Sites\FieldMap;
use App\Sites\FieldMapError;
use App\Sites\MapWords;
use App\Sites\Remote\RemoteFiles;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Validation\ValidationException;
use InvalidArgumentException;

/** Connecting a site, in steps that can be left and taken up again. */
final readonly class DraftController
{
    /** Never answered. */
    private const SECRETS = ['password', 'key', 'secret'];

    public function __construct(private Connector $connector, private ConnectionTest $test)
    {
    }

    public function index(): JsonResponse
    {
        return new JsonResponse([
            'drafts' => Draft::query()->orderByDesc('id')->limit(50)->get()->map($this->line(...))->all(),
        ]);
    }

    public function store(Request $request): JsonResponse
    {
        $draft = Draft::query()->create([
            'said' => $this->said($request, null),
            'made_by' => $request->user()?->getKey(),
        ]);

        return new JsonResponse($this->whole($draft->refresh()), 201);
    }

    public function show(Draft $draft): JsonResponse
    {
        ProposeForDraft::giveUp($draft);

        return new JsonResponse($this->whole($draft));
    }

    /** What was said before holds for a password that is left empty. */
    public function update(Request $request, Draft $draft): JsonResponse
    {
        $draft->update([
            'said' => $this->said($request, $draft),
            'state' => 'new',
            'field_map' => null,
            'proposal' => null,
        ]);

        return new JsonResponse($this->whole($draft));
    }

    public function propose(Request $request, Draft $draft): JsonResponse
    {
        /** @var array{answers?: array<string, string>} $asked */
        $asked = $request->validate(['answers' => ['array'], 'answers.*' => ['string', 'max:200']]);
        $draft->update([
            'state' => 'proposing',
            'begun_at' => null,
            'problem' => null,
            'answers' => [...$draft->answers, ...$asked['answers'] ?? []],
        ]);
        ProposeForDraft::dispatch($draft->id);

        return new JsonResponse($this->whole($draft->refresh()), 202);
    }

    public function map(Request $request, Draft $draft): JsonResponse
    {
        $request->validate(['map' => ['required', 'string', 'max:1000000']]);
        $yaml = $request->string('map')->toString();
        try {
            FieldMap::parse($yaml);
        } catch (FieldMapError $e) {
            throw ValidationException::withMessages(['map' => $e->getMessage()]);
        }
        $draft->update(['field_map' => $yaml]);

        return new JsonResponse($this->whole($draft));
    }

    /** A map held against the source before it is kept, with samples of what it reads. */
    public function try(Request $request, Draft $draft, MapTrial $trial): JsonResponse
    {
        $site = $this->connector->draftOf($draft);

        return new JsonResponse(FieldMapController::tried($request, $site, $trial));
    }

    public function tables(Draft $draft): JsonResponse
    {
        $site = $this->connector->draftOf($draft);

        return new JsonResponse(['tables' => (object) FieldMapController::names($site)]);
    }

    /** Keeps the site, and has it read for the first time. */
    public function connect(Request $request, Draft $draft, ReadSite $readSite): JsonResponse
    {
        if ($draft->field_map === null) {
            throw ValidationException::withMessages(['map' => 'There is no field map yet. Have one proposed first.']);
        }
        try {
            $site = $this->connector->connect($this->connector->draftOf($draft), $draft->field_map);
        } catch (InvalidArgumentException $e) {
            throw ValidationException::withMessages(['name' => $e->getMessage()]);
        }
        $user = $request->user();
        $draft->delete();
        $readSite->begin($site, $user instanceof User ? $user : null);

        return new JsonResponse(['slug' => $site->slug], 201);
    }

    public function destroy(Draft $draft): JsonResponse
    {
        $draft->delete();

        return new JsonResponse(null, 204);
    }

    /** @return array<string, mixed> as a settings file would say it */
    private function said(Request $request, ?Draft $before): array
    {
        /**
         * @var array{name: string, address: string, former?: list<string>, engine: string, host?: string|null,
         *     port?: int|null, database?: string|null, user?: string|null, password?: string|null, file?: string|null,
         *     files?: string|null, reach_at?: string|null, remote?: array<string, string|null>|null} $asked
         */
        $asked = $request->validate([
            'name' => ['required', 'string', 'max:120'],
            'address' => ['required', 'string', 'max:500'],
            'former' => ['array', 'max:20'],
            'former.*' => ['string', 'max:500'],
            'engine' => ['required', 'in:postgresql,mariadb,mysql,sqlite,folder'],
            'host' => ['nullable', 'string', 'max:255'],
            'port' => ['nullable', 'integer', 'min:1', 'max:65535'],
            'database' => ['nullable', 'string', 'max:255'],
            'user' => ['nullable', 'string', 'max:255'],
            'password' => ['nullable', 'string', 'max:1000'],
            'file' => ['nullable', 'string', 'max:1000'],
            'files' => [
                'bail',
                'required_without:remote',
                'required_if:engine,folder',
                'nullable',
                'string',
                'max:1000',
                'starts_with:/',
            ],
            // Each by its name: a rule for "whatever is in there" would take minutes with a list of thousands.
            'remote' => ['bail', 'nullable', 'array:kind,'.implode(',', RemoteFiles::names())],
            'remote.kind' => ['required_with:remote', 'in:sftp,s3'],
            ...array_fill_keys(
                array_map(static fn (string $name): string => "remote.$name", RemoteFiles::names()),
                ['nullable', 'string', 'max:20000'],
            ),
            'reach_at' => ['nullable', 'string', 'max:255'],
        ]);
        $content = array_filter(
            [
                'engine' => $asked['engine'],
                'host' => $asked['host'] ?? null,
                'port' => $asked['port'] ?? null,
                'database' => $asked['database'] ?? null,
                'user' => $asked['user'] ?? null,
                'file' => $asked['file'] ?? null,
                'password' => $asked['password'] ?? $this->kept($before),
            ],
            static fn (mixed $v): bool => $v !== null && $v !== '',
        );
        $host = (string) parse_url($asked['address'], PHP_URL_HOST);
        $said = array_filter(
            [
                'name' => $asked['name'],
                'address' => $asked['address'],
                'former' => $asked['former'] ?? [],
                'reach_at' => ($asked['reach_at'] ?? '') === '' ? [] : [$host => $asked['reach_at'] ?? ''],
                'content' => $asked['engine'] === 'folder' ? $asked['files'] ?? '' : $content,
                'files' => isset($asked['remote']) ? $this->remote($asked['remote'], $before) : $asked['files'] ?? '',
            ],
            static fn (mixed $v): bool => $v !== [],
        );
        try {
            Settings::fromArray($said, '/');
        } catch (InvalidArgumentException $e) {
            throw ValidationException::withMessages(['settings' => $e->getMessage()]);
        }

        return $said;
    }

    private function kept(?Draft $before): ?string
    {
        $content = $before?->said['content'] ?? null;

        return is_array($content) && is_string($content['password'] ?? null) ? $content['password'] : null;
    }

    /**
     * What was said before holds for secrets that are left empty.
     *
     * @param  array<string, string|null>  $asked
     * @return array<string, array<string, string>> as a settings file says it
     */
    private function remote(array $asked, ?Draft $before): array
    {
        $kind = (string) ($asked['kind'] ?? '');
        $files = $before?->said['files'] ?? null;
        $kept = is_array($files) && is_array($files[$kind] ?? null) ? $files[$kind] : [];
        $own = array_filter(
            array_diff_key($asked, ['kind' => 1]),
            static fn (?string $v): bool => $v !== null && $v !== '',
        );
        foreach (self::SECRETS as $secret) {
            if (! isset($own[$secret]) && is_string($kept[$secret] ?? null)) {
                $own[$secret] = $kept[$secret];
            }
        }

        return [$kind => $own];
    }

    /** @return array<string, string|bool>|null without its secrets */
    private static function remoteSaid(mixed $files): ?array
    {
        if (! is_array($files) || ! is_string(array_key_first($files))) {
            return null;
        }
        $kind = array_key_first($files);
        $own = is_array($files[$kind]) ? array_filter($files[$kind], is_string(...)) : [];

        return [
            'kind' => $kind,
            ...array_diff_key($own, array_flip(self::SECRETS)),
            'has_secret' => array_intersect_key($own, array_flip(self::SECRETS)) !== [],
        ];
    }

    /** @return array<string, mixed> */
    private function line(Draft $draft): array
    {
        return [
            'id' => $draft->id,
            'name' => is_string($draft->said['name'] ?? null) ? $draft->said['name'] : '',
            'address' => is_string($draft->said['address'] ?? null) ? $draft->said['address'] : '',
            'state' => $draft->state,
            'at' => $draft->updated_at?->toIso8601String(),
        ];
    }

    /** @return array<string, mixed> */
    private function whole(Draft $draft): array
    {
        $said = $draft->said;
        $content = is_array($said['content'] ?? null) ? array_diff_key($said['content'], ['password' => 1]) : [];
        $reach = is_array($said['reach_at'] ?? null) ? array_values($said['reach_at'])[0] ?? null : null;

        return [
            ...$this->line($draft),
            'said' => [
                'name' => $said['name'] ?? '',
                'address' => $said['address'] ?? '',
                'former' => $said['former'] ?? [],
                'engine' => $content['engine'] ?? 'folder',
                'host' => $content['host'] ?? null,
                'port' => $content['port'] ?? null,
                'database' => $content['database'] ?? null,
                'user' => $content['user'] ?? null,
                'file' => $content['file'] ?? null,
                'has_password' => $this->kept($draft) !== null,
                'files' => is_string($said['files'] ?? null) ? $said['files'] : '',
                'remote' => self::remoteSaid($said['files'] ?? null),
                'reach_at' => $reach,
            ],
            'problem' => $draft->problem,
            'tested' => $this->tested($draft),
            'map' => $draft->field_map,
            'lines' => (object) MapWords::lines(),
            'notations' => MapWords::notations(),
            'questions' => array_map(
                static fn (array $q): array => [...$q, 'answer' => $draft->answers[$q['id']] ?? null],
                $draft->proposal['questions'] ?? [],
            ),
            'kinds' => $this->kinds($draft),
            'left_out' => array_map(
                static fn (string $table, string $why): array => ['table' => $table, 'why' => $why],
                array_map(strval(...), array_keys($draft->proposal['left_out'] ?? [])),
                array_values($draft->proposal['left_out'] ?? []),
            ),
        ];
    }

    /** @return list<array{what: string, good: bool, words: string}> */
    private function tested(Draft $draft): array
    {
        if ($draft->state === 'proposing') {
            return [];
        }
        $site = $this->connector->draftOf($draft);
        $site->field_map = $draft->field_map ?? '';

        return array_map(
            static fn (Finding $f): array => ['what' => $f->what, 'good' => $f->isGood, 'words' => $f->words],
            $this->test->of($site),
        );
    }

    /**
     * @return list<array{kind: string, table: string, address: string|null,
     *     fields: list<array{name: string, why: string|null}>}>
     */
    private function kinds(Draft $draft): array
    {
        if ($draft->field_map === null) {
            return [];
        }
        try {
            $map = FieldMap::parse($draft->field_map);
        } catch (FieldMapError) {
            return [];
        }
        $kinds = [];
        foreach ($map->kinds as $kind) {
            $fields = [];
            foreach ($kind->fields as $field) {
                $names = array_map(strval(...), array_keys($field->rules));
                $fields[] = [
                    'name' => $field->column,
                    'why' => $field->by === null
                            ? $draft->proposal['evidence']["$kind->table.$field->column"] ?? null
                            : "of the rows that $field->by calls ".implode(', ', $names),
                ];
            }
            foreach ($kind->shows as $path) {
                $fields[] = [
                    'name' => $path->text,
                    'why' => $draft->proposal['evidence']["$kind->table.shows"] ?? null,
                ];
            }
            $kinds[] = [
                'kind' => $kind->kind,
                'table' => $kind->isOfFiles() ? implode(', ', $kind->patterns) : $kind->table,
                'address' => implode(', ', array_column($kind->addresses, 'text')) ?: null,
                'fields' => $fields,
            ];
        }

        return $kinds;
    }
}
