<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Support\Carbon;

/**
 * One reading of a site, from its start to its landing in the index.
 *
 * @property int $id
 * @property int $site_id
 * @property ReadingState $state
 * @property string $stage what it is doing, in words
 * @property string|null $batch_id
 * @property int|null $started_by
 * @property string|null $problem
 * @property array<string, int|bool> $totals
 * @property bool $prepared whether its chunks are cut
 * @property bool $anew whether everything is read as if it had changed, since the field map or the addresses did
 * @property list<array{path: string, why: string}> $unread what lies among the files but is none that can be read
 * @property bool $accept_loss whether a person said that files which are not there are really gone
 * @property Carbon $started_at
 * @property Carbon|null $finished_at
 * @property-read Site $site
 */
final class Reading extends Model
{
    protected $guarded = [];

    public $timestamps = false;

    /** @var array<string, string> */
    protected $casts = [
        'state' => ReadingState::class,
        'totals' => 'array',
        'unread' => 'array',
        'prepared' => 'boolean',
        'anew' => 'boolean',
        'accept_loss' => 'boolean',
        'started_at' => 'datetime',
        'finished_at' => 'datetime',
    ];

    /** @return BelongsTo<Site, $this> */
    public function site(): BelongsTo
    {
        return $this->belongsTo(Site::class);
    }

    /** @return HasMany<ReadingChunk, $this> */
    public function chunks(): HasMany
    {
        return $this->hasMany(ReadingChunk::class);
    }
}
