<?php

declare(strict_types=1);

namespace App\Plans;

use App\Media\Uploads;
use App\Models\MediaFile;
use App\Models\MediaItem;
use App\Models\MediaReference;
use App\Usage\Boxes;
use Ylema\Imaging\Crop;
use Ylema\Imaging\MediaType;
use Ylema\Imaging\PictureFile;
use Ylema\Imaging\Size;
use Ylema\Imaging\UploadRefused;
use Ylema\Swap\Fit;
use Ylema\Swap\Manner;

/** What will look different, for the bench: said while somebody chooses, and in the plan's own words. */
final readonly class Fitting
{
    /** More places than a bench shows. */
    private const PLACES = 5000;

    public function __construct(private Uploads $uploads, private Boxes $boxes)
    {
    }

    /**
     * @param  MediaItem|null  $to null with an upload
     * @param  string|null  $alt of the new item, with an upload
     * @return array{alike: bool, notes: list<string>, places: array<int, string>} whether the shapes are alike; what
     *       is so everywhere; and for references what is so there
     *
     * @throws UploadRefused
     */
    public function of(
        MediaItem $from,
        ?MediaItem $to,
        string $upload,
        Manner $manner,
        bool $keepShape,
        ?string $alt,
    ): array {
        $before = $this->original($from);
        $after = $to === null ? null : $this->original($to);
        $facts = $to === null ? $this->uploads->facts($upload, $from->site_id) : null;
        $size = match (true) {
            $facts === null => $after?->size,
            $facts['width'] === null || $facts['height'] === null => null,
            default => new Size($facts['width'], $facts['height']),
        };
        $type = $facts === null ? MediaType::extension((string) $to?->path) : $facts['extension'];
        $alike = Fit::areAlike($before?->size, $size);
        if ($keepShape && ! $alike && $size !== null && $before?->size !== null) {
            $crop = Crop::toFill($size, $before->size);
            $size = new Size($crop->width, $crop->height);
        }
        $old = MediaType::extension($from->path);
        if (MediaType::of($from->path) !== MediaType::Picture) {
            return ['alike' => true, 'notes' => [], 'places' => []];
        }
        $fit = new Fit(
            $before?->size,
            $size,
            $old,
            $manner === Manner::SameAddress ? $old : $type,
            false,
            $facts['animated'] ?? false,
            $manner === Manner::SameAddress || $facts === null ? null : (string) $alt,
        );
        $places = [];
        $references = MediaReference::query()
            ->where('media_item_id', $from->id)
            ->orderBy('id')
            ->limit(self::PLACES)
            ->get();
        foreach ($this->boxes->of(array_values($references->all())) as $id => $box) {
            $says = $fit->inBox($box);
            if ($says !== null) {
                $places[$id] = $says;
            }
        }

        return ['alike' => $alike, 'notes' => $fit->notes(), 'places' => $places];
    }

    private function original(MediaItem $item): ?PictureFile
    {
        $file = $item->files()->where('is_original', true)->first();

        return $file instanceof MediaFile ? $file->asPictureFile() : null;
    }
}
