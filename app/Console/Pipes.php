<?php

declare(strict_types=1);

namespace App\Console;

use Ylema\Addresses\Url;
use Ylema\Change\EditConflict;
use Ylema\Change\Rewriter;
use Ylema\Reading\CannotEncode;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Names;
use Ylema\Reading\Notation;
use Ylema\Reading\Rules;

/**
 * `ylema refs` and `ylema rewrite`: the reader and the rewriter on a file or standard input, for use in pipes.
 * They need no database and no framework, so they start in a few hundredths of a second.
 */
final class Pipes
{
    public const COMMANDS = ['refs', 'rewrite'];

    private const HELP = [
        'refs' => "ylema refs FILE|- [--notation=NOTATION] [--media=/media/] [--base=URL] [--ndjson]\n\nOne reference "
            ."a line: start, length, raw, value, role, layers, line, column, fetch (bytes; line and column from 1).\nWith --base, the value is resolved against it as a browser would.\nThe notation follows from the file's name (.css, .json, .md, .xml, .js, .txt), and is html otherwise.\n",
        'rewrite' => 'ylema rewrite FILE|- --from=VALUE --to=VALUE … [--notation=NOTATION] [--media=/media/] '
            ."[--count]\n\nWrites the text to standard output with every reference of the one value, compared after decoding, changed to the other.\nPairs of --from and --to may be repeated. --count prints how many there are instead. Exit code 1: there was none.\n",
    ];

    /**
     * @param  list<string>  $arguments after the command's name
     * @return int 0 found, 1 nothing found, 2 the call is wrong, 3 the text cannot be changed so
     */
    public function run(string $command, array $arguments): int
    {
        $file = null;
        $flags = [];
        $from = $to = [];
        foreach ($arguments as $argument) {
            if ($argument === '--help' || $argument === '-h') {
                fwrite(STDOUT, self::HELP[$command]);

                return 0;
            }
            if (preg_match('~^--(notation|media|base|from|to)=(.*)$~s', $argument, $m) === 1) {
                match ($m[1]) {
                    'from' => ($from[] = $m[2]),
                    'to' => ($to[] = $m[2]),
                    default => ($flags[$m[1]] = $m[2]),
                };
            } elseif (in_array($argument, ['--ndjson', '--count'], true)) {
                $flags[substr($argument, 2)] = '';
            } elseif ($file === null && ($argument === '-' || ! str_starts_with($argument, '-'))) {
                $file = $argument;
            } else {
                return $this->wrong("\"$argument\" is not understood.", $command);
            }
        }
        $notation = isset($flags['notation']) ? Notation::tryFrom($flags['notation']) : self::notationOf($file ?? '');
        if ($notation === null) {
            return $this->wrong(
                'The notation is one of '.implode(', ', array_column(Notation::cases(), 'value')).'.',
                $command,
            );
        }
        if ($file === null) {
            return $this->wrong('Name a file, or - for standard input.', $command);
        }
        $text = $file === '-' ? stream_get_contents(STDIN) : @file_get_contents($file);
        if ($text === false) {
            return $this->wrong("\"$file\" cannot be read.", $command);
        }
        $rules = new Rules(mediaFolders: [$flags['media'] ?? '/media/']);

        return $command === 'refs'
            ? $this->refs($text, $notation, $rules, $flags)
            : $this->rewrite($text, $notation, $rules, $from, $to, isset($flags['count']));
    }

    /** What a file's name says of its notation; html, where it says nothing. */
    private static function notationOf(string $file): Notation
    {
        return match (strtolower(pathinfo($file, PATHINFO_EXTENSION))) {
            'css' => Notation::Css,
            'json' => Notation::Json,
            'md', 'markdown' => Notation::Markdown,
            'xml', 'svg', 'rss', 'atom' => Notation::Xml,
            'js', 'mjs' => Notation::JavaScript,
            'txt' => Notation::Text,
            default => Notation::Html,
        };
    }

    /** @param  array<string, string>  $flags */
    private function refs(string $text, Notation $notation, Rules $rules, array $flags): int
    {
        $reading = (new FieldReader())->read($text, $notation, $rules);
        $base = isset($flags['base']) ? Url::parse($flags['base']) : null;
        if (isset($flags['base']) && $base === null) {
            return $this->wrong("\"{$flags['base']}\" is not an absolute address.", 'refs');
        }
        // A base element inside the text counts before the address of the text.
        $own = $base;
        if ($base !== null && $reading->base !== null) {
            $base = Url::parse($reading->base, $base) ?? $base;
        }
        $names = ['start', 'length', 'raw', 'value', 'role', 'layers', 'line', 'column', 'fetch'];
        foreach ($reading->references as $r) {
            $value =
                $base !== null && $r->names === Names::Address
                    ? (string) (Url::parse($r->value, $reading->isBeforeBase($r) ? $own : $base) ?? $r->value)
                    : $r->value;
            $context = $r->context();
            $row = [
                $r->start,
                $r->length,
                $r->raw(),
                $value,
                $r->role,
                $r->layerPath(),
                $context->line,
                $context->column,
                $r->fetch->value,
            ];
            fwrite(
                STDOUT,
                (isset($flags['ndjson'])
                    ? json_encode(
                        array_combine($names, $row),
                        JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE,
                    )
                    : implode(
                        ',',
                        array_map(
                            static fn (int|string $cell): string => is_string($cell)
                            && strpbrk($cell, ",\"\r\n") !== false
                                ? '"'.str_replace('"', '""', $cell).'"'
                                : (string) $cell,
                            $row,
                        ),
                    ))."\n",
            );
        }
        foreach ($reading->problems as $problem) {
            fwrite(STDERR, "ylema: line {$problem->line}, byte {$problem->offset}: {$problem->message}\n");
        }

        return $reading->references === [] ? 1 : 0;
    }

    /**
     * @param  list<string>  $from
     * @param  list<string>  $to
     */
    private function rewrite(string $text, Notation $notation, Rules $rules, array $from, array $to, bool $count): int
    {
        if ($from === [] || (! $count && count($from) !== count($to))) {
            return $this->wrong('Each --from needs its --to, in the same order.', 'rewrite');
        }
        $changes = [];
        foreach ((new FieldReader())->read($text, $notation, $rules)->references as $reference) {
            $pair = array_search($reference->value, $from, true);
            if ($pair !== false) {
                $changes[] = [$reference, $to[$pair] ?? $reference->value];
            }
        }
        if ($count) {
            fwrite(STDOUT, count($changes)."\n");

            return $changes === [] ? 1 : 0;
        }
        try {
            fwrite(STDOUT, (new Rewriter())->edits($text, $notation, $rules, $changes)->applyTo($text));
        } catch (CannotEncode|EditConflict $e) {
            fwrite(STDERR, "ylema: {$e->getMessage()} Nothing was written.\n");

            return 3;
        }

        return $changes === [] ? 1 : 0;
    }

    private function wrong(string $why, string $command): int
    {
        fwrite(STDERR, "ylema: $why\n\n".self::HELP[$command]);

        return 2;
    }
}
