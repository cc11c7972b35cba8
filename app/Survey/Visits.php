<?php

declare(strict_types=1);

namespace App\Survey;

use App\Models\Survey;
use App\Outgoing\Visit;
use App\Outgoing\Visitor;
use App\Reading\ChunkReader;
use App\Support\Sql;
use Illuminate\Support\Facades\DB;
use Ylema\Addresses\PageResolver;
use Ylema\Addresses\SiteAddresses;
use Ylema\Addresses\Url;
use Ylema\Addresses\Whose;

/** What answered, noted down for each address. */
final readonly class Visits
{
    private const COLUMNS = [
        'asked',
        'status',
        'problem',
        'leads_to',
        'type',
        'weight',
        'ms',
        'fingerprint',
        'known_as',
        'headers',
        'survey_id',
        'asked_at',
    ];

    public function __construct(private Survey $survey, private SiteAddresses $addresses)
    {
    }

    /**
     * @param  list<array{0: string, 1: string, 2: Visit, 3: string|null, 4?: list<string>}>  $visits address, kind,
     *       what came of it, the fingerprint of the bytes where they were fetched, and the style sheets of a page
     */
    public function note(array $visits): void
    {
        $rows = [];
        foreach ($visits as $noted) {
            [$address, $kind, $visit, $fingerprint] = $noted;
            $url = Url::parse($address);
            if ($url === null) {
                continue;
            }
            $key = ChunkReader::key($url);
            $hash = hash('xxh128', $key);
            $status = $visit->status();
            $isSame = $status === 304;
            $rows[$hash] = [
                'site_id' => $this->survey->site_id,
                'url_hash' => $hash,
                'url' => $key,
                'kind' => $kind,
                'asked' => $this->key($address),
                'host' => (string) $url->host,
                // 0 where it was asked and nobody answered; null where it was not to be asked.
                'status' => $isSame ? 200 : $status ?? ($visit->isAllowed ? 0 : null),
                'problem' => $visit->problem,
                'leads_to' => $this->leadsTo($visit),
                'type' => mb_strcut($visit->header('Content-Type') ?? '', 0, 120) ?: null,
                'weight' => self::weight($visit),
                'ms' => $visit->ms,
                'fingerprint' => $fingerprint,
                'known_as' => $fingerprint,
                'headers' => json_encode(
                    (object) array_filter(
                        [
                            'etag' => $visit->header('ETag'),
                            'last-modified' => $visit->header('Last-Modified'),
                            'cache-control' => $visit->header('Cache-Control'),
                            'age' => $visit->header('Age'),
                            'not-modified' => $isSame ? 'yes' : null,
                            'sheets' => $noted[4] ?? null,
                        ],
                        static fn (mixed $value): bool => $value !== null,
                    ),
                    JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE,
                ),
                'survey_id' => $this->survey->id,
                'asked_at' => now(),
            ];
        }
        if ($rows === []) {
            return;
        }
        // An address may hold any byte; what is wrong with one is what is said of it, and halts nobody.
        $rows = array_map(static fn (array $row): array => array_map(
            static fn (mixed $value): mixed => is_string($value) ? Sql::text($value) : $value,
            $row,
        ), $rows);
        $set = [];
        foreach (self::COLUMNS as $column) {
            $set[$column] = DB::raw(
                match ($column) {
                    // Bytes that were not sent again are those of before.
                    'fingerprint' => 'coalesce(excluded.fingerprint, case when excluded.status = 200 then '
                        .'visits.fingerprint end)',
                    'known_as' => 'coalesce(visits.known_as, excluded.known_as)',
                    'type', 'weight' => self::unlessSame($column),
                    default => "excluded.$column",
                },
            );
        }
        DB::table('visits')->upsert(array_values($rows), ['site_id', 'url_hash'], $set);
    }

    /** How the map knows an address of the site now; null for others. */
    public function key(string $address): ?string
    {
        $place = $this->addresses->locate($address);

        return $place?->whose === Whose::Own && $place->path !== null
            ? PageResolver::key($place->path, $place->url->query)
            : null;
    }

    private static function unlessSame(string $column): string
    {
        return "case when excluded.headers->>'not-modified' = 'yes' then coalesce(visits.$column, excluded.$column) "
            ."else excluded.$column end";
    }

    private function leadsTo(Visit $visit): ?string
    {
        $last = $visit->address();
        $location = $visit->header('Location');
        if ($last !== null && $location !== null && ($visit->status() ?? 0) >= 300) {
            // Where nobody may follow, what the answer says is all there is to know.
            $last = Visitor::resolved($last, $location);
        }

        return $last === null || $last === $visit->steps[0][0] ? null : $this->key($last) ?? $last;
    }

    private static function weight(Visit $visit): ?int
    {
        $said = $visit->header('Content-Length');
        $body = $visit->response?->getBody()->getSize();

        return match (true) {
            $body !== null && $body > 0 => $body,
            $said !== null && ctype_digit($said) && strlen($said) < 16 => (int) $said,
            default => null,
        };
    }
}
