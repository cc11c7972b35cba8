<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\ExitCode;
use App\Logs\LogProblem;
use App\Logs\LogReader;

final class LogsCommand extends Command
{
    use FindsSites;

    protected const FILES = ['files'];

    protected $signature = 'ylema:logs {site : its short name} 
        {files* : access logs of this machine, also packed by gzip}
        {--ours : they are this site\'s own logs, though they do not look so}';

    protected $description = 'Read access logs, so that files which somebody asks for are not called idle';

    public function handle(LogReader $logs): int
    {
        $site = $this->site();
        if ($site === null) {
            return ExitCode::WRONG;
        }
        $failed = $isDoubted = false;
        $files = $this->argument('files');
        foreach (is_array($files) ? $files : [] as $file) {
            try {
                $read = $logs->read($site, (string) $file, basename((string) $file));
                $doubt = ($this->option('ours') === true ? $read->whose?->accept() : $read->whose)?->doubt();
                $this->line(trim("{$read->sentence()} $doubt"));
                $isDoubted = $isDoubted || $doubt !== null;
                if ($read->broken > 0) {
                    $this->line("  such as: $read->example");
                }
            } catch (LogProblem $e) {
                $failed = true;
                $this->error($e->getMessage());
            }
        }
        if ($isDoubted && $this->option('ours') !== true) {
            $this->line('If it is the site’s own log, say so: --ours');
        }
        $logs->settle($site);

        return $failed ? ExitCode::NOT_LOOKED : ExitCode::DONE;
    }
}
