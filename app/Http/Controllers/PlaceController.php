<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Site;
use App\Usage\SiteFigures;
use Illuminate\Http\JsonResponse;

/** Findings by cause. */
final class PlaceController
{
    public function __construct(private readonly SiteFigures $figures)
    {
    }

    public function findings(Site $site): JsonResponse
    {
        return new JsonResponse(['families' => $this->figures->families($site)]);
    }
}
