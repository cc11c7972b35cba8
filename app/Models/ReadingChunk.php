<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A part of a reading that one job does: a range of keys of one kind, or of file paths.
 *
 * @property int $id
 * @property int $reading_id
 * @property string $kind a kind of record, or "files"
 * @property string|null $after_key
 * @property string|null $to_key
 * @property bool $begun
 * @property bool $done
 * @property int $records
 * @property int $changed
 * @property int $refs
 * @property list<array{kind: string, key: string, title: string, field: string, line?: int, message: string}> $problems
 * @property array{tables?: int, files?: int, left: list<array{place: string, why: string}>, more: int}|null $beside
 * @property-read Reading $reading
 */
final class ReadingChunk extends Model
{
    protected $guarded = [];

    public $timestamps = false;

    /** @var array<string, string> */
    protected $casts = ['problems' => 'array', 'beside' => 'array', 'done' => 'boolean', 'begun' => 'boolean'];

    /** @return BelongsTo<Reading, $this> */
    public function reading(): BelongsTo
    {
        return $this->belongsTo(Reading::class);
    }
}
