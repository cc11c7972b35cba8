<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Site;
use App\Usage\SiteFigures;
use Illuminate\Http\JsonResponse;

final class DeskController
{
    public function __invoke(Site $site, SiteFigures $figures): JsonResponse
    {
        return new JsonResponse($figures->desk($site));
    }
}
