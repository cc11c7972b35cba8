<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Media\Thumbnails;
use App\Models\MediaFile;
use App\Models\Site;
use App\Sites\SiteOpener;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

final class PictureController
{
    public function __invoke(
        Request $request,
        Site $site,
        MediaFile $file,
        SiteOpener $opener,
        Thumbnails $thumbnails,
    ): Response {
        abort_unless($file->site_id === $site->id, 404);
        [$type, $bytes] = $thumbnails->of($opener->open($site), $file, $request->integer('w', 160));
        abort_if($bytes === '', 404);

        return self::answer($type, $bytes);
    }

    /** The address carries the content's hash, so what it shows never changes. A drawing may not run code here. */
    public static function answer(string $type, string $bytes): Response
    {
        return new Response($bytes, 200, [
            'Content-Type' => $type,
            'Cache-Control' => 'private, max-age=31536000, immutable',
            'Content-Security-Policy' => "default-src 'none'; style-src 'unsafe-inline'; sandbox",
            'X-Content-Type-Options' => 'nosniff',
        ]);
    }
}
