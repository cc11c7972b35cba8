<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Backup\BackupTrouble;
use App\Backup\BackupWriter;
use App\Console\ExitCode;
use App\Health\Beats;
use Illuminate\Support\Facades\File;
use Ylema\Plan\Words;

final class BackupCommand extends Command
{
    protected const FILES = ['to'];

    protected $signature = 'ylema:backup {to : a file, "-", or a folder, in which each gets a name of its day}
        {--keep= : of a folder, how many are kept}';

    protected $description = 'Write all that Ylema knows and keeps into one file';

    public function handle(BackupWriter $writer): int
    {
        $to = $this->argument('to');
        $to = is_string($to) ? self::whole($to) : '';
        $keep = $this->option('keep');
        if ($keep !== null && (! is_string($keep) || ! ctype_digit($keep) || $keep === '0' || ! is_dir($to))) {
            $this->error('--keep takes a number from 1, and goes with a folder.');

            return ExitCode::WRONG;
        }
        $file = is_dir($to) ? rtrim($to, '/').'/ylema-'.now()->format('Ymd\THis\Z').'.tar' : $to;
        try {
            [$files, $weight] = $writer->write($file);
        } catch (BackupTrouble $e) {
            return $this->refused($e);
        }
        Beats::of(Beats::BACKUP, $file);
        if ($file !== '-') {
            $weighs = number_format($weight / 1_000_000, 1).' MB';
            $this->line("$file: ".Words::many($files, 'file').", $weighs. It holds the "
                .'key to the passwords of all sites: keep it as you keep those.');
        }
        if ($keep !== null) {
            foreach (array_slice(array_reverse(File::glob(rtrim($to, '/').'/ylema-*Z.tar')), (int) $keep) as $old) {
                File::delete($old);
            }
        }

        return self::SUCCESS;
    }

    private static function whole(string $file): string
    {
        return $file === '-' || str_starts_with($file, '/') ? $file : getcwd()."/$file";
    }
}
