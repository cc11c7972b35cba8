<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Carbon;

/**
 * A site that is being connected: what its owner said so far, and what was proposed.
 *
 * @property int $id
 * @property array<string, mixed> $said as a settings file says it; encrypted at rest
 * @property string $state new, proposing, proposed or failed
 * @property string|null $problem
 * @property string|null $field_map as proposed, or as it was changed since
 * @property array{evidence: array<string, string>, left_out: array<string, string>,
 *     questions: list<array{id: string, words: string, answers: list<array{id: string, words: string}>,
 *     samples: list<string>}>, former?: list<string>, aliases?: list<string>}|null $proposal
 * @property array<string, string> $answers question → answer
 * @property Carbon|null $begun_at when a worker began to work its map out; null while none has
 * @property Carbon|null $updated_at
 */
final class Draft extends Model
{
    protected $guarded = [];

    protected $hidden = ['said'];

    /** @var array<string, mixed> */
    protected $attributes = ['answers' => '{}', 'state' => 'new'];

    /** @var array<string, string> */
    protected $casts = [
        'said' => 'encrypted:array',
        'proposal' => 'array',
        'answers' => 'array',
        'begun_at' => 'datetime',
    ];
}
