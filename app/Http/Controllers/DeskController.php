<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Health\Status;
use App\Models\Role;
use App\Models\Site;
use App\Models\User;
use App\Usage\SiteFigures;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

final class DeskController
{
    public function __invoke(Request $request, Site $site, SiteFigures $figures): JsonResponse
    {
        $person = $request->user();
        $isOwner = $person instanceof User && $person->may(Role::Owner);

        return new JsonResponse([
            ...$figures->desk($site),
            // Who owns the installation sees to it; for the others it would be a worry that they can do nothing about.
            'installation' => $isOwner ? Status::now()->toArray()['troubles'] : [],
        ]);
    }
}
