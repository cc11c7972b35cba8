<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Foundation\Auth\User as Authenticatable;
use Illuminate\Support\Carbon;

/**
 * @property int $id
 * @property string $name
 * @property string $email
 * @property string $password hashed
 * @property Role $role
 * @property Carbon|null $joined_at when they chose their password; null while they are only invited
 * @property Carbon|null $ended_at since when they may not come in any more
 */
final class User extends Authenticatable
{
    protected $fillable = ['name', 'email', 'password', 'role', 'joined_at'];

    protected $hidden = ['password', 'remember_token'];

    /** @var array<string, string> */
    protected $casts = [
        'password' => 'hashed',
        'role' => Role::class,
        'joined_at' => 'datetime',
        'ended_at' => 'datetime',
    ];

    /** @var array<string, mixed> */
    protected $attributes = ['joined_at' => null, 'ended_at' => null];

    public function may(Role $needed): bool
    {
        return $this->ended_at === null && $this->role->covers($needed);
    }
}
