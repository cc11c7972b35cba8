<?php

declare(strict_types=1);

namespace App\Logs;

use App\Models\Site;
use App\Retire\Proofs;
use App\Retire\Watch;
use App\Retire\WhoseLog;
use App\Sites\FieldMap;
use App\Support\BulkRows;
use App\Support\WorkLock;
use Carbon\CarbonImmutable;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Logs\AskedFor;
use Ylema\Logs\Askers;
use Ylema\Logs\LogFormat;
use Ylema\Logs\LogTally;

/**
 * Reads access logs, plain or packed by gzip, as a stream. A log is known by its first line, so that one that was read
 * to some line goes on behind it, also when it was renamed or packed meanwhile; no request counts twice.
 */
final class LogReader
{
    private const CHUNK = 1 << 18;

    /** Bytes of one line; what is longer is no line of a log. */
    private const LONGEST = 1 << 16;

    /** Seconds after which nobody writes a log any more that was not written since. */
    private const QUIET = 60;

    /** What a first line is told by. */
    private const BEGINNING = 4096;

    /** What requests of this program say of themselves. */
    private const SELF = 'Ylema';

    /**
     * @param  string  $file where it lies on this machine
     * @param  string  $name what somebody calls it
     *
     * @throws LogProblem
     */
    public function read(Site $site, string $file, string $name): LogRead
    {
        $lock = WorkLock::take(WorkLock::LOG, $site->id);
        if ($lock === null) {
            throw new LogProblem('Another access log of this site is being read. Try again when it is done.');
        }
        try {
            return $this->readOn($site, $file, $name);
        } finally {
            $lock->release();
        }
    }

    /** What was read counts from now on: in the proof sheets, and for files at rest that somebody asked for. */
    public function settle(Site $site): void
    {
        (new Watch($site))->ofLogs();
        (new Proofs($site->id))->settle();
    }

    private function readOn(Site $site, string $file, string $name): LogRead
    {
        $stream = $this->open($file, $name);
        $first = gzgets($stream, self::BEGINNING);
        if ($first === false || $first === '') {
            gzclose($stream);

            return new LogRead($name, 0, 0, '', 0, null, null);
        }
        $begins = hash('sha256', $first);
        $known = DB::table('log_files')->where('site_id', $site->id)->where('begins', $begins)->first();
        $from = $known instanceof stdClass ? (int) $known->bytes : 0;
        $tally = new LogTally(
            new LogFormat(),
            new Askers($site->addresses(), self::SELF),
            $site->addresses(),
            FieldMap::parse($site->field_map)->mediaFolders,
        );
        // Of a log that was cut short since, nothing is left to read behind its end.
        gzseek($stream, $from);
        try {
            $isWhole = (int) @filemtime($file) < time() - self::QUIET;
            $this->stream(new LogPlace($site->id, $name, $begins, $isWhole), $stream, $tally, $from);
        } finally {
            gzclose($stream);
        }

        return new LogRead(
            $name,
            $tally->lines,
            $tally->broken,
            $tally->example,
            $tally->requests,
            $tally->from === 0 ? null : CarbonImmutable::createFromTimestamp($tally->from),
            $tally->until === 0 ? null : CarbonImmutable::createFromTimestamp($tally->until),
            WhoseLog::of($site, $begins),
        );
    }

    /** @param  resource  $stream */
    private function stream(LogPlace $place, $stream, LogTally $tally, int $at): void
    {
        $rest = '';
        while (! gzeof($stream)) {
            $chunk = gzread($stream, self::CHUNK);
            if ($chunk === false || $chunk === '') {
                break;
            }
            $lines = explode("\n", $rest.$chunk);
            $rest = (string) array_pop($lines);
            foreach ($lines as $line) {
                $at += strlen($line) + 1;
                $tally->add(rtrim(substr($line, 0, self::LONGEST), "\r"));
            }
            if ($tally->isFull()) {
                $this->keep($place, $tally, $at);
            }
            if (strlen($rest) > self::LONGEST * 4) {
                $at += strlen($rest);
                $tally->add(substr($rest, 0, self::LONGEST));
                $rest = '';
            }
        }
        // The last line may go on; of a log that is still written, it is read next time.
        if ($rest !== '' && $place->isWhole) {
            $at += strlen($rest);
            $tally->add(rtrim(substr($rest, 0, self::LONGEST), "\r"));
        }
        $this->keep($place, $tally, $at);
    }

    /** @return resource */
    private function open(string $file, string $name)
    {
        if (is_dir($file) || ! is_file($file)) {
            throw new LogProblem("There is no log \"$name\" on this machine. Say the path of a file.");
        }
        // Read plain where it is not packed.
        $stream = @gzopen($file, 'rb');

        return $stream === false
            ? throw new LogProblem("The log \"$name\" cannot be read. Give this user the right to read it.")
            : $stream;
    }

