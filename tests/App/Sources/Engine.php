<?php

declare(strict_types=1);

namespace Tests\App\Sources;

use App\Sites\FieldMap;
use App\Sites\PdoContentSource;
use PDO;
use Ylema\Change\Edit;
use Ylema\Change\Edits;
use Ylema\Failure;
use Ylema\Sites\KeyRange;
use Ylema\Sites\Replacement;
use Ylema\Sites\SourceRecord;

/** One of the databases that Ylema reads, with tables that a test makes of its own. */
final class Engine
{
    public PDO $pdo;

    private Source $source;

    /** @param  string  $tables in SQL; `{text}`, `{bytes}` and `{serial}` stand for what each database calls so */
    public function __construct(public readonly string $kind, string $tables)
    {
        $this->source = new Source($kind);
        $this->pdo = $this->source->pdo;
        $words = [
            'pgsql' => ['{text}' => 'text', '{bytes}' => 'bytea', '{serial}' => 'serial primary key'],
            'mysql' => [
                '{text}' => 'longtext',
                '{bytes}' => 'varbinary(16)',
                '{serial}' => 'integer auto_increment primary key',
            ],
            'sqlite' => ['{text}' => 'text', '{bytes}' => 'blob', '{serial}' => 'integer primary key'],
        ][$kind];
        preg_match_all('~create table (\w+)~', $tables, $made);
        foreach ($made[1] as $table) {
            $this->pdo->exec("drop table if exists $table");
        }
        foreach (array_filter(array_map(trim(...), explode(";\n", strtr($tables, $words)))) as $statement) {
            $this->pdo->exec(rtrim($statement, ';'));
        }
    }

    public function open(string $map, string $root = '/'): PdoContentSource
    {
        $files = str_contains($map, 'files:') ? '' : "files: { folders: [uploads] }\n";

        return new PdoContentSource(
            FieldMap::parse("version: 1\n$files$map"),
            $this->source->dsn(),
            $this->source->credentials()['user'],
            $this->source->credentials()['password'],
            $root,
        );
    }

    /** @return array<string, SourceRecord> by key, read in ranges of two, as a reading does */
    public function records(PdoContentSource $source, string $kind): array
    {
        $records = [];
        foreach ($source->ranges($kind, 2) as $range) {
            foreach ($source->records($kind, new KeyRange($range->after, $range->to)) as $record) {
                $records[$record->key] = $record;
            }
        }

        return $records;
    }

    /** Replaces the first $from in a field by $to, as a plan would. */
    public function replace(
        PdoContentSource $source,
        string $kind,
        string $key,
        string $field,
        string $from,
        string $to,
    ): ?Failure {
        foreach ($source->find($kind, [$key]) as $record) {
            $texts = array_column($record->fields, 'text', 'name');
            $edits = Edits::of([new Edit((int) strpos($texts[$field], $from), $from, $to)]);
            $texts[$field] = $edits->applyTo($texts[$field]);

            return $source->replaceMany($kind, [
                new Replacement(
                    $key,
                    $record->contentHash,
                    SourceRecord::hashOf($texts),
                    [$field => $edits],
                    $record->field($field)?->part?->in($key, $texts[$field]),
                ),
            ])[0];
        }
        expect(false)->toBeTrue("there is no $kind $key");

        return null;
    }

    public function value(string $sql): ?string
    {
        $value = $this->pdo->query($sql)->fetchColumn();

        return is_resource($value) ? stream_get_contents($value) : ($value === null ? null : (string) $value);
    }
}
