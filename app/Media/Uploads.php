<?php

declare(strict_types=1);

namespace App\Media;

use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\Storage;
use Illuminate\Support\Str;
use Ylema\Imaging\CheckedPicture;
use Ylema\Imaging\Embedded;
use Ylema\Imaging\Size;
use Ylema\Imaging\UploadCheck;
use Ylema\Imaging\UploadRefused;

/** Uploads that wait for a plan. What is refused is never stored. */
final class Uploads
{
    /**
     * @return array{token: string, name: string, width: int|null, height: int|null, extension: string, weight: int, title: string, caption: string, credit: string, animated: bool, turned: bool}
     *
     * @throws UploadRefused
     */
    public function take(UploadedFile $file): array
    {
        $name = $file->getClientOriginalName();
        if (! $file->isValid()) {
            throw new UploadRefused(
                match ($file->getError()) {
                    UPLOAD_ERR_INI_SIZE,
                    UPLOAD_ERR_FORM_SIZE => "\"$name\" is larger than the limit of 40 MB. Save it smaller and try again.",
                    UPLOAD_ERR_PARTIAL => "\"$name\" did not arrive whole. Send it again.",
                    default => "\"$name\" could not be received. Send it again.",
                },
            );
        }

        return $this->keep((string) file_get_contents($file->getRealPath()), $name);
    }

    /**
     * @return array{token: string, name: string, width: int|null, height: int|null, extension: string, weight: int, title: string, caption: string, credit: string, animated: bool, turned: bool}
     *
     * @throws UploadRefused
     */
    public function keep(string $bytes, string $name): array
    {
        $picture = (new UploadCheck())->judge($bytes, $name);
        if (in_array($picture->extension, Pictures::WRITABLE, true)) {
            Pictures::decode($bytes, $name);
        }
        $token = Str::lower((string) Str::ulid());
        $facts = [
            'token' => $token,
            'name' => $name,
            'width' => $picture->size?->width,
            'height' => $picture->size?->height,
            'extension' => $picture->extension,
            'weight' => strlen($bytes),
            'title' => $picture->embedded->title,
            'caption' => $picture->embedded->caption,
            'credit' => $picture->embedded->credit,
            'animated' => $picture->embedded->isAnimated,
            'turned' => $picture->embedded->orientation !== 1,
        ];
        Storage::disk('work')->put("uploads/$token", $bytes);
        Storage::disk('work')->put(
            "uploads/$token.json",
            json_encode($facts, JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE),
        );

        return $facts;
    }

    /**
     * What take() said of it.
     *
     * @return array{token: string, name: string, width: int|null, height: int|null, extension: string, weight: int, title: string, caption: string, credit: string, animated: bool, turned: bool}
     *
     * @throws UploadRefused when it was never taken, or was cleared away since
     */
    public function facts(string $token): array
    {
        $disk = Storage::disk('work');
        if (preg_match('~^[0-9a-z]{26}$~D', $token) !== 1 || ! $disk->exists("uploads/$token.json")) {
            throw new UploadRefused('The uploaded picture is no longer here. Send it again.');
        }

        return json_decode((string) $disk->get("uploads/$token.json"), true, 8, JSON_THROW_ON_ERROR);
    }

    /**
     * @return array{bytes: string, name: string, picture: CheckedPicture}
     *
     * @throws UploadRefused when it was never taken, or was cleared away since
     */
    public function open(string $token): array
    {
        $facts = $this->facts($token);
        $bytes = (string) Storage::disk('work')->get("uploads/$token");
        $size = $facts['width'] === null || $facts['height'] === null
            ? null
            : new Size($facts['width'], $facts['height']);

        return [
            'bytes' => $bytes,
            'name' => $facts['name'],
            'picture' => new CheckedPicture($facts['extension'], '', $size, Embedded::in($bytes)),
        ];
    }
}
