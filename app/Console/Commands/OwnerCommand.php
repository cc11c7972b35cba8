<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Models\Role;
use App\Models\User;
use Illuminate\Console\Command;

final class OwnerCommand extends Command
{
    use FindsSites;

    protected $signature = 'ylema:owner {email} {--name= : as it is shown} {--password= : asked for when left out}';

    protected $description = 'Make the first owner of this installation, or a further one';

    public function handle(): int
    {
        $email = mb_strtolower(trim($this->word('email')));
        if (filter_var($email, FILTER_VALIDATE_EMAIL) === false) {
            $this->error("\"$email\" is not an e-mail address.");

            return 2;
        }
        if (User::query()->where('email', $email)->exists()) {
            $this->error("There is an account for $email already.");

            return self::FAILURE;
        }
        $password = $this->option('password');
        if (! is_string($password)) {
            $asked = $this->secret('Password (12 characters or more)');
            $password = is_string($asked) ? $asked : '';
        }
        if (mb_strlen($password) < 12) {
            $this->error('The password needs 12 characters or more.');

            return 2;
        }
        User::query()->create([
            'name' => $this->option('name') ?? strstr($email, '@', true),
            'email' => $email,
            'password' => $password,
            'role' => Role::Owner,
        ]);
        $this->line("$email owns this installation now.");

        return self::SUCCESS;
    }
}
