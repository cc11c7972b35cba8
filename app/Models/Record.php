<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Ylema\Usage\RecordState;

/**
 * @property int $id
 * @property int $site_id
 * @property string $kind
 * @property string $key
 * @property string $title
 * @property string|null $address below the root
 * @property bool $is_page
 * @property bool $everywhere
 * @property int $state see RecordState
 * @property string $hash of everything that a re-reading compares
 * @property string $content_hash of the fields that are read and written
 * @property array<string, string|int|null> $facts
 * @property list<array{field: string, line?: int, message: string}> $problems
 */
final class Record extends Model
{
    protected $guarded = [];

    public $timestamps = false;

    /** @var array<string, string> */
    protected $casts = ['facts' => 'array', 'problems' => 'array', 'is_page' => 'boolean', 'everywhere' => 'boolean'];

    public function recordState(): RecordState
    {
        return RecordState::from($this->state);
    }
}
