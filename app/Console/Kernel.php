<?php

declare(strict_types=1);

namespace App\Console;

use App\Support\OwnDatabase;
use Illuminate\Foundation\Console\Kernel as Base;
use Symfony\Component\Console\Application;
use Symfony\Component\Console\Exception\ExceptionInterface;
use Symfony\Component\Console\Output\ConsoleOutputInterface;
use Throwable;
use Ylema\Failure;

/** Ends a command that threw with words on standard error and a code that means what it says. */
final class Kernel extends Base
{
    private int $code = 1;

    private bool $isJson = false;

    public function handle($input, $output = null)
    {
        $this->isJson = $input->hasParameterOption(['--json'], true);
        $code = parent::handle($input, $output);

        return $this->code > 1 ? $this->code : $code;
    }

    /** The framework looks for commands by itself only where its own kernel is used. */
    protected function shouldDiscoverCommands()
    {
        return true;
    }

    protected function reportException(Throwable $e): void
    {
        if (! $e instanceof Failure && ! $e instanceof ExceptionInterface) {
            parent::reportException($e);
        }
    }

    protected function renderException($output, Throwable $e): void
    {
        $this->code = ExitCode::of($e);
        $error = $output instanceof ConsoleOutputInterface ? $output->getErrorOutput() : $output;
        if ($e instanceof ExceptionInterface && ! $this->isJson) {
            (new Application())->renderThrowable($e, $error);

            return;
        }
        $message = match (true) {
            $e instanceof Failure, $e instanceof ExceptionInterface => $e->getMessage(),
            OwnDatabase::says($e) !== null => OwnDatabase::says($e),
            default => 'A fault of Ylema kept this from being done; it is in its log: '.$e->getMessage(),
        };
        $error->writeln(
            $this->isJson
                ? json_encode(['error' => $message], JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE
                    | JSON_INVALID_UTF8_SUBSTITUTE) ?: '{"error":""}'
                : $message,
            ConsoleOutputInterface::OUTPUT_RAW,
        );
    }
}
