<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Support\Carbon;
use Ylema\Plan\Expectation;

/**
 * A list of steps that is proposed; nothing of it is done before it is applied.
 *
 * @property int $id
 * @property int $site_id
 * @property string $kind which planner made it, and makes it again
 * @property PlanState $state
 * @property string $title
 * @property string $sentence
 * @property array<string, mixed> $request what was asked for
 * @property array<string, mixed> $outline what the plan says of itself: notes, pictures, bench, expectation
 * @property array<string, int> $counts steps by state; references; pages reached
 * @property list<array{id: int, title: string, address: string}> $pages the first of those reached
 * @property int $made steps made so far
 * @property int $expected about how many there will be
 * @property string|null $problem why it could not be made
 * @property int|null $made_by
 * @property Carbon $created_at
 * @property-read Site $site
 * @property-read Change|null $change
 */
final class Plan extends Model
{
    protected $guarded = [];

    /** @var array<string, string> */
    protected $casts = [
        'state' => PlanState::class,
        'request' => 'array',
        'outline' => 'array',
        'counts' => 'array',
        'pages' => 'array',
    ];

    public function expectation(): Expectation
    {
        $kept = $this->outline['expectation'] ?? null;

        return Expectation::fromArray(is_array($kept) ? $kept : []);
    }

    /** @return BelongsTo<Site, $this> */
    public function site(): BelongsTo
    {
        return $this->belongsTo(Site::class);
    }

    /** @return HasMany<PlanStep, $this> */
    public function steps(): HasMany
    {
        return $this->hasMany(PlanStep::class);
    }

    /** @return \Illuminate\Database\Eloquent\Relations\HasOne<Change, $this> */
    public function change(): \Illuminate\Database\Eloquent\Relations\HasOne
    {
        return $this->hasOne(Change::class);
    }
}
