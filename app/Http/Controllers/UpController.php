<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Health\Metrics;
use App\Health\Status;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use Throwable;

/**
 * Whether Ylema can work, for whoever watches over it; asked without a session, which would need the database. Whoever
 * shows the monitor's token (RFC 6750, 2.1) is told how it fares, and is answered 503 where it does not fare well.
 */
final class UpController
{
    public function __invoke(Request $request): JsonResponse
    {
        if (! self::answers()) {
            return self::away();
        }
        if ($request->bearerToken() === null) {
            return new JsonResponse(['up' => true]);
        }
        if (! self::isMonitor($request)) {
            return self::unknown();
        }
        $said = Status::now()->toArray();

        return new JsonResponse($said, $said['well'] === true ? 200 : 503, [], JSON_UNESCAPED_SLASHES);
    }

    /** The same in the OpenMetrics text format. */
    public function metrics(Request $request): Response|JsonResponse
    {
        if (! self::isMonitor($request)) {
            return self::unknown();
        }

        return self::answers()
            ? new Response(Metrics::of(Status::now()), 200, ['Content-Type' => Metrics::TYPE])
            : self::away();
    }

    /** What fails later is a fault of Ylema, and not called a database that is away. */
    private static function answers(): bool
    {
        try {
            DB::selectOne('select 1');

            return true;
        } catch (Throwable) {
            return false;
        }
    }

    private static function isMonitor(Request $request): bool
    {
        $token = config('health.token');

        return is_string($token) && strlen($token) >= 16 && hash_equals($token, (string) $request->bearerToken());
    }

    private static function unknown(): JsonResponse
    {
        return self::problem(
            401,
            'not-the-monitor',
            'This is for the monitor of this installation',
            'Send its token: Authorization: Bearer TOKEN. It is YLEMA_MONITOR_TOKEN in the settings, at least 16 '
                .'characters long.',
            ['WWW-Authenticate' => 'Bearer realm="Ylema"'],
        );
    }

    private static function away(): JsonResponse
    {
        return self::problem(
            503,
            'database-away',
            'The database of Ylema does not answer',
            'Start the database, or mend what keeps it from answering.',
            ['Retry-After' => '30'],
        );
    }

    /** @param  array<string, string>  $headers */
    private static function problem(
        int $status,
        string $type,
        string $title,
        string $detail,
        array $headers,
    ): JsonResponse {
        return new JsonResponse(
            ['type' => "/problems/$type", 'title' => $title, 'status' => $status, 'detail' => $detail],
            $status,
            ['Content-Type' => 'application/problem+json', ...$headers],
            JSON_UNESCAPED_SLASHES,
        );
    }
}
