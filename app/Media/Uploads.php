<?php

declare(strict_types=1);

namespace App\Media;

use App\Bytes\Place;
use App\Models\PlanState;
use App\Models\Site;
use App\Models\User;
use App\Support\SentName;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use Illuminate\Support\Str;
use Ylema\Imaging\CheckedPicture;
use Ylema\Imaging\Embedded;
use Ylema\Imaging\Size;
use Ylema\Imaging\UploadRefused;
use Ylema\Sites\WriteRefused;

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
     * @throws UploadRefused|WriteRefused
     */
    public function take(UploadedFile $file, Site $site, ?User $by): array
    {
        $name = SentName::of($file);
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

        return $this->keep((string) file_get_contents($file->getRealPath()), $name, $site, $by);
    }

    /**
     * @return Facts
     *
     * @throws UploadRefused|WriteRefused
     */
    public function keep(string $bytes, string $name, Site $site, ?User $by = null): array
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
        $place = Place::of('work');
        $place->write("uploads/$token", $bytes);
        // What is said of it comes last: without that it is no upload.
        $place->write(
            "uploads/$token.json",
            json_encode(
                [...$facts, 'site' => $site->id, 'by' => $by?->id],
                JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE,
            ),
        );

        return $facts;
    }

    /**
     * What take() said of it.
     *
     * @param  int  $site that it was sent to
     * @return Facts
     *
     * @throws UploadRefused when it was never taken, or was cleared away since
     */
    public function facts(string $token, int $site): array
    {
        $facts = $this->kept($token);
        if ($facts['site'] !== $site) {
            throw self::unknown();
        }

        return $facts['facts'];
    }

    /**
     * That somebody asks for what they sent themselves, to this site: a token is no way to what others have sent.
     *
     * @throws UploadRefused
     */
    public function expectOwn(string $token, Site $site, mixed $person): void
    {
        $facts = $this->kept($token);
        if ($facts['site'] !== $site->id || ! $person instanceof User || $facts['by'] !== $person->id) {
            throw self::unknown();
        }
    }

    /**
     * @return array{facts: Facts, site: int|null, by: int|null}
     *
     * @throws UploadRefused
     */
    private function kept(string $token): array
    {
        $disk = Storage::disk('work');
        if (preg_match('~^[0-9a-z]{26}$~D', $token) !== 1 || ! $disk->exists("uploads/$token.json")) {
            throw self::unknown();
        }
        $facts = json_decode((string) $disk->get("uploads/$token.json"), true, 8, JSON_THROW_ON_ERROR);
        $said = ['site' => $facts['site'] ?? null, 'by' => $facts['by'] ?? null];
        unset($facts['site'], $facts['by']);

        return ['facts' => $facts, ...$said];
    }

    private static function unknown(): UploadRefused
    {
        return new UploadRefused('The uploaded picture is no longer here. Send it again.');
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
    public function open(string $token, int $site): array
    {
        $facts = $this->facts($token, $site);
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
