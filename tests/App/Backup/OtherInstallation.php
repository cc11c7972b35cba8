<?php

declare(strict_types=1);

namespace Tests\App\Backup;

use Illuminate\Support\Facades\DB;
use PDO;
use Symfony\Component\Process\Process;
use Tests\App\Surroundings;

/** A second installation beside that of the tests: its own folder, its own key, its own database. */
final readonly class OtherInstallation
{
    private string $name;

    public function __construct(private string $folder)
    {
        $this->name = Surroundings::own()->named('ylema_other');
        shell_exec('rm -rf '.escapeshellarg($folder));
        mkdir("$folder/storage/framework/cache/data", 0700, true);
        mkdir("$folder/storage/framework/views", 0700, true);
        $settings = (string) file_get_contents(getenv('YLEMA_VAR').'/.env');
        $key = 'APP_KEY=base64:'.base64_encode(random_bytes(32));
        file_put_contents("$folder/.env", preg_replace('~^APP_KEY=.*$~m', $key, $settings));
        DB::statement("drop database if exists $this->name with (force)");
        DB::statement("create database $this->name");
        $this->run('migrate', '--force');
    }

    /** @return array{int, string} */
    public function run(string ...$arguments): array
    {
        return self::said($this->process(...$arguments));
    }

    /** The same of the installation of the tests, in a process of its own. */
    public static function ofTests(string ...$arguments): Process
    {
        return new Process(
            [PHP_BINARY, base_path('artisan'), ...$arguments],
            base_path(),
            ['LOG_CHANNEL' => 'stderr'],
            null,
            120,
        );
    }

    /** @return array{int, string} */
    public static function said(Process $process): array
    {
        return [$process->run(), trim($process->getOutput().$process->getErrorOutput())];
    }

    public function database(): PDO
    {
        return new PDO(
            'pgsql:host='.config('database.connections.pgsql.host').';port='.config('database.connections.pgsql.port')
                .";dbname=$this->name",
            config('database.connections.pgsql.username'),
            config('database.connections.pgsql.password'),
            [PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION],
        );
    }

    public function value(string $sql): string
    {
        return (string) $this->database()->query($sql)->fetchColumn();
    }

    public function file(string $path): string
    {
        return "$this->folder/$path";
    }

    private function process(string ...$arguments): Process
    {
        return new Process(
            [PHP_BINARY, base_path('artisan'), ...$arguments],
            base_path(),
            ['DB_DATABASE' => $this->name, 'YLEMA_VAR' => $this->folder, 'LOG_CHANNEL' => 'stderr'],
            null,
            120,
        );
    }
}
