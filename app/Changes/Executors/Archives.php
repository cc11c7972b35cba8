<?php

declare(strict_types=1);

namespace App\Changes\Executors;

use App\Archive\BagDisk;
use App\Archive\BagTrouble;
use App\Archive\Sealer;
use App\Models\Bag;
use App\Rest\RestStore;
use App\Rest\RestTrouble;
use App\Sites\OpenSite;
use Illuminate\Support\Facades\DB;
use LogicException;
use stdClass;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;
use Ylema\Plan\Steps\ArchiveFile;
use Ylema\Plan\Steps\SealBag;
use Ylema\Plan\Steps\UnarchiveFile;
use Ylema\Plan\Steps\UnsealBag;
use Ylema\Sites\FileState;

/** Rested files packed into bags, and bags sealed; and the way back, as long as a bag is there. */
final class Archives extends OneByOne
{
    private const BATCH = 250;

    public function __construct(private readonly RestStore $rest, private readonly Sealer $sealer)
    {
    }

    public function kinds(): array
    {
        return [StepKind::ArchiveFile, StepKind::UnarchiveFile, StepKind::SealBag, StepKind::UnsealBag];
    }

    protected function look(OpenSite $site, Step $step): Now
    {
        $bag = $this->bag($site, $step);
        if ($step instanceof SealBag) {
            return match (true) {
                $bag === null => Now::Other,
                default => $this->sealer->isDone($bag) ? Now::After : Now::Before,
            };
        }
        if ($step instanceof UnsealBag) {
            return match (true) {
                $bag === null => Now::Other,
                $bag->state === Bag::SEALED => Now::Before,
                default => Now::After,
            };
        }
        [$isPacked, $rests] = $this->where($site, $bag, $step);

        return $step instanceof ArchiveFile
            ? ($isPacked
                ? Now::After
                : ($rests
                    ? Now::Before
                    : Now::Other))
            : ($isPacked
                ? ($bag?->state === Bag::OPEN
                    ? Now::Before
                    : Now::Other)
                : Now::After);
    }

    protected function carryOut(OpenSite $site, Step $step): ?Step
    {
        try {
            match (true) {
                $step instanceof ArchiveFile => $this->pack($site, $step),
                $step instanceof UnarchiveFile => $this->unpack($site, $step),
                $step instanceof SealBag => $this->sealer->seal(
                    $this->bag($site, $step) ?? throw self::gone($step->bag),
                ),
                $step instanceof UnsealBag => $this->unseal(
                    $site,
                    $this->bag($site, $step) ?? throw self::gone($step->bag),
                ),
                default => throw new LogicException("{$step->kind()->value} is no step with a bag."),
            };
        } catch (BagTrouble|RestTrouble $e) {
            throw new CannotCarryOut($e->getMessage(), previous: $e);
        }

        return null;
    }

    protected function otherwise(Step $step, bool $back): string
    {
        return match (true) {
            $step instanceof ArchiveFile => "{$step->path} rests no more, or something asks for it, so it was not "
                .'archived.',
            $step instanceof UnarchiveFile => "{$step->path} lies in a bag that is sealed or gone, so it was left "
                .'there.',
            default => "The bag {$step->title()} is not there any more.",
        };
    }

    /** @return array{bool, bool} whether it lies in the bag, and whether it rests and nothing asks for it */
    private function where(OpenSite $site, ?Bag $bag, Step $step): array
    {
        if (! $step instanceof ArchiveFile && ! $step instanceof UnarchiveFile) {
            throw new LogicException("{$step->kind()->value} is no step with an archived file.");
        }
        $packed =
            $bag === null
                ? null
                : DB::table('bag_files')
                    ->where('bag_id', $bag->id)
                    ->where('payload', $step->payload)
                    ->first(['id']);
        $resting = DB::table('resting_files')
            ->where('site_id', $site->id)
            ->where('path', $step->path)
            ->where('sha256', $step->file->sha256)
            ->first(['called_at']);

        return [
            $packed !== null,
            $resting instanceof stdClass
            && $resting->called_at === null
            && $this->rest->has($site->id, $step->path, $step->file),
        ];
    }

    private function pack(OpenSite $site, ArchiveFile $step): void
    {
        $bag = Bag::query()->firstOrCreate(
            ['name' => $step->bag],
            ['site_id' => $site->id, 'state' => Bag::OPEN, 'made_at' => now(), 'trouble' => []],
        );
        $disk = BagDisk::of($site->id, $step->bag);
        $bytes = $this->rest->stream($site->id, $step->path, $step->file);
        $disk->put($step->payload, $bytes, $step->file->sha256);
        // What belongs to it now, not what the plan saw.
        DB::insert(
            <<<'SQL'
            insert into bag_files (bag_id, site_id, path, sha256, size, file, payload, item, title, mime, width, height,
                "row", proof, until)
            select cast(? as bigint), site_id, path, sha256, size, file, cast(? as text), item, title, mime, width,
                height, "row", proof, until
            from resting_files where site_id = ? and path = ? and sha256 = ? on conflict do nothing
            SQL
            ,
            [$bag->id, $step->payload, $site->id, $step->path, $step->file->sha256],
        );
    }

    private function unpack(OpenSite $site, UnarchiveFile $step): void
    {
        $bag = $this->bag($site, $step);
        $disk = BagDisk::of($site->id, $step->bag);
        $disk->delete($step->payload);
        DB::table('bag_files')->where('bag_id', $bag?->id)->where('payload', $step->payload)->delete();
        if ($bag !== null && DB::table('bag_files')->where('bag_id', $bag->id)->doesntExist()) {
            $disk->destroy();
            $bag->delete();
        }
    }

    /** All of it rests again, save what lies in its old place by now. */
    private function unseal(OpenSite $site, Bag $bag): void
    {
        $disk = BagDisk::of($site->id, $bag->name);
        $rows = DB::table('bag_files')->where('bag_id', $bag->id)->lazyById(self::BATCH);
        foreach ($rows as $row) {
            $data = json_decode((string) $row->file, true);
            $file = FileState::fromArray(is_array($data) ? $data : []);
            if ($site->files->state((string) $row->path)?->sha256 === $file->sha256) {
                continue;
            }
            if ($disk->hashes((string) $row->payload, ['sha256'])['sha256'] !== $file->sha256) {
                throw BagTrouble::damaged($bag->name, "$row->payload has other bytes");
            }
            if (! $this->rest->has($site->id, (string) $row->path, $file)) {
                $this->rest->put($site->id, (string) $row->path, $file, $disk->stream((string) $row->payload));
            }
            DB::insert(
                <<<'SQL'
                insert into resting_files (site_id, path, sha256, size, file, item, title, mime, width, height, "row",
                    proof, until, rested_at)
                select site_id, path, sha256, size, file, item, title, mime, width, height, "row", proof, until,
                    now() from bag_files where id = ? on conflict do nothing
                SQL
                ,
                [$row->id],
            );
        }
        $bag->update(['state' => Bag::OPEN]);
        foreach ($disk->files() as $path) {
            if (! str_starts_with($path, 'data/')) {
                $disk->delete($path);
            }
        }
    }

    private function bag(OpenSite $site, Step $step): ?Bag
    {
        $name = match (true) {
            $step instanceof ArchiveFile,
            $step instanceof UnarchiveFile,
            $step instanceof SealBag,
            $step instanceof UnsealBag => $step->bag,
            default => '',
        };

        return Bag::query()->where('site_id', $site->id)->where('name', $name)->first();
    }

    private static function gone(string $bag): BagTrouble
    {
        return BagTrouble::damaged($bag, 'it is not there any more');
    }
}
