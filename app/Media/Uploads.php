<?php

declare(strict_types=1);

namespace App\Media;

use App\Models\PlanState;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use Illuminate\Support\Str;
use Ylema\Imaging\CheckedPicture;
use Ylema\Imaging\Embedded;
use Ylema\Imaging\Size;
use Ylema\Imaging\UploadRefused;

/**
 * Uploads that wait for a plan. What is refused is never stored.
 *
 * @phpstan-type Facts array{
 *     token: string,
 *     name: string,
 *     width: int|null,
 *     height: int|null,
 *     extension: string,
 *     weight: int,
 *     title: string,
 *     caption: string,
 *     credit: string,
 *     animated: bool,
 *     turned: bool,
 * }
 */
final class Uploads
{
    /** Seconds that an upload waits for its plan. */
    private const WAIT = 86_400;

    /**
     * @return Facts
     *
     * @throws UploadRefused
     */
    public function take(UploadedFile $file): array
    {
        $name = $file->getClientOriginalName();
        if (! $file->isValid()) {
            throw new UploadRefused(
                match ($file->getError()) {
                    UPLOAD_ERR_INI_SIZE, UPLOAD_ERR_FORM_SIZE => "\"$name\" is larger than the limit of 40 MB. "
                        .'Save it smaller and try again.',
                    UPLOAD_ERR_PARTIAL => "\"$name\" did not arrive whole. Send it again.",
                    default => "\"$name\" could not be received. Send it again.",
                },
            );
        }

        return $this->keep((string) file_get_contents($file->getRealPath()), $name);
    }

    /**
     * @return Facts
     *
     * @throws UploadRefused
     */
    public function keep(string $bytes, string $name): array
    {
        $pictures = new Pictures();
        $picture = $pictures->check()->judge($bytes, $name);
        if (in_array($picture->extension, Pictures::WRITABLE, true)) {
            $pictures->open($bytes, $name);
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
     * @return Facts
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
     * Those of which no plan is left that could be made again go after a day.
     *
     * @return int how many went
     */
    public function clear(): int
    {
        $disk = Storage::disk('work');
        $old = array_filter(
            $disk->files('uploads'),
            static fn (string $path): bool => $disk->lastModified($path) < time() - self::WAIT,
        );
        $used = DB::table('plans')
            ->whereIn('state', [PlanState::Making, PlanState::Open, PlanState::Refused])
            ->whereRaw("request::text ~ '[0-9a-z]{26}'")
            ->pluck('request')
            ->implode("\n");
        $gone = 0;
        foreach ($old as $path) {
            if (! str_contains($used, pathinfo($path, PATHINFO_FILENAME))) {
                $disk->delete($path);
                $gone += str_ends_with($path, '.json') ? 1 : 0;
            }
        }
        foreach ($disk->directories('pictures') as $folder) {
            if ($disk->lastModified($folder) < time() - self::WAIT) {
                $disk->deleteDirectory($folder);
            }
        }

        return $gone;
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
