<?php

declare(strict_types=1);

namespace App\Archive;

use App\Models\Bag;
use App\Models\Site;
use App\Rest\RestStore;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Archive\Bag as Format;
use Ylema\Sites\FileState;

/**
 * Makes a bag of a folder full of files: manifests, tag files, and one whole reading of it. Everything is streamed; no
 * bag is ever in memory.
 */
final readonly class Sealer
{
    private const BATCH = 250;

    public function __construct(private RestStore $rest)
    {
    }

    /** @throws BagTrouble when it is not whole; then all of it rests on */
    public function seal(Bag $bag): void
    {
        $disk = BagDisk::of($bag->site_id, $bag->name);
        if ($bag->state !== Bag::SEALED) {
            $this->leaveCalled($bag, $disk);
            [$files, $weight] = $this->write($bag, $disk);
            $trouble = (new BagCheck($disk))->look();
            if ($trouble !== []) {
                throw BagTrouble::damaged($bag->name, $trouble[0]);
            }
            $bag->update([
                'state' => Bag::SEALED,
                'files' => $files,
                'weight' => $weight,
                'verified_at' => now(),
                'trouble' => [],
            ]);
        }
        $this->letGo($bag);
    }

    /** Whether all that is in it rests no more. */
    public function isDone(Bag $bag): bool
    {
        return $bag->state === Bag::SEALED
            && DB::selectOne(
                'select 1 as one from bag_files b join resting_files f on f.site_id = b.site_id and f.path = b.path '
                    .'and f.sha256 = b.sha256 where b.bag_id = ? limit 1',
                [$bag->id],
            ) === null;
    }

    /** What something asked for while the bag was written stays at rest, and only there. */
    private function leaveCalled(Bag $bag, BagDisk $disk): void
    {
        $called = DB::select(
            'select b.id, b.payload from bag_files b join resting_files f on f.site_id = b.site_id and f.path = b.path '
                .'and f.sha256 = b.sha256 where b.bag_id = ? and f.called_at is not null',
            [$bag->id],
        );
        foreach ($called as $row) {
            $disk->delete((string) $row->payload);
            DB::table('bag_files')->where('id', $row->id)->delete();
        }
    }

    /** @return array{int, int} how many files, how many bytes */
    private function write(Bag $bag, BagDisk $disk): array
    {
        $manifests = $this->temporary(Format::ALGORITHMS);
        $tags = $this->temporary([
            'files.csv',
            'media-rows.json',
            'media-rows.csv',
            'proof.json',
            'proof.csv',
            'uses.json',
            'uses.csv',
        ]);
        $scribe = new BagScribe($tags);
        $files = $weight = 0;
        foreach ($this->files($bag) as $row) {
            $hashes = $disk->hashes((string) $row->payload, Format::ALGORITHMS);
            if ($hashes['sha256'] !== trim((string) $row->sha256)) {
                throw BagTrouble::damaged($bag->name, "$row->payload is not what rests at $row->path");
            }
            foreach ($hashes as $algorithm => $hash) {
                fwrite($manifests[$algorithm], Format::line($hash, (string) $row->payload));
            }
            $scribe->note($row);
            $files++;
            $weight += (int) $row->size;
        }
        $scribe->end();
        $names = ['bagit.txt', 'bag-info.txt'];
        $disk->put('bagit.txt', Format::DECLARATION);
        $disk->put('bag-info.txt', $this->info($bag, $files, $weight));
        foreach ($manifests as $algorithm => $handle) {
            $names[] = Format::manifest($algorithm);
            $this->bring($disk, Format::manifest($algorithm), $handle);
        }
        foreach ($tags as $name => $handle) {
            $names[] = "ylema/$name";
            $this->bring($disk, "ylema/$name", $handle);
        }
        $lines = array_fill_keys(Format::ALGORITHMS, '');
        foreach ($names as $name) {
            foreach ($disk->hashes($name, Format::ALGORITHMS) as $algorithm => $hash) {
                $lines[$algorithm] .= Format::line($hash, $name);
            }
        }
        foreach ($lines as $algorithm => $text) {
            $disk->put(Format::tagManifest($algorithm), $text);
        }

        return [$files, $weight];
    }

    private function info(Bag $bag, int $files, int $weight): string
    {
        $site = Site::query()->findOrFail($bag->site_id);

        return Format::info([
            'Source-Organization' => $site->name,
            'External-Identifier' => $bag->name,
            'External-Description' => "Files of $site->address that nothing used, after their rest",
            'Bagging-Date' => now()->toDateString(),
            'Bag-Size' => number_format($weight / 1_000_000, 1, '.', '').' MB',
            'Payload-Oxum' => "$weight.$files",
            'Bag-Software-Agent' => 'Ylema',
        ]);
    }

    /** The resting copies go, now that the bag was read back whole. */
    private function letGo(Bag $bag): void
    {
        do {
            $rows = DB::select(
                'select f.id, f.path, f.file from bag_files b join resting_files f on f.site_id = b.site_id and '
                    .'f.path = b.path and f.sha256 = b.sha256 where b.bag_id = ? order by f.id limit '
                    .self::BATCH,
                [$bag->id],
            );
            foreach ($rows as $row) {
                $file = json_decode((string) $row->file, true);
                $this->rest->drop(
                    $bag->site_id,
                    (string) $row->path,
                    FileState::fromArray(is_array($file) ? $file : []),
                );
            }
            DB::table('resting_files')
                ->whereIn('id', array_map(static fn (stdClass $row): int => (int) $row->id, $rows))
                ->delete();
        } while (count($rows) === self::BATCH);
    }

    /** @return iterable<stdClass> */
    private function files(Bag $bag): iterable
    {
        return DB::table('bag_files')->where('bag_id', $bag->id)->lazyById(self::BATCH);
    }

    /**
     * @param  list<string>  $names
     * @return array<string, resource>
     */
    private function temporary(array $names): array
    {
        $handles = [];
        foreach ($names as $name) {
            $handles[$name] = tmpfile() ?: throw BagTrouble::unwritten($name, 'there is no room for a temporary file');
        }

        return $handles;
    }

    /** @param  resource  $handle */
    private function bring(BagDisk $disk, string $name, $handle): void
    {
        rewind($handle);
        $disk->put($name, $handle);
        if (is_resource($handle)) {
            fclose($handle);
        }
    }
}
