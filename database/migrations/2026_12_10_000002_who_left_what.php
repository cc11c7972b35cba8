<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** By which key, in which field and at which address a record named what it left behind. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('left_behind', function (Blueprint $table): void {
            $table->text('key')->default('');
            $table->text('field')->default('');
            $table->text('address')->default('');
        });
    }
};
