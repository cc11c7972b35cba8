<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;
use Ylema\Plan\Expectation;

/**
 * A plan that was applied: the journal row. What came of each step stands on the steps of its plan.
 *
 * @property int $id
 * @property int $site_id
 * @property int $plan_id
 * @property string $kind
 * @property ChangeState $state
 * @property string $title
 * @property string $sentence
 * @property string $reason
 * @property array<string, mixed> $expectation
 * @property array<string, int> $counts steps by state
 * @property array<string, mixed>|null $verification
 * @property bool $stop_asked
 * @property bool $followed_up
 * @property bool $look_at_all whether all public pages that it reaches are looked at, not a sample
 * @property int|null $undo_after the change that is undone before this one
 * @property int|null $applied_by
 * @property int|null $undone_by
 * @property Carbon|null $applied_at
 * @property Carbon|null $undone_at
 * @property Carbon $created_at
 * @property-read Site $site
 * @property-read Plan $plan
 * @property-read User|null $author
 * @property-read User|null $undoer
 */
final class Change extends Model
{
    protected $guarded = [];

    /** @var array<string, string> */
    protected $casts = [
        'state' => ChangeState::class,
        'expectation' => 'array',
        'counts' => 'array',
        'verification' => 'array',
        'stop_asked' => 'boolean',
        'followed_up' => 'boolean',
        'look_at_all' => 'boolean',
        'applied_at' => 'datetime',
        'undone_at' => 'datetime',
    ];

    /** What a visitor should meet now: what the plan expected, or the reverse once it is undone. */
    public function expected(): Expectation
    {
        $plan = Expectation::fromArray($this->expectation);

        return $this->state->isBack() ? $plan->inverse() : $plan;
    }

    /** @return BelongsTo<Site, $this> */
    public function site(): BelongsTo
    {
        return $this->belongsTo(Site::class);
    }

    /** @return BelongsTo<Plan, $this> */
    public function plan(): BelongsTo
    {
        return $this->belongsTo(Plan::class);
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

    /** @return Builder<PlanStep> */
    public function steps(): Builder
    {
        return PlanStep::query()->where('plan_id', $this->plan_id);
    }
}
