<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Exception\BadRequestHttpException;

/**
 * Lets through only what is text: UTF-8 without a NUL, in the address and in all that came with it. No database and no
 * file system takes anything else, and each says so in another way.
 */
final class ReadableInput
{
    /** Nested deeper than any form of the interface. */
    private const DEEPEST = 24;

    /** @param  Closure(Request): Response  $next */
    public function handle(Request $request, Closure $next): Response
    {
        $this->expectText(rawurldecode($request->getPathInfo()));
        $this->expectText($request->query->all());
        if ($request->isJson()) {
            $body = $request->getContent();
            json_decode($body, true, self::DEEPEST);
            if ($body !== '' && json_last_error() !== JSON_ERROR_NONE) {
                throw new BadRequestHttpException(
                    'The body is no JSON that can be read: '.json_last_error_msg().'.',
                );
            }
        }
        $this->expectText($request->request->all());
        $this->expectText($request->json()->all());

        return $next($request);
    }

    private function expectText(mixed $input, int $depth = 0): void
    {
        if (is_array($input)) {
            if ($depth > self::DEEPEST) {
                throw new BadRequestHttpException('The request is nested too deep. Send what the interface sends.');
            }
            foreach ($input as $name => $value) {
                $this->expectText((string) $name);
                $this->expectText($value, $depth + 1);
            }
        } elseif (is_string($input) && (str_contains($input, "\0") || preg_match('//u', $input) !== 1)) {
            throw new BadRequestHttpException(
                'The request holds bytes that are no text in UTF-8. Send it again as text.',
            );
        }
    }
}
