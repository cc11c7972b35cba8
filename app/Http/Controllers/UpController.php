<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use Illuminate\Http\JsonResponse;
use Illuminate\Support\Facades\DB;
use Throwable;

/** Whether Ylema can work, for whoever watches over it; asked without a session, which would need the database. */
final class UpController
{
    public function __invoke(): JsonResponse
    {
        try {
            DB::selectOne('select 1');
        } catch (Throwable) {
            return new JsonResponse(
                [
                    'type' => '/problems/database-away',
                    'title' => 'The database of Ylema does not answer',
                    'status' => 503,
                    'detail' => 'Start the database, or mend what keeps it from answering.',
                ],
                503,
                ['Content-Type' => 'application/problem+json', 'Retry-After' => '30'],
                JSON_UNESCAPED_SLASHES,
            );
        }

        return new JsonResponse(['up' => true]);
    }
}
