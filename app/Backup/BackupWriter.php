<?php

declare(strict_types=1);

namespace App\Backup;

use App\Bytes\Part;
use App\Bytes\Place;
use App\Support\StillMoment;
use ErrorException;
use FilesystemIterator;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\File;
use RecursiveDirectoryIterator;
use RecursiveIteratorIterator;
use SplFileInfo;
use stdClass;

/**
 * One file (a tar, POSIX.1-2001) with all that this installation knows and keeps: its database, the bytes that undo
 * needs, what rests, the archive, uploads that wait, and the key to its secrets. Work goes on meanwhile; only for the
 * moment in which database and files are agreed upon, changes wait.
 */
final readonly class BackupWriter
{
    public const ABOUT = 'ylema-backup.json';

    public const DUMP = 'database.dump';

    public const MANIFEST = 'manifest-sha256.txt';

    public const VERSION = 1;

    /** What is only of the hour. */
    private const PASSING = ['sessions', 'cache', 'cache_locks', 'jobs', 'job_batches', 'beats', 'space'];

    /**
     * @param  string  $file "-" for standard output; else it is there only once it is whole
     * @return array{int, int} how many files it holds, how many bytes they are
     *
     * @throws BackupTrouble
     */
    public function write(string $file): array
    {
        $bench = Kept::bench().'/'.bin2hex(random_bytes(6));
        File::ensureDirectoryExists("$bench/files", 0700);
        $part = Part::beside($file);
        try {
            $this->gather($bench);
            $weighed = $this->list($bench);
            // Locked as long as it is written, so that whoever sweeps knows what is left of a killed one.
            $handle = $file === '-' ? null : @fopen($part, 'x');
            if ($handle === false || (is_resource($handle) && ! (flock($handle, LOCK_EX) && @chmod($part, 0600)))) {
                throw BackupTrouble::place($file);
            }
            if ($handle !== null) {
                Part::sweep(dirname($file));
            }
            Tool::run('Writing the backup', [
                'tar',
                '--create',
                '--format=posix',
                '--dereference',
                '--owner=0',
                '--group=0',
                '--file='.($file === '-' ? '-' : $part),
                "--directory=$bench",
                self::ABOUT,
                self::DUMP,
                'files',
                // Last, so that a backup that was cut short lacks it.
                self::MANIFEST,
            ], $file === '-' ? STDOUT : null);
            if ($file !== '-' && ! rename($part, $file)) {
                throw BackupTrouble::step("Writing $file", '');
            }

            return $weighed;
        } catch (ErrorException $e) {
            // Of a write that failed, PHP says why in a warning.
            throw BackupTrouble::step('Writing the backup', $e->getMessage());
        } finally {
            if (is_file($part)) {
                @unlink($part);
            }
            $this->clear($bench);
        }
    }

    private function gather(string $bench): void
    {
        DB::unprepared('begin transaction isolation level repeatable read read only');
        try {
            $snapshot = StillMoment::take(function () use ($bench): string {
                $row = DB::selectOne('select pg_export_snapshot() as id');
                foreach (Kept::folders() as $name => $folder) {
                    $this->link($name, $folder, $bench);
                }

                return $row instanceof stdClass && is_string($row->id) ? $row->id : '';
            }) ?? throw BackupTrouble::busy();
            Tool::run('Copying the database', [
                'pg_dump',
                '--format=custom',
                '--no-owner',
                '--no-privileges',
                "--snapshot=$snapshot",
                "--file=$bench/".self::DUMP,
                ...array_map(static fn (string $table): string => "--exclude-table-data=public.$table", self::PASSING),
            ]);
        } finally {
            DB::unprepared('commit');
        }
        File::put("$bench/".self::ABOUT, json_encode([
            'version' => self::VERSION,
            'made_at' => now()->toIso8601String(),
            'migrations' => DB::table('migrations')->orderBy('id')->pluck('migration')->all(),
            'key' => config('app.key'),
        ], JSON_PRETTY_PRINT | JSON_THROW_ON_ERROR));
    }

    /**
     * Kept files are never written again, only taken away; so a second name for each is a copy. Those on another file
     * system get theirs there.
     */
    private function link(string $name, string $folder, string $bench): void
    {
        $target = "$bench/files/$name";
        if (! is_dir($folder)) {
            return;
        }
        if ((stat($folder)['dev'] ?? null) !== (stat($bench)['dev'] ?? null)) {
            $there = "$folder/.backup-".basename($bench);
            File::ensureDirectoryExists($there, 0700);
            symlink($there, $target);
            $target = $there;
        } else {
            File::ensureDirectoryExists($target, 0700);
        }
        Tool::run("Naming the files of $folder a second time", [
            'find', $folder, '-mindepth', '1', '-maxdepth', '1', '!', '-name', '.backup-*', '!', '-name', '.before-*',
            '!', '-name', Place::PARTS,
            '-exec', 'cp', '--archive', '--link', '--target-directory', $target, '{}', '+',
        ]);
    }

    /** @return array{int, int} */
    private function list(string $bench): array
    {
        $manifest = fopen("$bench/".self::MANIFEST, 'w') ?: throw BackupTrouble::step('Listing the backup', '');
        $files = $weight = 0;
        foreach ($this->files($bench) as $path) {
            $hash = hash_file('sha256', "$bench/$path");
            if ($hash === false || fwrite($manifest, "$hash  ".rawurlencode($path)."\n") === false) {
                throw BackupTrouble::step("Reading $path", '');
            }
            $files++;
            $weight += (int) filesize("$bench/$path");
        }
        if (! fclose($manifest)) {
            throw BackupTrouble::step('Listing the backup', '');
        }

        return [$files, $weight];
    }

    /** @return iterable<string> paths below the bench */
    private function files(string $bench): iterable
    {
        yield self::ABOUT;
        yield self::DUMP;
        foreach (array_keys(Kept::folders()) as $name) {
            if (! is_dir("$bench/files/$name")) {
                continue;
            }
            $all = new RecursiveIteratorIterator(
                new RecursiveDirectoryIterator("$bench/files/$name", FilesystemIterator::SKIP_DOTS),
            );
            /** @var SplFileInfo $file */
            foreach ($all as $file) {
                yield substr($file->getPathname(), strlen($bench) + 1);
            }
        }
    }

    private function clear(string $bench): void
    {
        foreach (Kept::folders() as $folder) {
            File::deleteDirectory("$folder/.backup-".basename($bench));
        }
        foreach (array_keys(Kept::folders()) as $name) {
            if (is_link("$bench/files/$name")) {
                unlink("$bench/files/$name");
            }
        }
        File::deleteDirectory($bench);
    }
}
