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
 * @property Carbon|null $ended_at since when they may not come in any more
 */
final class User extends Authenticatable
{
    protected $fillable = ['name', 'email', 'password', 'role'];

    protected $hidden = ['password', 'remember_token'];

    /** @var array<string, string> */
    protected $casts = ['password' => 'hashed', 'role' => Role::class, 'ended_at' => 'datetime'];

    /** @var array<string, mixed> */
    protected $attributes = ['ended_at' => null];

    public function may(Role $needed): bool
    {
        return $this->ended_at === null && $this->role->covers($needed);
    }
}