    /** What was counted and how far, together: a process that is killed in between counts nothing twice. */
    private function keep(LogPlace $place, LogTally $tally, int $at): void
    {
        $paths = $tally->take();
        if ($tally->lines > 0 && $tally->broken === $tally->lines) {
            throw new LogProblem(
                "\"$place->name\" is no access log in the Common or Combined Log Format. "
                    .'A line that could not be read: '
                    .$tally->example,
            );
        }
        DB::transaction(function () use ($place, $paths, $tally, $at): void {
            $found = $this->count($place->site, $paths);
            $this->note($place, $at, $tally, $found);
        });
    }

    /**
     * @param  array<array-key, AskedFor>  $paths
     * @return int how many requests were for files that are there
     */
    private function count(int $site, array $paths): int
    {
        if ($paths === []) {
            return 0;
        }
        DB::statement('drop table if exists pg_temp.counted');
        DB::statement(
            'create temporary table counted (path text, visitors bigint, other_sites bigint, mail bigint, '
                .'robots bigint, missed bigint, last bigint, last_person bigint, pages jsonb) on commit drop',
        );
        $rows = new BulkRows('counted', [
            'path',
            'visitors',
            'other_sites',
            'mail',
            'robots',
            'missed',
            'last',
            'last_person',
            'pages',
        ]);
        foreach ($paths as $path => $asked) {
            $rows->add([
                (string) $path,
                $asked->visitors,
                $asked->otherSites,
                $asked->mail,
                $asked->robots,
                $asked->missed,
                $asked->last,
                $asked->lastPerson === 0 ? null : $asked->lastPerson,
                $asked->pages === [] ? ['' => 0] : $asked->pages,
            ]);
        }
        $rows->flush();
        // Two paths of broken bytes may be one to PostgreSQL.
        DB::insert(
            <<<'SQL'
            insert into asked_for as a (site_id, path, visitors, other_sites, mail, robots, missed, last_at,
                last_person_at, pages)
            select cast(? as bigint), path, sum(visitors), sum(other_sites), sum(mail), sum(robots), sum(missed),
                to_timestamp(max(last)), to_timestamp(max(last_person)),
                (array_agg(pages - '' order by visitors))[1]
            from counted group by path
            on conflict (site_id, md5(path)) do update set visitors = a.visitors + excluded.visitors,
                other_sites = a.other_sites + excluded.other_sites, mail = a.mail + excluded.mail,
                robots = a.robots + excluded.robots, missed = a.missed + excluded.missed,
                last_at = greatest(a.last_at, excluded.last_at),
                last_person_at = greatest(a.last_person_at, excluded.last_person_at),
                pages = (select coalesce(jsonb_object_agg(page, n), '{}') from (
                    select page, sum(n::bigint) as n from (
                        select * from jsonb_each_text(a.pages) union all select * from jsonb_each_text(excluded.pages)
                    ) as said(page, n) group by page order by 2 desc limit 12) as most)
            SQL
            ,
            [$site],
        );
        $found = DB::selectOne(
            'select coalesce(sum(c.visitors + c.other_sites + c.mail + c.robots), 0) as n from counted c '
                .'join files f on f.site_id = ? and f.path = c.path',
            [$site],
        );

        return $found instanceof stdClass ? (int) $found->n : 0;
    }

    private function note(LogPlace $place, int $at, LogTally $tally, int $found): void
    {
        $time = static fn (int $time): ?string => $time === 0
            ? null
            : CarbonImmutable::createFromTimestamp($time)->toIso8601String();
        $new = $place->since($tally);
        DB::insert(
            <<<'SQL'
            insert into log_files as f (site_id, name, begins, bytes, lines, broken, example, requests, from_at,
                until_at, own, found, hosts, read_at)
            values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, cast(? as jsonb), now())
            on conflict (site_id, begins) do update set name = excluded.name, bytes = greatest(f.bytes, excluded.bytes),
                lines = f.lines + excluded.lines, broken = f.broken + excluded.broken,
                example = case when f.example = '' then excluded.example else f.example end,
                requests = f.requests + excluded.requests, from_at = least(f.from_at, excluded.from_at),
                until_at = greatest(f.until_at, excluded.until_at), own = f.own + excluded.own,
                found = f.found + excluded.found, hosts = f.hosts || excluded.hosts, read_at = now()
            SQL
            ,
            [
                $place->site,
                mb_scrub($place->name),
                $place->begins,
                $at,
                $new['lines'],
                $new['broken'],
                mb_scrub($tally->example),
                $new['requests'],
                $time($tally->from),
                $time($tally->until),
                $new['own'],
                $found,
                BulkRows::json($tally->hosts === [] ? ['' => 0] : $tally->hosts),
            ],
        );
    }
}
