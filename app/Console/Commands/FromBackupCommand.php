<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Backup\BackupReader;
use App\Backup\BackupTrouble;

final class FromBackupCommand extends Command
{
    protected const FILES = ['file'];

    protected $signature = 'ylema:from-backup {file} {--over : in place of what Ylema knows here now}';

    protected $description = 'Take a backup back into this installation';

    public function handle(BackupReader $reader): int
    {
        $file = $this->argument('file');
        try {
            $path = is_string($file) ? (realpath($file) ?: $file) : '';
            $done = $reader->restore($path, $this->option('over') === true);
        } catch (BackupTrouble $e) {
            return $this->refused($e);
        }
        $this->line("The backup of {$done['made_at']} is taken back. Everybody signs in anew.");
        $this->line('Sites went on meanwhile: start Ylema, and read each of them again.');
        if ($done['before'] !== null) {
            $this->line("The files of before lie in {$done['before']}; delete them once all is well.");
        }

        return self::SUCCESS;
    }
}
