<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Connect\Coverage;
use App\Connect\DbSamples;
use App\Connect\MapTrial;
use App\Connect\MapVersions;
use App\Models\Site;
use App\Models\User;
use App\Retire\Proofs;
use App\Sites\FieldMapError;
use App\Sites\MapWords;
use App\Usage\Mentioned;
use App\Usage\PlaceQuestions;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Cache;
use Illuminate\Validation\ValidationException;
use Symfony\Component\HttpKernel\Exception\NotFoundHttpException;
use Ylema\Connect\Gap;

/** The field map of a site: shown, tried, changed, taken back, and what it leaves out. */
final readonly class FieldMapController
{
    /** Seconds for which the answer to what a map leaves out is kept; to find it, every table is looked at. */
    private const FRESH = 600;

    /** Tables whose names are offered. */
    private const TABLES = 3000;

    public function __construct(private MapVersions $versions)
    {
    }

    public function show(Site $site): JsonResponse
    {
        return new JsonResponse([
            'map' => $site->field_map,
            'versions' => array_map(
                static fn (array $v): array => [...$v, 'at' => date(DATE_ATOM, (int) strtotime($v['at']))],
                $this->versions->of($site),
            ),
            'lines' => (object) MapWords::lines(),
            'notations' => MapWords::notations(),
        ]);
    }

    public function version(Site $site, string $version): JsonResponse
    {
        return new JsonResponse(['map' => $this->versions->yaml($site, (int) $version) ?? abort(404)]);
    }

    public function try(Request $request, Site $site, MapTrial $trial): JsonResponse
    {
        return new JsonResponse(self::tried($request, $site, $trial));
    }

    public function tables(Site $site): JsonResponse
    {
        return new JsonResponse(['tables' => (object) self::names($site)]);
    }

    /**
     * What may be named in a map of a site, kept for a while: to know it, the whole schema is looked at.
     *
     * @return array<string, list<string>> table → columns
     */
    public static function names(Site $site): array
    {
        $connection = $site->connection;
        if ($connection['dsn'] === '') {
            return [];
        }

        return Cache::remember(
            'tables-'.hash('xxh128', implode("\0", [$connection['dsn'], $connection['user'], $connection['password']])),
            self::FRESH,
            static fn (): array => array_slice(
                (new DbSamples($connection['dsn'], $connection['user'], $connection['password']))->names(),
                0,
                self::TABLES,
            ),
        );
    }

    /** @return array<string, mixed> */
    public static function tried(Request $request, Site $site, MapTrial $trial): array
    {
        $request->validate([
            'map' => ['required', 'string', 'max:1000000'],
            'kind' => ['nullable', 'string', 'max:64'],
        ]);
        $kind = $request->filled('kind') ? $request->string('kind')->toString() : null;

        return $trial->of($site, $request->string('map')->toString(), $kind);
    }

    public function update(Request $request, Site $site): JsonResponse
    {
        $request->validate([
            'map' => ['required', 'string', 'max:1000000'],
            'reason' => ['nullable', 'string', 'max:200'],
        ]);
        $user = $request->user();
        $reason = trim($request->string('reason')->toString());
        try {
            $this->versions->take(
                $site,
                $request->string('map')->toString(),
                $reason === '' ? 'changed in the editor' : $reason,
                $user instanceof User ? $user : null,
            );
        } catch (FieldMapError $e) {
            throw ValidationException::withMessages(['map' => $e->getMessage()]);
        }

        return $this->show($site->refresh());
    }

    public function coverage(Site $site, Coverage $coverage): JsonResponse
    {
        /** @var list<array<string, mixed>> $gaps */
        $gaps = Cache::remember(
            "coverage-$site->id-".hash('xxh128', $site->field_map.$site->read_at?->timestamp),
            self::FRESH,
            static fn (): array => array_map(self::gap(...), $coverage->of($site)),
        );

        return new JsonResponse([
            'gaps' => array_slice($gaps, 0, 500),
            'total' => count($gaps),
            'questions' => (new PlaceQuestions($site))->all(),
            'mentions' => (new Mentioned($site))->groups(),
            'not_searched' => Mentioned::notSearched($site),
            'searched' => $site->beside === null
                ? null
                : ['tables' => $site->beside['tables'], 'files' => $site->beside['files']],
        ]);
    }

    /** What somebody who knows the site says of a place that the map leaves out. */
    public function answer(Request $request, Site $site, string $question): JsonResponse
    {
        $request->validate(['names' => ['required', 'boolean']]);
        $questions = new PlaceQuestions($site);
        if (! $questions->answer((int) $question, $request->boolean('names'))) {
            throw new NotFoundHttpException('This question is not known any more. Load the page again.');
        }

        (new Proofs($site->id))->settle();

        return new JsonResponse(['questions' => $questions->all()]);
    }

    /** @return array<string, mixed> */
    private static function gap(Gap $gap): array
    {
        return [
            'table' => $gap->table,
            'column' => $gap->column,
            'name' => $gap->name,
            'rule' => is_string($gap->rule) ? $gap->rule : json_encode($gap->rule, JSON_UNESCAPED_SLASHES),
            'path' => $gap->path,
            'kind' => $gap->kind,
            'section' => json_encode((object) $gap->section, JSON_UNESCAPED_SLASHES),
            'why' => $gap->why,
            'files' => $gap->files,
            'passing' => $gap->passing,
        ];
    }
}
