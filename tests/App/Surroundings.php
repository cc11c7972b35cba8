<?php

declare(strict_types=1);

namespace Tests\App;

use PDO;
use RuntimeException;

/**
 * What one process of tests has of its own, so that several can work beside each other: databases in PostgreSQL and
 * MariaDB, a folder for all that an installation writes, and settings that name them. What it learns as the runner's
 * number (TEST_TOKEN) stands at the end of each name.
 */
final readonly class Surroundings
{
    private function __construct(private string $number, private string $root)
    {
    }

    /** Those of this process; made when they are asked for first. */
    public static function own(): self
    {
        static $own;

        return $own ??= self::make();
    }

    /** @param  string  $database as it would be called if there were one process only */
    public function named(string $database): string
    {
        return "{$database}_$this->number";
    }

    /** The folder of the installation of this process. */
    public function folder(): string
    {
        return "$this->root/app-$this->number";
    }

    /** Runs a work in one process at a time, in whichever comes first. */
    public function alone(callable $work): void
    {
        $lock = fopen("$this->root/run/first-day.lock", 'c') ?: throw new RuntimeException('No lock could be taken.');
        flock($lock, LOCK_EX);
        try {
            $work();
        } finally {
            fclose($lock);
        }
    }

    /** The server's own database, in which others can be made. */
    public static function server(): PDO
    {
        $server = config('database.connections.pgsql');

        return new PDO(
            "pgsql:host={$server['host']};port={$server['port']};dbname=postgres",
            $server['username'],
            $server['password'],
            [PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION],
        );
    }

    private static function make(): self
    {
        $root = getenv('YLEMA_VAR') ?: throw new RuntimeException('Run the tests with bin/test.');
        $own = new self(getenv('TEST_TOKEN') ?: '1', $root);
        foreach (['app', 'home', 'storage/app', 'storage/logs', 'storage/framework/cache/data',
            'storage/framework/sessions', 'storage/framework/views'] as $folder) {
            @mkdir("{$own->folder()}/$folder", 0o700, true);
        }
        $settings = (string) file_get_contents("$root/.env");
        $dsn = preg_match('~^CONTENT_DSN="(.+)"$~m', $settings, $m) === 1 ? $m[1] : '';
        foreach ([
            'DB_DATABASE' => $own->named('ylema_app'),
            'CONTENT_DSN' => preg_replace('~dbname=\w+~', "dbname={$own->named('korrinbay_app')}", $dsn),
            'SITE_FOLDER' => "{$own->folder()}/app/site",
            // Nothing listens there: the demo that the browser tests look at has other content.
            'SITE_PORT' => '1',
            'FORMER_PORT' => '1',
            'FOREIGN_PORT' => '1',
        ] as $name => $value) {
            $settings = preg_replace("~^$name=.*$~m", "$name=\"$value\"", (string) $settings);
            // The runner may have read the settings of before, and handed them on.
            putenv("$name=$value");
            $_ENV[$name] = $_SERVER[$name] = (string) $value;
        }
        file_put_contents("{$own->folder()}/.env", $settings);
        chmod("{$own->folder()}/.env", 0o600);
        putenv("YLEMA_VAR={$own->folder()}");
        $own->makeMaria();

        return $own;
    }

    private function makeMaria(): void
    {
        $there = getenv('MARIA_DSN') ?: throw new RuntimeException('Run the tests with bin/test.');
        $name = $this->named('sources');
        $maria = new PDO($there, 'sources', (string) getenv('MARIA_PASSWORD'), [
            PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION,
        ]);
        $maria->exec("create database if not exists `$name` character set utf8mb4");
        putenv('MARIA_DSN='.preg_replace('~dbname=\w+~', "dbname=$name", $there));
    }
}
