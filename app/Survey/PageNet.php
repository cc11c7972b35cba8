<?php

declare(strict_types=1);

namespace App\Survey;

use App\Reading\Nets;
use App\Sites\OpenSite;
use App\Support\BulkRows;
use App\Support\Sql;
use Illuminate\Support\Facades\DB;
use Ylema\Addresses\Resolver;
use Ylema\Addresses\Url;
use Ylema\Net\Mention;
use Ylema\Net\Net;
use Ylema\Net\Strength;
use Ylema\Reading\Reading;

/** The net over what the public site sends: what its pages name in a way that is not read. */
final readonly class PageNet
{
    private Net $net;

    public function __construct(private OpenSite $site)
    {
        $this->net = Nets::of($site->id, null);
    }

    /** @return list<Mention> */
    public function in(string $body, Reading $reading, ?Url $base): array
    {
        $covered = [];
        foreach ($reading->references as $reference) {
            $path = $this->site->addresses->locate($reference->value, $base)?->path;
            $isPasted = str_starts_with(ltrim(substr($reference->value, 0, 40)), 'data:');
            // What leads to a page is understood, and so is what names a file that is there; a query is not.
            if ($isPasted || ($path !== null && ($this->net->names->has($path) || ! Resolver::hasMediaType($path)))) {
                $end = $reference->start + strcspn($reference->raw(), '?');
                $covered[] = [$reference->start, $isPasted ? $reference->end() : $end];
            }
        }

        // A plain word on a page is one that people read.
        return array_values(array_filter(
            $this->net->haul($body, $covered, $reading->charset)->mentions,
            static fn (Mention $mention): bool => $mention->strength !== Strength::Word,
        ));
    }

    /** @param  array<int, list<Mention>>  $pages number of a page → all that it names so now */
    public function keep(array $pages): void
    {
        DB::delete(
            "delete from mentions where source = 'page' and record_id = any(cast(? as bigint[]))",
            [Sql::ids(array_keys($pages))],
        );
        $rows = new BulkRows('mentions', [
            'site_id', 'record_id', 'source', 'field', 'start', 'length', 'folder', 'stem', 'ending', 'strength',
        ]);
        foreach ($pages as $page => $mentions) {
            // Each name once, and none is left out: one that was cut would look as if nothing named it.
            $said = [];
            foreach ($mentions as $mention) {
                if (isset($said[$mention->said()])) {
                    continue;
                }
                $said[$mention->said()] = true;
                $rows->add([
                    $this->site->id, $page, 'page', 'as visitors get it', $mention->start, $mention->length,
                    $mention->folder, $mention->stem, $mention->ending, $mention->strength->value,
                ]);
            }
        }
        $rows->flush();
    }
}
