<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Models\Role;
use App\Models\Site;
use App\Models\User;
use Closure;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Storage;
use Symfony\Component\HttpFoundation\Response;

/**
 * Who only looks learns nothing of the machine: where a folder lies belongs to those who look after it. What went wrong
 * names folders in many sentences, also in those that were kept, so they are taken out of the answer.
 */
final readonly class NoMachinePaths
{
    /** @param  Closure(Request): Response  $next */
    public function handle(Request $request, Closure $next): Response
    {
        $response = $next($request);
        $person = $request->user();
        $site = $request->route('site');
        if (! $response instanceof JsonResponse || ! $person instanceof User || $person->role !== Role::Viewer) {
            return $response;
        }
        $paths = self::paths($site instanceof Site ? $site : null);
        $written = [...$paths, ...array_map(static fn (string $path): string => strtr($path, ['/' => '\\/']), $paths)];
        $body = (string) $response->getContent();
        $shown = str_replace($written, '…', $body);
        if ($shown !== $body) {
            $response->setJson($shown);
        }

        return $response;
    }

    /** @return list<string> the longest first */
    private static function paths(?Site $site): array
    {
        $said = [
            storage_path(),
            base_path(),
            ...array_map(static fn (string $disk): string => Storage::disk($disk)->path(''), ['vault', 'rest', 'bags']),
        ];
        $kept = [$site?->connection, $site?->keeping];
        array_walk_recursive($kept, static function (mixed $value) use (&$said): void {
            if (is_string($value)) {
                $said[] = $value;
            }
        });
        $paths = [];
        foreach ($said as $path) {
            $path = rtrim($path, '/');
            // A folder right below the machine's root may be called as one of the public site.
            if (str_starts_with($path, '/') && substr_count($path, '/') > 1) {
                $paths[] = $path;
            }
        }
        usort($paths, static fn (string $a, string $b): int => strlen($b) <=> strlen($a));

        return array_values(array_unique($paths));
    }
}
