<?php

declare(strict_types=1);

namespace App\Rest;

use App\Models\Bag;
use App\Vault\Vault;
use Illuminate\Support\Facades\DB;

/** Where else the bytes of a file are kept, for whoever has lost them. */
final readonly class Copies
{
    /** Places that are named. */
    private const NAMED = 3;

    public function __construct(private Vault $vault)
    {
    }

    /** @return list<string> such as `in the bag x.zip`; none where no other copy is known */
    public function of(int $site, string $sha256): array
    {
        $bags = DB::table('bag_files as f')->join('bags as b', 'b.id', '=', 'f.bag_id')
            ->where('f.site_id', $site)->where('f.sha256', $sha256)->where('b.state', Bag::SEALED)
            ->limit(self::NAMED)->get(['b.name', 'f.payload'])
            ->map(static fn (object $row): string => "in the bag $row->name ($row->payload)");
        $files = DB::table('files')->where('site_id', $site)->where('sha256', $sha256)
            ->limit(self::NAMED)->pluck('path')->map(static fn (mixed $path): string => "at $path");
        $kept = $this->vault->has($sha256) ? ['in the vault ('.substr($sha256, 0, 2)."/$sha256)"] : [];

        return array_values([...$bags->all(), ...$kept, ...$files->all()]);
    }
}
