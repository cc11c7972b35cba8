<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Support\Facades\DB;

return new class extends Migration
{
    public function up(): void
    {
        DB::statement('alter table plan_steps add column gives text, add column needs text[]');
        // Of plans that were made before nobody knows which record names what: each that cannot be taken back keeps all
        // that is new.
        DB::statement(
            "update plan_steps set gives = case kind when 'add-media' then 'row ' || coalesce(detail->>'promise', '') "
                ."else 'file ' || path end where kind in ('add-media', 'write-file', 'move-file')",
        );
        DB::statement(
            <<<'SQL'
            update plan_steps e set needs = n.marks from (
                select plan_id, array_agg(gives) as marks from plan_steps where gives is not null
                    and (kind = 'add-media' or (kind = 'write-file' and detail->'before' = 'null'))
                group by plan_id having count(*) <= 200
            ) n where n.plan_id = e.plan_id and e.kind in ('edit-record', 'add-media')
            SQL,
        );
        DB::statement('create index plan_steps_gives on plan_steps (plan_id, gives) where gives is not null');
    }

    public function down(): void
    {
        DB::statement('alter table plan_steps drop column gives, drop column needs');
    }
};
