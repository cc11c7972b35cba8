<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * Somebody's decision that findings which ask for one thing stay as they are. It ends when their cause is another one.
 *
 * @property int $id
 * @property int $site_id
 * @property string $cause see OutcomeKind
 * @property string $asked
 * @property string $reason
 * @property int|null $decided_by
 * @property Carbon $updated_at
 * @property-read User|null $author
 */
final class LetStand extends Model
{
    protected $table = 'let_stand';

    protected $guarded = [];

    /** @return BelongsTo<User, $this> */
    public function author(): BelongsTo
    {
        return $this->belongsTo(User::class, 'decided_by');
    }
}
