<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\HasMany;

/**
 * @property int $id
 * @property int $site_id
 * @property string|null $source_id the id of its row in the source; null for a file that no row knows
 * @property string $path of the original
 * @property string $title
 * @property string $alt
 * @property string $caption
 * @property string $credit
 * @property string $folder
 * @property list<string> $tags
 * @property list<string> $renditions
 * @property string $standing live, waiting, fading or idle
 * @property string $verdict safe, ask or needed: what its proof sheet came to
 * @property string|null $verdict_by the line of it that decided
 * @property int $reach public pages on which a visitor meets it
 * @property int $uses references, broken ones included
 * @property int $broken references through which a visitor does not get it
 * @property array<string, int> $use_kinds
 * @property float|null $focus_x
 * @property float|null $focus_y
 */
final class MediaItem extends Model
{
    protected $guarded = [];

    public $timestamps = false;

    /** @var array<string, string> */
    protected $casts = [
        'tags' => 'array',
        'renditions' => 'array',
        'use_kinds' => 'array',
        'focus_x' => 'float',
        'focus_y' => 'float',
    ];

    /** @return HasMany<MediaFile, $this> */
    public function files(): HasMany
    {
        return $this->hasMany(MediaFile::class);
    }

    /** @return HasMany<MediaReference, $this> */
    public function references(): HasMany
    {
        return $this->hasMany(MediaReference::class);
    }
}
