<?php

declare(strict_types=1);

namespace App\Retire;

use App\Media\Differences;
use App\Models\MediaFile;
use App\Sites\OpenSite;
use App\Support\BulkRows;
use App\Support\Clock;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Imaging\Look;

/** Pairs of pictures that look alike from afar, and what came of looking closely at them, once for each content. */
final readonly class Comparisons
{
    public const SAME = 'same';

    public const MARKED = 'marked';

    public const PART = 'part';

    private const APART = 'apart';

    /** They cannot be compared: of another shape, too small, or one cannot be opened. */
    private const NONE = 'none';

    private const BATCH = 20;

    public function __construct(private int $site)
    {
    }

    /**
     * @param  iterable<array{string, string, int|null}>  $pairs content hashes, and which part of the first the second
     *       may be (Look::parts()); null for the whole
     */
    public function ask(iterable $pairs): void
    {
        DB::transaction(function () use ($pairs): void {
            DB::statement(
                'create temporary table likely (one char(64), other char(64), part smallint) on commit drop',
            );
            $rows = new BulkRows('likely', ['one', 'other', 'part']);
            foreach ($pairs as $pair) {
                $rows->add($pair);
            }
            $rows->flush();
            DB::insert(
                'insert into comparisons (one, other, part) '
                    .'select distinct on (one, other) one, other, part from likely '
                    .'where one <> other order by one, other, part nulls first on conflict do nothing',
            );
        });
    }

    public function left(): int
    {
        return $this->open()->count();
    }

    public function areLeft(): bool
    {
        return $this->open()->exists();
    }

    /** @return bool whether all of this site's pairs were looked at when the time was up */
    public function work(OpenSite $site, Differences $differences, int $until): bool
    {
        while (($rows = $this->open()->limit(self::BATCH)->get())->isNotEmpty()) {
            /** @var stdClass $row */
            foreach ($rows as $row) {
                if (Clock::seconds() >= $until) {
                    return false;
                }
                $this->compare($site, $differences, $row);
            }
        }

        return true;
    }

    private function compare(OpenSite $site, Differences $differences, stdClass $row): void
    {
        $file = fn (string $sha): ?MediaFile => MediaFile::query()
            ->where('site_id', $this->site)
            ->where('sha256', $sha)
            ->where('is_original', true)
            ->first();
        [$first, $second] = [$file((string) $row->one), $file((string) $row->other)];
        $part = $row->part === null ? null : Look::place((int) $row->part);
        $found = match (true) {
            $first === null, $second === null => null,
            default => $differences->likely($site, $first, $second, $part),
        };
        $says = match (true) {
            $found === null => self::NONE,
            ! $found->isSame() => self::APART,
            $part !== null => self::PART,
            default => $found->isMarked ? self::MARKED : self::SAME,
        };
        DB::table('comparisons')->where('one', $row->one)->where('other', $row->other)->update(['says' => $says]);
    }

    /** Pairs of which this site has both, and nobody looked at them. */
    private function open(): Builder
    {
        $has = static fn (string $which): string => 'exists (select 1 from files f where f.site_id = ? and '
            ."f.is_original and f.sha256 = comparisons.$which)";

        return DB::table('comparisons')
            ->whereNull('says')
            ->whereRaw($has('one'), [$this->site])
            ->whereRaw($has('other'), [$this->site])
            ->orderBy('one')
            ->orderBy('other');
    }
}
