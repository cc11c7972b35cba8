<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Logs\LogProblem;
use App\Logs\LogReader;
use App\Logs\WatchedLogs;
use App\Models\Site;
use App\Retire\WhoseLog;
use App\Support\SentName;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use stdClass;
use Symfony\Component\HttpKernel\Exception\NotFoundHttpException;

/** Access logs that were read, and those that are sent. Paths of the machine are said on the command line only. */
final class LogController
{
    private const LISTED = 200;

    public function index(Site $site): JsonResponse
    {
        return new JsonResponse(['logs' => self::logs($site)]);
    }

    public function store(Request $request, Site $site, LogReader $logs): JsonResponse
    {
        $request->validate(['log' => ['required', 'file']]);
        $file = $request->file('log');
        if (! $file instanceof UploadedFile) {
            throw new LogProblem('The log did not arrive. Send it again.');
        }
        $read = $logs->read($site, $file->getPathname(), SentName::of($file));
        // Of a log without news, nothing has to be counted anew.
        if ($read->lines > 0) {
            $logs->settle($site);
        }

        return new JsonResponse([
            'said' => trim("{$read->sentence()} {$read->whose?->doubt()}"),
            'logs' => self::logs($site),
        ], 201);
    }

    /** A maintainer says that a log is the site's own, though it does not look so. */
    public function accept(Site $site, string $log, LogReader $logs): JsonResponse
    {
        $row = DB::table('log_files')->where('site_id', $site->id)->where('id', (int) $log)->first();
        if (! $row instanceof stdClass) {
            throw new NotFoundHttpException('This log is not known any more. Load the page again.');
        }
        WhoseLog::row($row)->accept();
        $logs->settle($site);

        return new JsonResponse([
            'said' => "“{$row->name}” counts as this site’s own log.",
            'logs' => self::logs($site),
        ]);
    }

    /** The watched folder, now rather than at its hour. */
    public function watched(Site $site, WatchedLogs $watched): JsonResponse
    {
        return new JsonResponse(['said' => implode(' ', $watched->read($site)), 'logs' => self::logs($site)]);
    }

    /** @return list<array<string, mixed>> */
    private static function logs(Site $site): array
    {
        $at = static fn (?string $time): ?string => $time === null ? null : date(DATE_ATOM, (int) strtotime($time));

        return array_values(
            DB::table('log_files')
                ->where('site_id', $site->id)
                ->orderByRaw('until_at desc nulls last')
                ->limit(self::LISTED)
                ->get()
                ->map(
                    static fn (stdClass $row): array => [
                        'id' => (int) $row->id,
                        'doubt' => WhoseLog::row($row)->doubt(),
                        'can_accept' => WhoseLog::row($row)->own > 0,
                        'name' => (string) $row->name,
                        'lines' => (int) $row->lines,
                        'broken' => (int) $row->broken,
                        'example' => (string) $row->example,
                        'requests' => (int) $row->requests,
                        'from' => $at($row->from_at),
                        'until' => $at($row->until_at),
                        'read_at' => $at($row->read_at),
                    ],
                )
                ->all(),
        );
    }
}
