<?php

declare(strict_types=1);

namespace App\Archive;

use App\Models\Bag;
use App\Rest\RestStore;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Sites\FileState;

/** What lies in the bags of a site, for whoever wants it back. */
final readonly class Bags
{
    public function __construct(private RestStore $rest)
    {
    }

    public function has(int $site, string $path, FileState $file): bool
    {
        return $this->find($site, $path, $file) !== null;
    }

    /**
     * Brings the bytes of a file to its rest, from where they are given back like any other.
     *
     * @throws BagTrouble when its bag is damaged or gone
     */
    public function fetch(int $site, string $path, FileState $file): void
    {
        $row = $this->find($site, $path, $file);
        if ($row === null) {
            return;
        }
        $disk = BagDisk::of($site, (string) $row->bag);
        if ($disk->hashes((string) $row->payload, ['sha256'])['sha256'] !== $file->sha256) {
            throw BagTrouble::damaged((string) $row->bag, "$row->payload has other bytes");
        }
        $this->rest->put($site, $path, $file, $disk->stream((string) $row->payload));
    }

    private function find(int $site, string $path, FileState $file): ?stdClass
    {
        $row = DB::table('bag_files as f')
            ->join('bags as b', 'b.id', '=', 'f.bag_id')
            ->where('f.site_id', $site)
            ->where('f.path', $path)
            ->where('f.sha256', $file->sha256)
            ->where('b.state', Bag::SEALED)
            ->orderByDesc('b.id')
            ->first(['f.payload', 'b.name as bag']);

        return $row instanceof stdClass ? $row : null;
    }
}
