<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Bytes\Attributes;
use App\Bytes\Part;
use App\Connect\ConnectionTest;
use App\Connect\Connector;
use App\Connect\Settings;
use App\Console\ExitCode;
use InvalidArgumentException;
use Ylema\Connect\Proposal;
use Ylema\Connect\Question;
use Ylema\Failure;

final class ConnectCommand extends Command
{
    protected const FILES = ['file', 'map', 'out'];

    protected $signature = 'ylema:connect
        {file? : settings of the site in YAML; without it they are asked for}
        {--map= : the field map to use; without it one is proposed}
        {--out= : write the proposed map there, and connect nothing}
        {--json : the proposal as json}';

    protected $description = 'Connect a site: test its connection, propose its field map, and keep both';

    public function handle(Connector $connector, ConnectionTest $test): int
    {
        try {
            $settings = $this->settings();
        } catch (InvalidArgumentException $e) {
            $this->error($e->getMessage());

            return ExitCode::WRONG;
        }
        $site = $connector->draft($settings);
        $wrong = 0;
        foreach ($test->of($site) as $finding) {
            $finding->isGood
                ? $this->said("  ok     $finding->what: $finding->words")
                : $this->error("  wrong  $finding->what: $finding->words");
            $wrong += $finding->isGood ? 0 : 1;
        }
        if ($wrong > 0) {
            $this->error('Nothing was connected.');

            return ExitCode::NOT_LOOKED;
        }
        $map = $this->option('map') ?? $settings->map;
        try {
            $answers = $settings->answers;
            $yaml = is_string($map) ? $this->read($map) : null;
            if ($yaml === null) {
                $proposal = $connector->proposal($site, $answers);
                $open = array_filter($proposal->questions, static fn (Question $q): bool => ! isset($answers[$q->id]));
                $answers += $this->asked(array_values($open));
                $proposal = $answers === $settings->answers ? $proposal : $connector->proposal($site, $answers);
                $this->shown($proposal);
                $yaml = $connector->yaml($proposal);
                $site = Connector::withAddresses($site, $proposal->former, $proposal->aliases);
            }
            $out = $this->option('out');
            if (is_string($out)) {
                Part::write($out, $yaml, Attributes::of(null, $out, 0o644), "\"$out\"");
                $this->said("The map was written to $out; nothing was connected.");

                return self::SUCCESS;
            }
            $site = $connector->connect($site, $yaml);
        } catch (Failure|InvalidArgumentException $e) {
            return $this->refused($e);
        }
        $this->said("Connected as \"$site->slug\", only to be read. Next: bin/ylema read $site->slug");

        return self::SUCCESS;
    }

    private function said(string $words): void
    {
        if ($this->option('json') !== true) {
            $this->line($words);
        }
    }

    /** @throws InvalidArgumentException */
    private function settings(): Settings
    {
        $file = $this->argument('file');
        if (is_string($file)) {
            return Settings::fromYaml($this->read($file), (string) realpath(dirname($file)));
        }
        if (! $this->input->isInteractive()) {
            throw new InvalidArgumentException('Name a file with the settings of the site; docs/connect.md shows one.');
        }
        $ask = function (string $words, string $default = ''): string {
            $said = $this->ask($words, $default === '' ? null : $default);

            return is_string($said) ? trim($said) : '';
        };
        $said = ['name' => $ask('What is the site called?'), 'address' => $ask('Where is it served now? (https://…/)')];
        $former = $ask('Where was it before? (an address, or nothing)');
        $engine = $this->choice('Where is its content?', ['PostgreSQL', 'MariaDB', 'MySQL', 'SQLite'], 1);
        $content = ['engine' => $engine];
        if ($engine === 'SQLite') {
            $content['file'] = $ask('In which file?');
        } else {
            $content += [
                'host' => $ask('On which machine?', '127.0.0.1'),
                'database' => $ask('In which database?'),
                'user' => $ask('As which user?'),
            ];
            $secret = $this->secret('With which password?');
            $content['password'] = is_string($secret) ? $secret : '';
        }

        return Settings::fromArray(
            [
                ...$said,
                'former' => array_filter([$former]),
                'content' => $content,
                'files' => $ask('In which folder do its files lie?'),
            ],
            (string) getcwd(),
        );
    }

    /** @throws InvalidArgumentException */
    private function read(string $file): string
    {
        $text = is_file($file) ? @file_get_contents($file) : false;

        return $text === false ? throw new InvalidArgumentException("There is no file $file that can be read.") : $text;
    }

    /**
     * @param  list<Question>  $questions
     * @return array<string, string> question → answer
     */
    private function asked(array $questions): array
    {
        if (! $this->input->isInteractive() || $this->option('json') === true) {
            return [];
        }
        $answers = [];
        foreach ($questions as $question) {
            $samples =
                $question->samples === []
                    ? ''
                    : ' Seen: '
                        .implode(
                            ', ',
                            array_map(
                                static fn (string $s): string => mb_strimwidth($s, 0, 40, '…'),
                                array_slice($question->samples, 0, 5),
                            ),
                        );
            $words = array_values($question->answers);
            $said = $this->choice($question->words.$samples, $words, 0);
            $answers[$question->id] = (string) array_search($said, $question->answers, true);
        }

        return $answers;
    }

    private function shown(Proposal $proposal): void
    {
        if ($this->option('json') === true) {
            $this->line(
                (string) json_encode(
                    [
                        'map' => $proposal->map,
                        'evidence' => $proposal->evidence,
                        'questions' => $proposal->questions,
                        'left_out' => $proposal->leftOut,
                    ],
                    JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE,
                ),
            );

            return;
        }
        foreach ($proposal->map['records'] ?? [] as $kind => $section) {
            if (is_array($section)) {
                $fields = is_array($section['fields'] ?? null) ? array_keys($section['fields']) : [];
                array_push($fields, ...array_filter((array) ($section['shows'] ?? []), is_string(...)));
                $this->line(
                    sprintf(
                        '  %-16s %s%s',
                        $kind,
                        is_scalar($section['table'] ?? null) ? $section['table'] : '',
                        $fields === [] ? '' : ': '.implode(', ', $fields),
                    ),
                );
            }
        }
        foreach ($proposal->leftOut as $table => $why) {
            $this->line(sprintf('  left out         %s: %s', $table, $why));
        }
        foreach ($proposal->questions as $question) {
            $this->line(
                "  to be looked at  $question->words ($question->id; taken: "
                    .((string) (array_values($question->answers)[0] ?? ''))
                    .')',
            );
        }
    }
}
