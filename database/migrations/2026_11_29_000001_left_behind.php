<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** What records that are gone left behind: items that nothing names any more. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('left_behind', function (Blueprint $table): void {
            $table->foreignId('site_id')->constrained()->cascadeOnDelete();
            $table->foreignId('media_item_id')->constrained('media_items')->cascadeOnDelete();
            $table->string('kind', 40);
            $table->text('title');
            $table->timestampTz('gone_at');
            $table->unique(['site_id', 'media_item_id']);
        });
    }
};
