<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Media\Thumbnails;
use App\Media\Uploads;
use App\Models\Site;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Http\UploadedFile;
use Ylema\Imaging\UploadRefused;

final class UploadController
{
    public function store(Request $request, Site $site, Uploads $uploads): JsonResponse
    {
        $file = $request->file('picture');
        if (! $file instanceof UploadedFile) {
            throw new UploadRefused(
                'No picture came with the request. Choose one file and send it in the field "picture".',
            );
        }

        return new JsonResponse($uploads->take($file), 201);
    }

    /** Of one that waits, for a bench that was left and taken up again. */
    public function show(Site $site, string $upload, Uploads $uploads): JsonResponse
    {
        return new JsonResponse($uploads->facts($upload));
    }

    public function picture(Site $site, string $upload, Uploads $uploads, Thumbnails $thumbnails): Response
    {
        [$type, $bytes] = $thumbnails->ofUpload($uploads, $upload);

        return PictureController::answer($type, $bytes);
    }
}
