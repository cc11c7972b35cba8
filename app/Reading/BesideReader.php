<?php

declare(strict_types=1);

namespace App\Reading;

use App\Models\ReadingChunk;
use App\Sites\Cell;
use App\Sites\FileParts;
use App\Sites\LikelyKeys;
use App\Sites\NotSearched;
use App\Sites\OpenSite;
use Illuminate\Support\Facades\DB;
use Ylema\Connect\MediaKeys;
use Ylema\Net\Mention;
use Ylema\Net\Net;
use Ylema\Net\Strength;

/**
 * Searches what no line of the field map reads, for whatever names a file of the site: tables, columns and rows, and
 * files in its folders. What was not looked into is kept with the reason.
 */
final class BesideReader
{
    public const TABLES = ':tables';

    public const FILES = ':files';

    /** Small values are searched together, as lines of one text of about so many bytes. */
    private const TOGETHER = 60_000;

    /** Of what was not looked into that many are said; the rest is counted. */
    private const SAID = 200;

    private readonly Net $net;

    private readonly MediaKeys $keys;

    private readonly NamedItems $tokens;

    private StagedMentions $staged;

    /** @var list<array{string, string, int}> place, row, and offset in the text that is gathered */
    private array $gathered = [];

    private string $text = '';

    /** @var list<array{place: string, why: string}> */
    private array $left = [];

    private int $more = 0;

    /** @var list<array{place: string, names: int, of: int}> */
    private array $asked = [];

    public function __construct(private readonly OpenSite $site, int $reading)
    {
        $this->net = Nets::of($site->id, $reading);
        $this->keys = Nets::keys($reading);
        $this->tokens = new NamedItems($site->map->rules());
    }

    public function read(ReadingChunk $chunk): void
    {
        DB::transaction(function () use ($chunk): void {
            StagedMentions::clear($chunk->id);
            $this->staged = new StagedMentions($chunk->reading_id, $chunk->id, Nets::words($this->site->id));
            [$this->left, $this->more, $this->asked] = [[], 0, []];
            $count = $chunk->kind === self::TABLES
                ? $this->tables(explode("\n", (string) $chunk->to_key))
                : $this->files();
            $this->staged->flush();
            $chunk->update([
                'beside' => [
                    substr($chunk->kind, 1) => $count,
                    'left' => $this->left,
                    'more' => $this->more,
                    'asked' => $this->asked,
                ],
                'done' => true,
            ]);
        });
    }

    /** @return list<Mention> of one text, in the order of their places */
    private function in(string $text, string $place): array
    {
        $haul = $this->net->haul($text);
        if ($haul->left !== null) {
            $this->leave(new NotSearched($place, $haul->left));
        }
        $mentions = [...$haul->mentions, ...$this->tokens->in($text)];
        usort($mentions, static fn (Mention $a, Mention $b): int => $a->start <=> $b->start);

        return $mentions;
    }

    /** @param  list<string>  $tables */
    private function tables(array $tables): int
    {
        foreach ($tables as $table) {
            foreach ($this->site->tablesBeside?->cells($table) ?? [] as $cell) {
                $cell instanceof Cell ? $this->gather($cell) : $this->leave($cell);
            }
            $this->search();
            foreach ($this->site->tablesBeside?->likelyKeys($table, $this->keys) ?? [] as $likely) {
                $likely instanceof NotSearched ? $this->leave($likely) : $this->ask($likely);
            }
        }

        return count($tables);
    }

    /** A number is no name; a column of numbers that are keys of media may name each of them. */
    private function ask(LikelyKeys $likely): void
    {
        $hits = $likely->keys->hits();
        $this->asked[] = ['place' => $likely->place(), 'names' => count($hits), 'of' => $likely->keys->values()];
        foreach ($hits as $key => $at) {
            $mention = new Mention(0, 0, Strength::Key, item: (string) $key);
            $this->staged->beside($mention, StagedMentions::TABLE, $likely->place(), $at, null);
        }
    }

    private function gather(Cell $cell): void
    {
        $place = "$cell->table.$cell->column";
        // Bytes among texts would make the whole text one that is no UTF-8.
        if ($cell->from > 0 || strlen($cell->text) > self::TOGETHER || preg_match('//u', $cell->text) !== 1) {
            foreach ($this->in($cell->text, $place) as $mention) {
                $this->staged->beside(
                    $mention->moved($cell->from),
                    StagedMentions::TABLE,
                    $place,
                    $cell->key,
                    null,
                );
            }

            return;
        }
        $this->gathered[] = [$place, $cell->key, strlen($this->text)];
        $this->text .= "$cell->text\n";
        if (strlen($this->text) > self::TOGETHER) {
            $this->search();
        }
    }

    private function search(): void
    {
        $places = implode(', ', array_unique(array_column($this->gathered, 0)));
        foreach ($this->text === '' ? [] : $this->in($this->text, $places) as $mention) {
            [$place, $key, $from] = $this->gathered[$this->at($mention->start)];
            $this->staged->beside($mention->moved(-$from), StagedMentions::TABLE, $place, $key, null);
        }
        [$this->gathered, $this->text] = [[], ''];
    }

    /** The last value that begins at an offset or before it. */
    private function at(int $offset): int
    {
        [$low, $high] = [0, count($this->gathered) - 1];
        while ($low < $high) {
            $middle = ($low + $high + 1) >> 1;
            $this->gathered[$middle][2] <= $offset ? $low = $middle : $high = $middle - 1;
        }

        return $low;
    }

    private function files(): int
    {
        $count = 0;
        foreach ($this->site->filesBeside?->files() ?? [] as $path => $file) {
            if ($file instanceof NotSearched) {
                $this->leave($file);

                continue;
            }
            $count++;
            $this->file($path, $file, StagedMentions::FILE, $this->staged);
        }

        return $count;
    }

    /** @return bool whether all of it was searched */
    public function file(string $path, string $file, string $source, StagedMentions $staged): bool
    {
        $lines = 1;
        $counted = 0;
        $last = -1;
        foreach (FileParts::of($path, $file) as $from => $part) {
            if ($part instanceof NotSearched) {
                $this->leave($part);

                return false;
            }
            foreach ($this->in($part, $path) as $mention) {
                $start = $from + $mention->start;
                if ($start <= $last) {
                    // It stood on the border, and in the part before.
                    continue;
                }
                $last = $start;
                $lines += substr_count($part, "\n", max(0, $counted - $from), max(0, $start - max($counted, $from)));
                $counted = max($counted, $start);
                $staged->beside($mention->moved($from), $source, $path, '', $lines);
            }
            $end = $from + strlen($part);
            $lines += substr_count($part, "\n", max(0, $counted - $from), max(0, $end - max($counted, $from)));
            $counted = max($counted, $end);
        }

        return true;
    }

    /** @return list<array{place: string, why: string}> what was not looked into since this was made */
    public function left(): array
    {
        return $this->left;
    }

    public function leave(NotSearched $what): void
    {
        if (count($this->left) < self::SAID) {
            $this->left[] = ['place' => mb_scrub($what->place), 'why' => $what->why];
        } else {
            $this->more++;
        }
    }
}
