<?php

declare(strict_types=1);

namespace App\Media;

use App\Bytes\Place;
use App\Models\MediaFile;
use App\Sites\OpenSite;
use Illuminate\Support\Facades\Storage;
use Ylema\Imaging\Size;
use Ylema\Imaging\UploadRefused;
use Ylema\Sites\WriteRefused;

/** Small pictures for the interface, drawn once for each content hash and width and then kept. */
final class Thumbnails
{
    /** @return array{string, string} type and bytes */
    public function of(OpenSite $site, MediaFile $file, int $width): array
    {
        $width = $width <= 160 ? 160 : ($width <= 480 ? 480 : 1200);
        $sha = trim($file->sha256);
        $kept = 'thumbs/'.substr($sha, 0, 2)."/$sha-$width.webp";
        $disk = Storage::disk('work');
        if ($disk->exists($kept)) {
            return ['image/webp', (string) $disk->get($kept)];
        }
        $bytes = $site->files->read($this->source($file, $width)->path);
        if ($file->mime === 'image/svg+xml') {
            return [$file->mime, $bytes];
        }
        try {
            $bytes = self::small($bytes, $file->path, $width);
        } catch (UploadRefused) {
            return ['', ''];
        }
        self::keep($kept, $bytes);

        return ['image/webp', $bytes];
    }

    /**
     * Of an upload that waits for its plan.
     *
     * @return array{string, string} type and bytes
     *
     * @throws UploadRefused
     */
    public function ofUpload(Uploads $uploads, string $token, int $site): array
    {
        $upload = $uploads->open($token, $site);

        return $this->ofBytes($upload['bytes'], $upload['picture']->extension, hash('sha256', $upload['bytes']));
    }

    /**
     * @param  string  $extension by their content, in lower case
     * @return array{string, string} type and bytes
     *
     * @throws UploadRefused for what is no picture
     */
    public function ofBytes(string $bytes, string $extension, string $sha): array
    {
        if ($extension === 'svg') {
            return ['image/svg+xml', $bytes];
        }
        if (! in_array($extension, Pictures::WRITABLE, true)) {
            throw new UploadRefused('This file has no picture to show.');
        }
        $kept = 'thumbs/'.substr($sha, 0, 2)."/$sha-480.webp";
        $disk = Storage::disk('work');
        if ($disk->exists($kept)) {
            return ['image/webp', (string) $disk->get($kept)];
        }
        $small = self::small($bytes, 'The picture', 480);
        self::keep($kept, $small);

        return ['image/webp', $small];
    }

    /** Where there is no room for it, it is drawn anew each time. */
    private static function keep(string $kept, string $bytes): void
    {
        try {
            Place::of('work')->write($kept, $bytes);
        } catch (WriteRefused) {
            // The picture itself is there.
        }
    }

    private static function small(string $bytes, string $name, int $width): string
    {
        $picture = (new Pictures())->open($bytes, $name);

        return $picture->fill($picture->size->within(new Size($width, $width * 3)), 'webp');
    }

    /** A rendition of the same shape spares decoding an original of many megapixels. */
    private function source(MediaFile $file, int $width): MediaFile
    {
        if (! $file->is_original || $file->width === null || $file->height === null || $file->width <= $width) {
            return $file;
        }
        $ratio = $file->width / $file->height;

        return MediaFile::query()
            ->where('media_item_id', $file->media_item_id)
            ->where('width', '>=', $width)
            ->whereRaw('abs(cast(width as float) / height - ?) < 0.02', [$ratio])
            ->orderBy('width')
            ->first() ?? $file;
    }
}
