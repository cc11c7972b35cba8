<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Site;
use App\Takeaway\MapTable;
use App\Takeaway\Sitemap;
use Illuminate\Http\Request;
use Illuminate\Validation\Rule;
use Symfony\Component\HttpFoundation\StreamedResponse;

/** The map of a site to take along. */
final class MapController
{
    private const TYPES = [
        'ndjson' => ['application/x-ndjson; charset=utf-8', 'ndjson'],
        'csv' => ['text/csv; charset=utf-8; header=present', 'csv'],
        'sitemap' => ['application/xml; charset=utf-8', 'xml'],
    ];

    public function export(Request $request, Site $site): StreamedResponse
    {
        $request->validate([
            'as' => ['required', Rule::in(array_keys(self::TYPES))],
            'kind' => ['nullable', 'string', 'max:40'],
            'standing' => ['nullable', Rule::in(['live', 'waiting', 'fading', 'idle'])],
            'path' => ['nullable', 'string', 'max:500'],
            'outcome' => ['nullable', 'string', 'max:24'],
            'part' => ['nullable', 'integer', 'min:1', 'max:1000'],
        ]);
        $only = [];
        foreach (['kind', 'standing', 'path', 'outcome'] as $mark) {
            $only[$mark] = $request->filled($mark) ? $request->string($mark)->toString() : null;
        }
        $form = $request->string('as')->toString();
        [$type, $ending] = self::TYPES[$form];
        $part = $request->integer('part', 1);

        $table = new MapTable($site, $only);
        $lines = match ($form) {
            'csv' => $table->csv(),
            'sitemap' => (new Sitemap($site))->xml($part),
            default => $table->ndjson(),
        };
        // What is wrong is said before the answer has begun.
        $lines->rewind();

        return new StreamedResponse(
            static function () use ($lines): void {
                foreach ($lines as $line) {
                    echo $line;
                }
            },
            200,
            [
                'Content-Type' => $type,
                'Content-Disposition' => "attachment; filename=\"$site->slug-map.$ending\"",
            ],
        );
    }
}
