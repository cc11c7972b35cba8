<?php

declare(strict_types=1);

namespace App\Media;

use App\Models\MediaFile;
use App\Sites\OpenSite;
use Illuminate\Support\Facades\DB;
use Ylema\Failure;
use Ylema\Imaging\Look;

/** How pictures look, taken once for each content hash from the small picture that the interface shows. */
final readonly class Looks
{
    public function __construct(private Thumbnails $thumbnails)
    {
    }

    public function take(OpenSite $site, MediaFile $file): void
    {
        try {
            [$type, $bytes] = $this->thumbnails->of($site, $file, 160);
            $look = $type === 'image/webp' ? self::of($bytes) : null;
        } catch (Failure) {
            $look = null;
        }
        DB::insert(
            "insert into looks (sha256, print, cells, plain) values (?, ?, decode(?, 'hex'), ?) on conflict do nothing",
            [
                trim($file->sha256),
                $look?->fingerprint() ?? 0,
                bin2hex($look->cells ?? ''),
                $look === null || $look->isPlain() ? 'true' : 'false',
            ],
        );
    }

    /** @param  string  $bytes of a picture that this program drew itself */
    public static function of(string $bytes): ?Look
    {
        $image = @imagecreatefromstring($bytes);
        if ($image === false) {
            return null;
        }
        $small = imagecreatetruecolor(Look::SIDE, Look::SIDE);
        // What is clear shows the page's ground, mostly white.
        imagefill($small, 0, 0, (int) imagecolorallocate($small, 255, 255, 255));
        imagecopyresampled($small, $image, 0, 0, 0, 0, Look::SIDE, Look::SIDE, imagesx($image), imagesy($image));
        $pixels = [];
        for ($y = 0; $y < Look::SIDE; $y++) {
            for ($x = 0; $x < Look::SIDE; $x++) {
                $rgb = (int) imagecolorat($small, $x, $y);
                $pixels[] = [($rgb >> 16) & 0xFF, ($rgb >> 8) & 0xFF, $rgb & 0xFF];
            }
        }

        return Look::ofPixels($pixels);
    }
}
