<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Site;
use App\Usage\SiteFigures;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

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

    public function update(Request $request, Site $site): JsonResponse
    {
        $site->update(['ask_public' => $request->validate(['ask_public' => ['required', 'boolean']])['ask_public']]);

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
            'read_at' => $site->read_at?->toIso8601String(),
        ];
    }
}
