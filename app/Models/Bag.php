<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * A bag of the archive.
 *
 * @property int $id
 * @property int $site_id
 * @property string $name
 * @property string $state open while it is written, sealed when it is whole
 * @property int $files
 * @property int $weight in bytes
 * @property Carbon $made_at
 * @property Carbon|null $verified_at
 * @property list<string> $trouble what the last look found damaged
 * @property-read Site $site
 */
final class Bag extends Model
{
    public const OPEN = 'open';

    public const SEALED = 'sealed';

    protected $guarded = [];

    public $timestamps = false;

    /** @var array<string, string> */
    protected $casts = ['made_at' => 'datetime', 'verified_at' => 'datetime', 'trouble' => 'array'];

    public function getRouteKeyName(): string
    {
        return 'name';
    }

    /** @return BelongsTo<Site, $this> */
    public function site(): BelongsTo
    {
        return $this->belongsTo(Site::class);
    }
}
