<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Support\Carbon;

/**
 * A plan that was applied: the journal row.
 *
 * @property int $id
 * @property int $site_id
 * @property int|null $plan_id
 * @property ChangeState $state
 * @property string $title
 * @property string $reason
 * @property array<string, mixed> $summary
 * @property array<string, mixed>|null $verification
 * @property int|null $applied_by
 * @property int|null $undone_by
 * @property Carbon|null $applied_at
 * @property Carbon|null $undone_at
 * @property Carbon $created_at
 * @property-read Site $site
 * @property-read User|null $author
 * @property-read User|null $undoer
 */
final class Change extends Model
{
    protected $guarded = [];

    /** @var array<string, string> */
    protected $casts = ['state' => ChangeState::class, 'summary' => 'array', 'verification' => 'array', 'applied_at' => 'datetime', 'undone_at' => 'datetime'];

    /** @return BelongsTo<Site, $this> */
    public function site(): BelongsTo
    {
        return $this->belongsTo(Site::class);
    }

    /** @return BelongsTo<User, $this> */
    public function author(): BelongsTo
    {
        return $this->belongsTo(User::class, 'applied_by');
    }

    /** @return BelongsTo<User, $this> */
    public function undoer(): BelongsTo
    {
        return $this->belongsTo(User::class, 'undone_by');
    }

    /** @return HasMany<ChangeWrite, $this> */
    public function writes(): HasMany
    {
        return $this->hasMany(ChangeWrite::class);
    }
}
