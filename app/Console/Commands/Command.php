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
    /** Arguments and options that name files of this machine. */
    protected const FILES = [];

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
        $odd = $this->noText($input);
        if ($odd !== null) {
            $shown = mb_scrub(strtr($odd, ["\0" => '␀']));
            $this->error("\"$shown\" is no text (UTF-8), so nothing here is called so.");

            return ExitCode::WRONG;
        }
        $slug = $this instanceof AsksTheIndex ? $input->getArgument('site') : null;
        if (is_string($slug)) {
            $site = Site::query()->where('slug', $slug)->first();
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

    /**
     * Names of the site and of Ylema are text; only what lies on this machine may be called by any bytes.
     *
     * @return string|null the first word that is none
     */
    private function noText(InputInterface $input): ?string
    {
        foreach ([...$input->getArguments(), ...$input->getOptions()] as $name => $word) {
            $isFile = in_array($name, static::FILES, true);
            foreach (is_array($word) ? $word : [$word] as $one) {
                $isText = ! is_string($one) || $isFile || mb_check_encoding($one, 'UTF-8');
                if (is_string($one) && (! $isText || str_contains($one, "\0"))) {
                    return $one;
                }
            }
        }

        return null;
    }

    /** Says why something was refused, or could not be looked at. */
    protected function refused(Throwable $why): int
    {
        $this->error($why->getMessage());

        return ExitCode::of($why);
    }
}
