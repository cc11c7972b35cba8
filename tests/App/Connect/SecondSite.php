<?php

declare(strict_types=1);

namespace Tests\App\Connect;

use App\Models\Reading;
use App\Models\Site;
use App\Reading\ReadSite;
use Illuminate\Support\Facades\DB;
use PDO;
use RuntimeException;
use Standin\Mill\Mill;
use Tests\App\Surroundings;

/** A second site that a test connects, and what a reading of it found. */
final class SecondSite
{
    private const DEMO = [
        'entries',
        'revisions',
        'media',
        'banners',
        'banner_sets',
        'slots',
        'galleries',
        'parts',
        'layouts',
        'styles',
        'settings',
        'redirects',
    ];

    public static function maria(): PDO
    {
        return new PDO(
            (getenv('MARIA_DSN') ?: throw new RuntimeException('Run the tests with bin/test.')).';charset=utf8mb4',
            'sources',
            (string) getenv('MARIA_PASSWORD'),
            [PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION],
        );
    }

    /** Without what other tests left there. */
    public static function empty(PDO $pdo): PDO
    {
        $pdo->exec('set foreign_key_checks = 0');
        foreach ($pdo->query('show tables')->fetchAll(PDO::FETCH_COLUMN) as $table) {
            $pdo->exec("drop table `$table`");
        }
        $pdo->exec('set foreign_key_checks = 1');

        return $pdo;
    }

    /** The mill, its tables written and its files drawn as if for the first time. */
    public static function mill(string $folder): Mill
    {
        $mill = new Mill();
        $mill->write(self::empty(self::maria()));
        shell_exec('rm -rf '.escapeshellarg($folder));
        $mill->draw($folder);

        return $mill;
    }

    /** A database in PostgreSQL beside that of the demo, for sites of other makers; made when it is asked for first. */
    public static function postgres(): string
    {
        $name = Surroundings::own()->named('korrinbay_other');
        $server = Surroundings::server();
        if ($server->query("select 1 from pg_database where datname = '$name'")->fetchColumn() === false) {
            $server->exec("create database $name owner ".config('demo.user'));
        }

        return (string) preg_replace('~dbname=\w+~', "dbname=$name", (string) config('demo.dsn'));
    }

    /** Where MariaDB listens. */
    public static function port(): int
    {
        preg_match('~port=(\d+)~', (string) getenv('MARIA_DSN'), $port);

        return (int) ($port[1] ?? 0);
    }

    /** The demo's tables, without what other tests left beside them. */
    public static function onlyDemo(): void
    {
        $pdo = new PDO((string) config('demo.dsn'), (string) config('demo.user'), (string) config('demo.password'));
        $all = $pdo->query("select tablename from pg_tables where schemaname = 'public'")->fetchAll(PDO::FETCH_COLUMN);
        foreach (array_diff($all, self::DEMO) as $table) {
            $pdo->exec("drop table \"$table\" cascade");
        }
    }

    /** @return array{dsn: string, user: string, password: string} */
    public static function credentials(): array
    {
        return [
            'dsn' => (string) getenv('MARIA_DSN'),
            'user' => 'sources',
            'password' => (string) getenv('MARIA_PASSWORD'),
        ];
    }

    public static function read(Site $site): Reading
    {
        return app(ReadSite::class)->begin($site->refresh(), null)->refresh();
    }

    /** @return list<string> table|key|column|path of every use that the index has */
    public static function uses(Site $site, callable $table): array
    {
        $rows = DB::select(
            <<<'SQL'
            -- Of what no row lists, the very file.
            select r.kind, r.key, m.field, coalesce(case when i.source_id is null then f.path end, i.path) as path
            from media_references m join records r on r.id = m.record_id join media_items i on i.id = m.media_item_id
            left join addresses a on a.id = m.address_id left join files f on f.id = a.file_id
            where m.site_id = ?
            SQL
            ,
            [$site->id],
        );

        return array_values(
            array_map(static fn (object $r): string => "{$table($r->kind)}|$r->key|$r->field|$r->path", $rows),
        );
    }
}
