<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\ExitCode;
use App\Models\Site;
use Illuminate\Console\Command as Base;
use Symfony\Component\Console\Formatter\OutputFormatter;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;
use Throwable;

/** What all commands keep to: answers on standard output, all else on standard error, the codes of ExitCode. */
abstract class Command extends Base
{
    /** @param  string  $string */
    public function error($string, $verbosity = null): void
    {
        $isJson = $this->input->hasOption('json') && $this->input->getOption('json') !== false;
        $this->output->getErrorStyle()->writeln(
            $isJson
                ? json_encode(
                    ['error' => $string],
                    JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE,
                ) ?: '{"error":""}'
                : '<error>'.OutputFormatter::escape($string).'</error>',
            $this->parseVerbosity($verbosity),
        );
    }

    /** Says how far it is, which is no answer. */
    protected function progress(string $said): void
    {
        $this->output->getErrorStyle()->writeln(OutputFormatter::escape($said));
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        // It ends there and then, as a process that is killed does; nothing is half done by that, and what was under
        // way is taken up. An exception would be taken for the failure of whatever it came upon.
        $this->trap([SIGINT, SIGTERM], function (int $signal): never {
            fwrite(STDERR, "\nStopped. What was under way is taken up within a minute where Ylema runs, or by: "
                ."bin/ylema recover\n");
            exit(128 + $signal);
        });
        $slug = $this instanceof AsksTheIndex ? $input->getArgument('site') : null;
        if (is_string($slug)) {
            $isText = mb_check_encoding($slug, 'UTF-8') && ! str_contains($slug, "\0");
            $site = $isText ? Site::query()->where('slug', $slug)->first() : null;
            if ($site !== null && $site->read_at === null) {
                $this->error(
                    "{$site->name} was not read yet, or is being read for the first time, so nothing is known of it: "
                        ."bin/ylema read {$site->slug}",
                );

                return ExitCode::NOT_LOOKED;
            }
        }

        return parent::execute($input, $output);
    }

    /** Says why something was refused, or could not be looked at. */
    protected function refused(Throwable $why): int
    {
        $this->error($why->getMessage());

        return ExitCode::of($why);
    }
}
