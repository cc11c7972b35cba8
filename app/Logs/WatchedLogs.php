<?php

declare(strict_types=1);

namespace App\Logs;

use App\Models\Site;
use App\Retire\Keeping;
use Illuminate\Support\Facades\DB;

/** The folder that is watched for access logs: read behind where it was read to, whatever it is called by now. */
final readonly class WatchedLogs
{
    private const FILES = 2000;

    public function __construct(private LogReader $logs)
    {
    }

    /** @return list<string> what was new, or could not be read, one sentence each */
    public function read(Site $site): array
    {
        $folder = Keeping::of($site)->logs;
        if ($folder === null) {
            return [];
        }
        $names = is_dir($folder) ? @scandir($folder) : false;
        if ($names === false) {
            return ["The folder of access logs ($folder) cannot be listed. Give this user the right to read it."];
        }
        $said = [];
        $isNew = false;
        $read = $this->readAt($site);
        foreach (array_slice($names, 0, self::FILES) as $name) {
            $file = "$folder/$name";
            if (! is_file($file) || preg_match('~\.(?:log|gz|\d+)$|access~i', $name) !== 1) {
                continue;
            }
            // What nobody wrote since is not unpacked again to find that out.
            if (isset($read[$name]) && (int) @filemtime($file) < $read[$name]) {
                continue;
            }
            try {
                $new = $this->logs->read($site, $file, $name);
                if ($new->lines > 0) {
                    $isNew = true;
                    $said[] = trim("{$new->sentence()} {$new->whose?->doubt()}");
                }
            } catch (LogProblem $e) {
                $said[] = $e->getMessage();
            }
        }
        if ($isNew) {
            $this->logs->settle($site);
        }

        return $said;
    }

    /** @return array<array-key, int> name → when it was read last, in seconds since 1970 */
    private function readAt(Site $site): array
    {
        $at = [];
        $rows = DB::table('log_files')->where('site_id', $site->id)->orderBy('read_at')->get(['name', 'read_at']);
        foreach ($rows as $row) {
            $at[(string) $row->name] = (int) strtotime((string) $row->read_at);
        }

        return $at;
    }
}
