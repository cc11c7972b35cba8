<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Media\Thumbnails;
use App\Media\Uploads;
use App\Models\Site;
use App\Models\User;
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

        $person = $request->user();

        return new JsonResponse($uploads->take($file, $site, $person instanceof User ? $person : null), 201);
    }

    /** Of one that waits, for a bench that was left and taken up again. */
    public function show(Request $request, Site $site, string $upload, Uploads $uploads): JsonResponse
    {
        $uploads->expectOwn($upload, $site, $request->user());

        return new JsonResponse($uploads->facts($upload, $site->id));
    }

    public function picture(
        Request $request,
        Site $site,
        string $upload,
        Uploads $uploads,
        Thumbnails $thumbnails,
    ): Response {
        $uploads->expectOwn($upload, $site, $request->user());
        [$type, $bytes] = $thumbnails->ofUpload($uploads, $upload, $site->id);

        return PictureController::answer($type, $bytes);
    }
}
