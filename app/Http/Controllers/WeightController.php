<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Record;
use App\Models\Site;
use App\Retire\Leaves;
use App\Retire\Weight;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Validation\Rule;
use Symfony\Component\HttpFoundation\StreamedResponse;

/** What media weigh, and what a record would leave behind. */
final class WeightController
{
    public function index(Site $site): JsonResponse
    {
        return new JsonResponse((new Weight($site))->all());
    }

    public function export(Request $request, Site $site): StreamedResponse
    {
        $request->validate(['table' => ['required', Rule::in(Weight::TABLES)]]);
        $table = $request->string('table')->toString();

        return new StreamedResponse(
            static function () use ($site, $table): void {
                foreach ((new Weight($site))->csv($table) as $line) {
                    echo $line;
                }
            },
            200,
            [
                'Content-Type' => 'text/csv; charset=utf-8; header=present',
                'Content-Disposition' => "attachment; filename=\"$site->slug-$table.csv\"",
            ],
        );
    }

    public function leaves(Site $site, Record $record): JsonResponse
    {
        return new JsonResponse((new Leaves($record))->list());
    }
}
