<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** Who was invited has not come in yet; a link, of which only a hash is kept, lets them choose a password. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('users', function (Blueprint $table): void {
            $table->timestampTz('joined_at')->nullable();
        });
        DB::statement('update users set joined_at = coalesce(created_at, now())');
        foreach (['invitations', 'password_links'] as $name) {
            Schema::create($name, function (Blueprint $table): void {
                $table->string('email')->primary();
                $table->string('token');
                $table->timestamp('created_at')->nullable();
            });
        }
    }
};
