<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * One write of a change, with its state: pending until done, then written or refused; undone or kept by undo.
 *
 * @property int $id
 * @property int $change_id
 * @property int $position
 * @property string $target record, file or media-row
 * @property string|null $record_kind
 * @property string|null $record_key
 * @property string $title
 * @property string|null $before_hash
 * @property string|null $after_hash
 * @property array<string, mixed> $detail
 * @property string $state pending, written, refused, undone or kept
 * @property string|null $message
 */
final class ChangeWrite extends Model
{
    protected $guarded = [];

    public $timestamps = false;

    /** @var array<string, string> */
    protected $casts = ['detail' => 'array'];
}
