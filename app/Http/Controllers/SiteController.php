<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Connect\ConnectionTest;
use App\Models\Site;
use App\Usage\SiteFigures;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Validation\ValidationException;

final class SiteController
{
    public function index(): JsonResponse
    {
        return new JsonResponse(['sites' => Site::query()->orderBy('name')->get()->map(self::site(...))->all()]);
    }

    public function show(Site $site, SiteFigures $figures): JsonResponse
    {
        return new JsonResponse([...self::site($site), 'stages' => $figures->stages($site)]);
    }

    public function update(Request $request, Site $site, ConnectionTest $test): JsonResponse
    {
        $asked = $request->validate([
            'ask_public' => ['required_without_all:at_once,pause,writes', 'boolean'],
            'writes' => ['boolean'],
            'at_once' => ['integer', 'min:1', 'max:16'],
            'pause' => ['integer', 'min:0', 'max:60000'],
        ]);
        if (($asked['writes'] ?? false) === true) {
            // What cannot be written is said before anybody plans on it.
            foreach ($test->of($site, true) as $finding) {
                if (! $finding->isGood) {
                    throw ValidationException::withMessages(['writes' => $finding->words]);
                }
            }
        }
        $site->update($asked);

        return new JsonResponse(self::site($site));
    }

    /** @return array<string, mixed> */
    private static function site(Site $site): array
    {
        return [
            'slug' => $site->slug,
            'name' => $site->name,
            'address' => $site->address,
            'former' => $site->former,
            'aliases' => $site->aliases,
            'reach_at' => (object) $site->reach_at,
            'public_at' => $site->publicAt(),
            'ask_public' => $site->ask_public,
            'at_once' => $site->at_once,
            'pause' => $site->pause,
            'writes' => $site->writes,
            'read_at' => $site->read_at?->toIso8601String(),
        ];
    }
}
