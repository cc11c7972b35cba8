<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;

/**
 * One step of a plan, with what came of it. Written in bulk and never through the model, since its key has two columns.
 *
 * @property int $plan_id
 * @property int $position
 * @property StepKind $kind
 * @property string $title
 * @property string|null $record_kind
 * @property string|null $record_key
 * @property string|null $path
 * @property array<string, mixed> $detail
 * @property StepState $state
 * @property string|null $message why it was left out, refused or kept
 * @property int|null $stands_on the later change of ours because of which it was kept
 */
final class PlanStep extends Model
{
    protected $guarded = [];

    public $timestamps = false;

    public $incrementing = false;

    protected $primaryKey = 'position';

    /** @var array<string, string> */
    protected $casts = ['kind' => StepKind::class, 'detail' => 'array', 'state' => StepState::class];

    public function step(): Step
    {
        return $this->kind->restore($this->detail);
    }
}
