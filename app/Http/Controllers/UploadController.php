<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Media\Uploads;
use App\Models\Site;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\UploadedFile;
use Ylema\Imaging\UploadRefused;

final class UploadController
{
    public function __invoke(Request $request, Site $site, Uploads $uploads): JsonResponse
    {
        $file = $request->file('picture');
        if (! $file instanceof UploadedFile) {
            throw new UploadRefused(
                'No picture came with the request. Choose one file and send it in the field "picture".',
            );
        }

        return new JsonResponse($uploads->take($file), 201);
    }
}
