<?php

declare(strict_types=1);

namespace App\Plans;

use App\Media\Looks;
use App\Media\Pictures;
use App\Sites\OpenSite;
use App\Vault\Vault;
use Closure;
use Ylema\Failure;
use Ylema\Imaging\MediaType;
use Ylema\Imaging\Size;
use Ylema\Plan\Drawing;
use Ylema\Plan\Idle;
use Ylema\Plan\KeptFile;
use Ylema\Plan\MediaFacts;
use Ylema\Sites\FileState;

/** Tries whether a rendition can be drawn again from its original so that it looks the same. */
final readonly class Redrawing
{
    /** Pixels across of what is compared. */
    private const SMALL = 64;

    /**
     * @param  Closure(list<int>): array<int, MediaFacts>  $media
     * @param  Closure(MediaFacts): (KeptFile|null)  $original
     * @param  Closure(Drawing): FileState  $draw
     */
    public function __construct(
        private OpenSite $site,
        private Closure $media,
        private Closure $original,
        private Closure $draw,
        private Vault $vault,
    ) {
    }

    public function isAlike(Idle $rendition): bool
    {
        $file = $rendition->files[0] ?? null;
        if ($file === null) {
            return false;
        }
        try {
            $media = ($this->media)([$rendition->item])[$rendition->item] ?? null;
            $original = $media === null ? null : ($this->original)($media);
            if ($media === null || $original === null || ! $original->isDrawable || $file->pixels === null) {
                return false;
            }
            $drawn = ($this->draw)(
                new Drawing(
                    $original->sha256,
                    $file->pixels,
                    MediaType::extension($file->path),
                    $media->focusX,
                    $media->focusY,
                ),
            );
            $new = self::small($this->vault->get($drawn->sha256), $file->path);
            $old = self::small($this->site->files->read($file->path), $file->path);
        } catch (Failure) {
            return false;
        }
        [$one, $other] = [Looks::of($new), Looks::of($old)];

        return $one !== null && $other !== null && ($one->isSameAs($other) || ($one->isPlain() && $other->isPlain()));
    }

    /** Opened where a picture that is made to do harm does it to nobody. */
    private static function small(string $bytes, string $name): string
    {
        $picture = (new Pictures())->open($bytes, $name);

        return $picture->fill($picture->size->within(new Size(self::SMALL, self::SMALL)), 'png');
    }
}
