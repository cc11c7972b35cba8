<?php

declare(strict_types=1);

namespace Tests\App;

use App\Bytes\Marks;
use App\Models\Site;
use App\Reading\ReadSite;
use FilesystemIterator;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use PDO;
use RecursiveDirectoryIterator;
use RecursiveIteratorIterator;
use RuntimeException;
use Standin\Content\Generator;
use Standin\Content\Scenario;

/**
 * The demo as it is when a test begins: its content written and read by the first process that needs it, then copied
 * for each, and copied again whenever a test has changed something.
 */
final class FirstDay
{
    private const DATABASES = ['ylema_app', 'korrinbay_app'];

    private static bool $isKept = false;

    /** @var array<string, int>|null path → inode of the files as they were drawn, modes of folders below nought */
    private static ?array $drawn = null;

    public static function lay(Scenario $planted): void
    {
        self::layFiles();
        // What rested in another test's demo rests in none of the next one's.
        foreach (['rest', 'bags'] as $disk) {
            foreach (Storage::disk($disk)->directories() as $folder) {
                Storage::disk($disk)->deleteDirectory($folder);
            }
        }
        if (! self::$isKept) {
            Surroundings::own()->alone(static fn () => self::make($planted));
            self::copy(static fn (string $name): array => ["{$name}_first", Surroundings::own()->named($name)]);
            // Whoever read it did so in a folder of its own.
            app(Marks::class)->forget();
            Artisan::call('ylema:demo');
            self::copy(static fn (string $name): array => [
                Surroundings::own()->named($name),
                Surroundings::own()->named($name).'_first',
            ]);
            self::$isKept = true;

            return;
        }
        self::copy(static fn (string $name): array => [
            Surroundings::own()->named($name).'_first',
            Surroundings::own()->named($name),
        ]);
    }

    private static function make(Scenario $planted): void
    {
        $server = Surroundings::server();
        $made = $server->query("select 1 from pg_database where datname = 'korrinbay_app_first'")->fetchColumn();
        if ($made !== false) {
            return;
        }
        foreach (self::DATABASES as $name) {
            $server->exec('drop database if exists '.Surroundings::own()->named($name).' with (force)');
            $server->exec('create database '.Surroundings::own()->named($name).' owner '.self::owner($name));
        }
        Artisan::call('migrate', ['--force' => true]);
        $folder = Surroundings::own()->folder().'/app';
        $content = new PDO(
            (string) config('demo.dsn'),
            (string) config('demo.user'),
            (string) config('demo.password'),
            [PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION],
        );
        (new Generator($folder))->write($planted, $content);
        Artisan::call('ylema:demo');
        $site = Site::query()->where('slug', 'korrin-bay')->firstOrFail();
        app(ReadSite::class)->begin($site, null);
        $reading = $site->readings()->orderByDesc('id')->first();
        if ($reading?->state->value !== 'done') {
            throw new RuntimeException('The demo could not be read: '.($reading->problem ?? 'no reading'));
        }
        unset($content);
        // Each process has folders of its own, and puts its mark there when it needs them.
        DB::table('places')->delete();
        self::copy(static fn (string $name): array => [Surroundings::own()->named($name), "{$name}_first"]);
    }

    /** @param  callable(string): array{string, string}  $names from which to which, for each of the two */
    private static function copy(callable $names): void
    {
        DB::disconnect();
        $server = Surroundings::server();
        foreach (self::DATABASES as $name) {
            [$from, $to] = $names($name);
            $server->exec("drop database if exists $to with (force)");
            $server->exec("select pg_terminate_backend(pid) from pg_stat_activity where datname = '$from'");
            $server->exec("create database $to template $from owner ".self::owner($name).' strategy file_copy');
        }
    }

    private static function owner(string $name): string
    {
        return (string) config($name === 'ylema_app' ? 'database.connections.pgsql.username' : 'demo.user');
    }

    /**
     * Hard links to the drawn files: writing goes beside and renames, so those are never touched, and a file that a
     * test changed is another one than was drawn.
     */
    private static function layFiles(): void
    {
        $drawn = dirname(__DIR__, 2).'/var/drawn/site';
        $own = Surroundings::own()->folder().'/app/site';
        self::$drawn ??= self::inodes($drawn);
        if (! is_dir($own)) {
            shell_exec('cp -al '.escapeshellarg($drawn).' '.escapeshellarg($own));
        }
        $there = self::inodes($own);
        // What is in a folder comes after it in both lists, so the one is taken from its end.
        foreach (array_reverse(array_diff_assoc($there, self::$drawn)) as $path => $inode) {
            $inode < 0 ? @rmdir("$own/$path") : unlink("$own/$path");
        }
        foreach (array_diff_assoc(self::$drawn, $there) as $path => $inode) {
            if ($inode > 0) {
                link("$drawn/$path", "$own/$path");
            } elseif (! @mkdir("$own/$path", -$inode)) {
                chmod("$own/$path", -$inode);
            }
        }
        if (self::inodes($own) !== self::$drawn) {
            throw new RuntimeException('The demo could not be laid out as it was drawn.');
        }
    }

    /** @return array<string, int> path → inode of each file, and the mode of each folder below nought */
    private static function inodes(string $root): array
    {
        $inodes = [];
        $files = new RecursiveDirectoryIterator($root, FilesystemIterator::SKIP_DOTS);
        foreach (new RecursiveIteratorIterator($files, RecursiveIteratorIterator::SELF_FIRST) as $file) {
            $is = lstat((string) $file);
            $isFolder = ($is['mode'] & 0o170000) === 0o040000;
            $inodes[substr((string) $file, strlen($root) + 1)] = $isFolder ? -($is['mode'] & 0o7777) : $is['ino'];
        }
        ksort($inodes);

        return $inodes;
    }
}
