<?php

declare(strict_types=1);

namespace App\Retire;

use App\Models\Site;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Plan\Words;

/**
 * Whether an access log is the site's own. One that speaks of other hosts alone, or hardly ever of files that are
 * there, is the log of something else, and no witness until somebody says that it is one.
 */
final readonly class WhoseLog
{
    /** A page is a request, and so is each of its pictures: of so many lines, one is for a file that is there. */
    private const LINES = 200;

    /** SQL: logs that are a witness. */
    public const IS_WITNESS = 'own > 0 and (accepted or found * '.self::LINES.' >= own)';

    /** Hosts that are named in a sentence. */
    private const NAMED = 3;

    /** @param  array<string, int>  $hosts others → how many lines */
    private function __construct(
        private int $id,
        public int $lines,
        public int $own,
        public int $found,
        public array $hosts,
        public bool $isAccepted,
    ) {
    }

    public static function of(Site $site, string $begins): ?self
    {
        $row = DB::table('log_files')->where('site_id', $site->id)->where('begins', $begins)->first();

        return $row instanceof stdClass ? self::row($row) : null;
    }

    /** @param  stdClass  $row of the table of logs */
    public static function row(stdClass $row): self
    {
        $hosts = json_decode((string) $row->hosts, true);
        $hosts = array_filter(array_map(intval(...), is_array($hosts) ? $hosts : []));
        arsort($hosts);

        return new self(
            (int) $row->id,
            (int) $row->lines,
            (int) $row->own,
            (int) $row->found,
            $hosts,
            $row->accepted === true,
        );
    }

    /** A maintainer says that it is the site's own, though it does not look so. */
    public function accept(): self
    {
        DB::table('log_files')->where('id', $this->id)->update(['accepted' => true]);

        return new self($this->id, $this->lines, $this->own, $this->found, $this->hosts, true);
    }

    /** @return string|null what speaks against it, in sentences; null where nothing does, or somebody said otherwise */
    public function doubt(): ?string
    {
        if ($this->lines === 0 || ($this->isAccepted && $this->own > 0)) {
            return null;
        }
        $named = implode(', ', array_slice(array_keys($this->hosts), 0, self::NAMED));
        if ($this->own === 0) {
            return 'Not this site’s log? No line is of this site'.($named === '' ? '' : "; it speaks of $named")
                .'. It counts for nothing.';
        }

        return $this->found * self::LINES >= $this->own
            ? null
            : 'Not this site’s log? '.($this->found === 0 ? 'No request' : 'Only '.Words::many($this->found, 'request'))
                .' of '.Words::many($this->own, 'line').' is for a file that is there'
                .($named === '' ? '' : "; it also speaks of $named")
                .'. It counts for nothing until you say that it is the site’s own.';
    }
}
