<?php

declare(strict_types=1);

namespace App\Backup;

use App\Bytes\Marks;
use FilesystemIterator;
use Illuminate\Contracts\Encryption\DecryptException;
use Illuminate\Encryption\Encrypter;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\Crypt;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\File;
use RecursiveDirectoryIterator;
use RecursiveIteratorIterator;
use SplFileInfo;

/**
 * Takes a backup back: looked through to its last byte first, the database in one transaction, the files by renaming.
 * What was there before stays beside it until somebody deletes it.
 */
final readonly class BackupReader
{
    /** What holds secrets, and in which column. */
    private const SECRETS = ['sites' => 'connection', 'drafts' => 'said'];

    /**
     * @return array{made_at: string, before: string|null} when it was made, and where the files of before lie now
     *
     * @throws BackupTrouble then nothing was changed
     */
    public function restore(string $file, bool $over): array
    {
        if (! $over && DB::table('sites')->exists()) {
            throw BackupTrouble::hasSites();
        }
        $this->alone();
        $bench = Kept::bench().'/'.bin2hex(random_bytes(6));
        File::ensureDirectoryExists($bench, 0700);
        try {
            $about = $this->unpacked($file, $bench);
            $this->database("$bench/".BackupWriter::DUMP, $about['key']);
            $before = $this->files($bench);

            return ['made_at' => $about['made_at'], 'before' => $before];
        } finally {
            File::deleteDirectory($bench);
        }
    }

    /** Who is at work meanwhile would go on with what is not there any more. */
    private function alone(): void
    {
        $others = DB::selectOne(
            'select count(*) as n from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid() '
                ."and backend_type = 'client backend'",
        );
        if (is_object($others) && isset($others->n) && $others->n > 0) {
            throw BackupTrouble::inUse((int) $others->n);
        }
    }

    /** @return array{made_at: string, key: string} */
    private function unpacked(string $file, string $bench): array
    {
        if (! is_file($file) || ! is_readable($file)) {
            throw BackupTrouble::step("Opening $file", 'there is no such file, or this user may not read it.');
        }
        try {
            Tool::run('Unpacking the backup', [
                'tar', '--extract', "--file=$file", "--directory=$bench", '--no-same-owner', '--no-same-permissions',
            ]);
        } catch (BackupTrouble $e) {
            // A full disk is another thing than a wrong file.
            throw str_contains($e->getMessage(), 'No space') ? $e : BackupTrouble::noBackup($file);
        }
        $about = json_decode((string) @file_get_contents("$bench/".BackupWriter::ABOUT), true);
        $list = @fopen("$bench/".BackupWriter::MANIFEST, 'r');
        if (! is_array($about) || ! is_string($about['key'] ?? null) || ! is_string($about['made_at'] ?? null)) {
            throw BackupTrouble::noBackup($file);
        }
        if ($list === false || ($about['version'] ?? null) !== BackupWriter::VERSION) {
            throw BackupTrouble::noBackup($file);
        }
        $listed = [];
        while (($line = fgets($list)) !== false) {
            $path = rawurldecode(substr(rtrim($line, "\n"), 66));
            if (is_link("$bench/$path") || @hash_file('sha256', "$bench/$path") !== substr($line, 0, 64)) {
                throw BackupTrouble::damaged($path);
            }
            $listed[$path] = true;
        }
        fclose($list);
        $this->expectNoMore($bench, $listed);
        $known = array_map(static fn (string $path): string => basename($path, '.php'), File::glob(
            database_path('migrations/*.php'),
        ));
        foreach (is_array($about['migrations'] ?? null) ? $about['migrations'] : [] as $migration) {
            if (is_string($migration) && ! in_array($migration, $known, true)) {
                throw BackupTrouble::newer($migration);
            }
        }

        return ['made_at' => $about['made_at'], 'key' => $about['key']];
    }

    /**
     * What the list does not name was put in by somebody else; and a link would lead out of the folders that are kept.
     *
     * @param  array<array-key, true>  $listed
     */
    private function expectNoMore(string $bench, array $listed): void
    {
        foreach ([BackupWriter::ABOUT, BackupWriter::DUMP] as $needed) {
            if (! isset($listed[$needed])) {
                throw BackupTrouble::damaged(BackupWriter::MANIFEST);
            }
        }
        $all = new RecursiveIteratorIterator(new RecursiveDirectoryIterator($bench, FilesystemIterator::SKIP_DOTS));
        /** @var SplFileInfo $file */
        foreach ($all as $file) {
            $path = substr($file->getPathname(), strlen($bench) + 1);
            if ($path !== BackupWriter::MANIFEST && ($file->isLink() || ! isset($listed[$path]))) {
                throw BackupTrouble::unlisted($path);
            }
        }
    }

    /** All of it, or nothing. */
    private function database(string $dump, string $key): void
    {
        $script = "$dump.sql";
        Tool::run('Reading the database of the backup', [
            'pg_restore', '--no-owner', '--no-privileges', "--file=$script", $dump,
        ]);
        $first = fopen("$dump.first", 'w+') ?: throw BackupTrouble::step('Preparing the database', '');
        fwrite($first, "drop schema public cascade;\ncreate schema public;\n");
        fclose($first);
        DB::disconnect();
        Tool::run('Taking the database back', [
            'psql', '--quiet', '--no-psqlrc', '--single-transaction', '--set=ON_ERROR_STOP=1', '--output=/dev/null',
            "--file=$dump.first", "--file=$script",
        ]);
        DB::reconnect();
        app(Marks::class)->forget();
        Artisan::call('migrate', ['--force' => true]);
        $this->sealAnew($key);
        // What was under way then is looked at by somebody before it goes on.
        DB::table('changes')->where('state', 'applying')->update(['state' => 'stopped']);
        DB::table('changes')->where('state', 'undoing')->update(['state' => 'undo-stopped']);
    }

    /** Secrets that were sealed with the key of then are sealed with the key of this installation. */
    private function sealAnew(string $key): void
    {
        $bytes = str_starts_with($key, 'base64:') ? (string) base64_decode(substr($key, 7), true) : $key;
        $then = new Encrypter($bytes, 'AES-256-CBC');
        foreach (self::SECRETS as $table => $column) {
            foreach (DB::table($table)->pluck($column, 'id') as $id => $sealed) {
                try {
                    $open = $then->decryptString(is_string($sealed) ? $sealed : '');
                } catch (DecryptException) {
                    continue;
                }
                DB::table($table)->where('id', $id)->update([$column => Crypt::encryptString($open)]);
            }
        }
    }

    /**
     * Entry by entry, since a folder itself may be the mount of a disk, which nobody can rename.
     *
     * @return string|null where what was there lies now
     */
    private function files(string $bench): ?string
    {
        $mark = '.before-'.now()->format('Ymd\THis');
        $before = null;
        foreach (Kept::folders() as $name => $folder) {
            File::ensureDirectoryExists($folder, 0700);
            foreach (self::entries($folder) as $entry) {
                File::ensureDirectoryExists("$folder/$mark", 0700);
                $this->move("$folder/$entry", "$folder/$mark/$entry");
                $before = dirname($folder)."/*/$mark";
            }
            foreach (self::entries("$bench/files/$name") as $entry) {
                $this->move("$bench/files/$name/$entry", "$folder/$entry");
            }
        }

        return $before;
    }

    /** @return list<string> without what an earlier time put aside */
    private static function entries(string $folder): array
    {
        $all = is_dir($folder) ? (scandir($folder) ?: []) : [];

        return array_values(array_filter(
            $all,
            static fn (string $name): bool => preg_match('~^\.(?:\.?$|before-|backup-)~D', $name) !== 1,
        ));
    }

    private function move(string $from, string $to): void
    {
        if (! @rename($from, $to)) {
            Tool::run("Moving files to $to", ['mv', '--no-target-directory', $from, $to]);
        }
    }
}
