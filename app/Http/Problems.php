<?php

declare(strict_types=1);

namespace App\Http;

use App\Adopt\AlreadyFetching;
use App\People\Diary;
use App\People\PersonRefused;
use App\Plans\PlanRefused;
use App\Reading\AlreadyReading;
use App\Sites\FieldMapError;
use App\Support\OwnDatabase;
use App\Survey\AlreadySurveying;
use App\Takeaway\NoSuchPart;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Auth\AuthenticationException;
use Illuminate\Foundation\Configuration\Exceptions;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Validation\ValidationException;
use Symfony\Component\HttpKernel\Exception\HttpExceptionInterface;
use Throwable;
use Ylema\Failure;
use Ylema\Imaging\UploadRefused;
use Ylema\Plan\CannotPlan;
use Ylema\Sites\FileMissing;
use Ylema\Sites\SourceUnavailable;

/**
 * Errors of the API as problem details (RFC 9457): a title that is the same each time, a detail that says what to do.
 */
final class Problems
{
    public static function register(Exceptions $exceptions): void
    {
        $exceptions->dontReport([Failure::class, AlreadyReading::class]);
        $exceptions->render(
            static fn (Throwable $e, Request $request): ?JsonResponse => self::isApi($request) ? self::of($e) : null,
        );
    }

    /** Whatever the address is made of; the framework's own question wants it to be text. */
    private static function isApi(Request $request): bool
    {
        return preg_match('~^/api(?:/|$)~D', rawurldecode($request->getPathInfo())) === 1;
    }

    private static function of(Throwable $e): JsonResponse
    {
        $isForbidden = $e instanceof HttpExceptionInterface && $e->getStatusCode() === 403;
        if ($isForbidden || $e instanceof AuthorizationException) {
            $asked = request()->method().' '.mb_strcut(mb_scrub(request()->path()), 0, 200);
            Diary::note('an access was refused', ['asked' => $asked]);
        }
        [$status, $type, $title, $detail] = match (true) {
            $e instanceof ValidationException => [
                422,
                'invalid',
                'Something in the request is not right',
                $e->getMessage(),
            ],
            $e instanceof UploadRefused => [422, 'upload-refused', 'The upload was refused', $e->getMessage()],
            $e instanceof PlanRefused || $e instanceof CannotPlan => [
                409,
                'plan-refused',
                'This cannot be done as asked',
                $e->getMessage(),
            ],
            $e instanceof PersonRefused => [409, 'refused', 'This cannot be done', $e->getMessage()],
            $e instanceof AlreadyReading => [
                409,
                'already-reading',
                'The site is being read already',
                $e->getMessage(),
            ],
            $e instanceof AlreadySurveying || $e instanceof AlreadyFetching => [
                409,
                'already-asking',
                'Other servers are being asked already',
                $e->getMessage(),
            ],
            $e instanceof SourceUnavailable => [
                503,
                'source-unavailable',
                'The site cannot be reached',
                $e->getMessage(),
            ],
            $e instanceof FieldMapError => [409, 'field-map', 'The field map cannot be used', $e->getMessage()],
            $e instanceof FileMissing, $e instanceof NoSuchPart => [404, 'not-found', 'Not here', $e->getMessage()],
            $e instanceof AuthenticationException => [
                401,
                'signed-out',
                'You are not signed in',
                'Sign in, then try again.',
            ],
            $e instanceof AuthorizationException => [
                403,
                'not-allowed',
                'Your role does not allow this',
                'Ask an owner of this installation for a role that does.',
            ],
            // Whatever else says in words what is wrong, and what to do.
            $e instanceof Failure => [409, 'refused', 'This cannot be done', $e->getMessage()],
            $e instanceof HttpExceptionInterface => self::http($e),
            OwnDatabase::isAway($e) => [
                503,
                'database-away',
                'The database of Ylema does not answer',
                'Nothing was changed. Try again in a minute; if it stays so, start the database.',
            ],
            OwnDatabase::says($e) !== null => [
                503,
                'database-refuses',
                'The database of Ylema takes nothing just now',
                OwnDatabase::says($e),
            ],
            default => [
                500,
                'failed',
                'Something went wrong in Ylema',
                'It was written to the log. Try again; nothing was half done.',
            ],
        };
        $body = ['type' => "/problems/$type", 'title' => $title, 'status' => $status, 'detail' => $detail];
        if ($e instanceof ValidationException) {
            $body['errors'] = $e->errors();
        }
        $headers = $e instanceof HttpExceptionInterface ? $e->getHeaders() : [];

        return new JsonResponse(
            $body,
            $status,
            [...$headers, 'Content-Type' => 'application/problem+json'],
            JSON_UNESCAPED_SLASHES | JSON_INVALID_UTF8_SUBSTITUTE,
        );
    }

    /** @return array{int, string, string, string} */
    private static function http(HttpExceptionInterface $e): array
    {
        return match ($e->getStatusCode()) {
            403 => [
                403,
                'not-allowed',
                'Your role does not allow this',
                'Ask an owner of this installation for a role that does.',
            ],
            404 => [404, 'not-found', 'Not here', 'There is nothing at this address, or it was removed.'],
            405 => [405, 'method', 'This address does not take that method', $e->getMessage()],
            413 => [413, 'too-large', 'Too large', 'The limit for an upload is 40 MB. Save it smaller and try again.'],
            419 => [419, 'stale-session', 'This page is too old', 'Reload it, then try again.'],
            429 => [429, 'too-many', 'Too many tries', 'Wait a minute, then try again.'],
            default => [$e->getStatusCode(), 'failed', 'This did not work', $e->getMessage()],
        };
    }
}
