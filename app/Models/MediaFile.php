<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Ylema\Imaging\PictureFile;
use Ylema\Imaging\Size;

/**
 * A file in the store: an original or one of its renditions.
 *
 * @property int $id
 * @property int $site_id
 * @property string $path
 * @property int $size bytes
 * @property int $modified seconds since 1970
 * @property string $sha256
 * @property int|null $width
 * @property int|null $height
 * @property string $mime
 * @property int|null $media_item_id
 * @property bool $is_original
 * @property string $verdict safe, ask or needed
 */
final class MediaFile extends Model
{
    protected $guarded = [];

    public $timestamps = false;

    protected $table = 'files';

    /** @var array<string, string> */
    protected $casts = ['is_original' => 'boolean'];

    public function asPictureFile(): PictureFile
    {
        return new PictureFile(
            $this->path,
            $this->width === null || $this->height === null ? null : new Size($this->width, $this->height),
            $this->is_original,
        );
    }
}
