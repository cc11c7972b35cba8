<?php

declare(strict_types=1);

namespace Ylema\Connect;

use Ylema\Addresses\SiteAddresses;
use Ylema\Sites\Hole;

/** Finds the site's list of media: the table whose rows each name a file that exists. */
final readonly class MediaTables
{
    /** So many of a table's sampled rows must name a file. */
    private const ENOUGH = 0.6;

    /** Of all files, so many must be in a list of media that is not called one. */
    private const MOST_FILES = 0.3;

    /** Of the values of a column, so many with markup or paragraphs make it a text. */
    private const TELLING = 0.3;

    /** Folders that columns say, one below the other. */
    private const FOLDERS = 3;

    /** Rows by which is learned what stands around a column's value in the name of a folder. */
    private const LOOKED = 40;

    /** What a part of a path may be kept as. */
    private const PARTS = [ColumnType::Text, ColumnType::Number, ColumnType::Moment];

    /** Letters of a name by which files are commonly spread over folders, folder by folder: from and to. */
    private const SPREADS = [[[1, 2], [3, 4]], [[1, 2]], [[1, 1], [2, 2]], [[1, 1]], [[1, 3]], [[1, 1], [1, 2]]];

    /** Letters of a name before its first ones are taken for more than chance. */
    private const HASH = 8;

    /** Digits that numbers are written with, zeros before them. */
    private const DIGITS = [3, 4, 5, 6, 7, 8, 9, 10];

    /** Endings of files that are called by a number. */
    private const NUMBERED = ['.jpg', '.png', '.gif', '.jpeg', '.webp'];

    private const ENDING =
        '~^\.?(?:jpe?g|png|gif|webp|avif|svg|tiff?|bmp|ico|heic|pdf|docx?|xlsx?|odt|zip|mp[34]|webm|mov|m4[av]|og[gv]|'
        .'wav)$~i';

    /**
     * @param  array<string, TableProfile>  $tables
     * @param  list<Relation>  $relations
     * @param  string  $prefix what the names of most tables begin with
     */
    public function __construct(
        private array $tables,
        private array $relations,
        private Samples $samples,
        private FileLookup $files,
        private SiteAddresses $addresses,
        private OwnAddresses $own,
        private string $prefix,
    ) {
    }

    public function find(): ?MediaTable
    {
        $found = [];
        foreach ($this->tables as $table) {
            if (Hints::say(Hints::PASSING, $table->name) || $table->rows === 0) {
                continue;
            }
            $named = $this->named($table);
            // What is called otherwise, and has a few of the files, has a picture in each row as an ornament.
            $isLibrary = Hints::say(Hints::LIBRARY, $table->name)
                || $table->rows >= self::MOST_FILES * $this->files->count();
            if ($named !== null && $isLibrary) {
                $found[$table->name] = $named;
            }
        }
        // Sizes name files as well, and the media they were made of.
        $sizes = [];
        foreach ($this->relations as $relation) {
            $isMany = ! $this->tables[$relation->table]->isUnique([$relation->column]);
            if (
                $isMany
                && isset($found[$relation->table], $found[$relation->to])
                && $relation->table !== $relation->to
            ) {
                if (self::isByNumber($found[$relation->table])) {
                    // A row that ties a picture to something has a number as each file has one.
                    unset($found[$relation->table]);

                    continue;
                }
                $sizes[$relation->to] = [
                    'table' => $relation->table,
                    'media' => $relation->column,
                    'path' => $found[$relation->table]->path,
                ];
                unset($found[$relation->table]);
            }
        }
        $found = array_filter($found, static fn (MediaTable $m): bool => $m->table->id() !== null);
        usort($found, fn (MediaTable $a, MediaTable $b): int => $this->weight($b) <=> $this->weight($a));
        $best = $found[0] ?? null;
        if ($best === null) {
            return null;
        }

        return new MediaTable(
            $best->table,
            $best->path,
            $best->files,
            $best->rows,
            $sizes[$best->table->name] ?? null,
            $best->joins,
            $this->ownSizes($best),
        );
    }

    /** Whether nothing but numbers of a row say the name of its file. */
    private static function isByNumber(MediaTable $media): bool
    {
        preg_match_all(Hole::PATTERN, $media->path, $holes);
        foreach ($holes[1] as $hole) {
            if (($media->table->columns[Hole::of($hole)->column] ?? null)?->type !== ColumnType::Number) {
                return false;
            }
        }

        return true;
    }

    /**
     * Smaller pictures that a row names beside its own file.
     *
     * @return list<string> columns, or paths with columns in braces
     */
    private function ownSizes(MediaTable $media): array
    {
        $sizes = [];
        foreach ($media->table->columns as $name => $column) {
            $isName = $column->type === ColumnType::Text
                && $column->share('~\.[a-z0-9]{2,5}(?:[?#].*)?$~i') >= self::ENOUGH
                && ! str_contains($media->path, '{'.$name.'}');
            $rows = $isName ? $this->samples->rows($media->table->name, [(string) $name]) : [];
            $rows = array_values(array_filter($rows, static fn (array $row): bool => ($row[$name] ?? '') !== ''));
            $said = $rows === [] ? null : $this->said($rows, '{'.$name.'}');
            if ($said !== null && $said[1] >= self::ENOUGH * count($rows)) {
                $sizes[] = $said[0] === '{'.$name.'}' ? (string) $name : $said[0];
            }
        }

        return $sizes;
    }

    /** How much a table looks like a list of media: what it is called, how others tie to it, how many rows it has. */
    private function weight(MediaTable $media): float
    {
        $tied = count(array_filter($this->relations, static fn (Relation $r): bool => $r->to === $media->table->name));
        $called = Hints::say(Hints::MEDIA, $media->table->name) ? 2 : 1;

        return ($media->files / max(1, $media->rows)) * (1 + $tied) * $called * log(2 + $media->table->rows);
    }

    private function named(TableProfile $table): ?MediaTable
    {
        $short = array_filter(
            $table->columns,
            static fn (ColumnProfile $c): bool => in_array($c->type, self::PARTS, true)
                && $c->values !== []
                && $c->share('~[<>\n{]~') === 0.0,
        );
        $isMedia = Hints::say(Hints::MEDIA, $table->name);
        $bases = $this->bases($short, $isMedia, $table);
        // What has a text to read beside its picture is illustrated by that.
        if ($bases === [] || (! $isMedia && $this->tells($table))) {
            return null;
        }
        // A folder may be a row of its own, which the file's row names.
        [$joins, $theirs] = $this->beside($table);
        $short += $theirs;
        $rows = $this->samples->rows($table->name, array_map(strval(...), array_keys($short)), $joins);
        $best = null;
        foreach ($bases as $base) {
            $said = $this->said($rows, $base);
            for ($folders = 0; $folders < self::FOLDERS && ($said[1] ?? 0) < count($rows); $folders++) {
                $deeper = $this->deeper($rows, $base, $short);
                if ($deeper === null || $deeper[1] <= ($said[1] ?? 0)) {
                    break;
                }
                [$base, $said] = [$deeper[2], $deeper];
            }
            if ($said !== null && $said[1] > ($best[1] ?? 0)) {
                $best = $said;
            }
        }

        return $best === null || $best[1] < self::ENOUGH * count($rows)
            ? null
            : new MediaTable($table, $best[0], $best[1], count($rows), joins: array_filter(
                $joins,
                static fn (string $name): bool => str_contains($best[0], '{'."$name."),
                ARRAY_FILTER_USE_KEY,
            ));
    }

    /**
     * Tables that a table's rows name, with those of their columns that could say a folder.
     *
     * @return array{array<string, array{table: string, on: array<string, string>}>, array<string, ColumnProfile>}
     */
    private function beside(TableProfile $table): array
    {
        $joins = $columns = [];
        foreach ($this->relations as $relation) {
            if ($relation->table !== $table->name || $relation->to === $table->name || $relation->by !== null) {
                continue;
            }
            $name = Hints::joinName($relation->to, $this->prefix);
            foreach ($this->tables[$relation->to]->columns as $column) {
                $isFolder = $column->type === ColumnType::Text
                    && $column->values !== []
                    && $column->share('~^[\w ./-]{1,120}$~u') === 1.0;
                if ($isFolder && ($joins[$name]['table'] ?? $relation->to) === $relation->to) {
                    $joins[$name] = ['table' => $relation->to, 'on' => [$relation->key => $relation->column]];
                    $columns["$name.$column->name"] = $column;
                }
            }
        }

        return [$joins, $columns];
    }

    private function tells(TableProfile $table): bool
    {
        foreach ($table->columns as $column) {
            $isText = $column->type === ColumnType::Text && ! Hints::say(Hints::CAPTION, $column->name);
            if ($isText && $column->values !== [] && $column->share('~<[a-z]+[^<>]*>|\S\s*\n~i') >= self::TELLING) {
                return true;
            }
        }

        return false;
    }

    /**
     * Names of files as columns make them: one that holds a name, or one with the name and one with its ending. A list
     * of media has a file a row; what has one now and then has it as an ornament.
     *
     * @param  array<string, ColumnProfile>  $columns
     * @return list<string> each with columns in braces
     */
    private function bases(array $columns, bool $isMedia, TableProfile $table): array
    {
        $bases = $endings = [];
        // The key of another thing calls no file of this one.
        foreach ($this->relations as $relation) {
            if ($relation->table === $table->name && $relation->column !== $table->id()) {
                unset($columns[$relation->column]);
            }
        }
        foreach ($columns as $name => $column) {
            $isName = $column->share('~\.[a-z0-9]{2,5}(?:[?#].*)?$~i') >= self::ENOUGH;
            $isHash = $column->type === ColumnType::Text && $column->share('~^[0-9a-f]{16,128}$~i') === 1.0;
            if ($column->type === ColumnType::Text && ($isName || ($isHash && $this->areNames($column)))) {
                $bases[] = '{'.$name.'}';
            } elseif ($column->share(self::ENDING) >= self::ENOUGH) {
                $endings[] = ($column->share('~^\.~') > 0.5 ? '' : '.').'{'.$name.'}';
            }
        }
        foreach ($endings as $ending) {
            foreach ($columns as $name => $column) {
                if ($column->type === ColumnType::Number) {
                    // Some write a number with zeros before it.
                    array_push($bases, ...array_map(
                        static fn (int $digits): string => '{'."$name.0$digits".'}'.$ending,
                        $this->paddings($column),
                    ));
                }
                if ($column->type !== ColumnType::Moment && $column->share('~^[^\n?#]{1,200}$~') >= self::ENOUGH) {
                    $bases[] = '{'.$name.'}'.$ending;
                }
            }
        }

        // Some sites call each file by its number.
        foreach ($bases === [] && $isMedia ? self::NUMBERED : [] as $ending) {
            foreach ($columns as $name => $column) {
                if ($column->share('~^[\w-]{1,60}$~') === 1.0 && count($column->distinct()) > 2) {
                    $bases[] = '{'.$name.'}'.$ending;
                    foreach ($column->type === ColumnType::Number ? $this->paddings($column) : [] as $digits) {
                        $bases[] = '{'."$name.0$digits".'}'.$ending;
                    }
                }
            }
        }

        return $bases;
    }

    /** @return list<int> digits to which zeros make names of files of a column's numbers */
    private function paddings(ColumnProfile $column): array
    {
        $number = $column->values[0] ?? '';

        return array_values(array_filter(
            self::DIGITS,
            fn (int $digits): bool => $digits > strlen($number) && array_filter(
                self::NUMBERED,
                fn (string $ending): bool => array_filter(
                    array_slice($column->values, 0, self::LOOKED),
                    fn (string $one): bool => $this->files->foldersFor(
                        str_pad($one, $digits, '0', STR_PAD_LEFT).$ending,
                    ) !== [],
                ) !== [],
            ) !== [],
        ));
    }

    /** Whether files are called by what a column says, without an ending. */
    private function areNames(ColumnProfile $column): bool
    {
        $looked = array_slice($column->values, 0, self::LOOKED);
        $named = array_filter($looked, fn (string $value): bool => $this->files->foldersFor($value) !== []);

        return count($named) >= self::ENOUGH * count($looked);
    }

    /**
     * The same names below one more folder that a column says, or the year and month of a date.
     *
     * @param  list<array<string, string|null>>  $rows
     * @param  array<string, ColumnProfile>  $columns
     * @return array{string, int, string}|null as said, and what it was made from
     */
    private function deeper(array $rows, string $base, array $columns): ?array
    {
        $best = null;
        foreach ($columns as $name => $column) {
            $folders =
                $column->type === ColumnType::Moment
                    ? ['{'.$name.'.year}/{'.$name.'.month}/', '{'.$name.'.year}/']
                    : $this->folders($rows, $base, (string) $name);
            foreach ($folders as $folder) {
                // One more letter of a name may say a folder; the rest stands there once.
                $isThere = preg_match('~\{'.preg_quote((string) $name, '~').'[.}]~', $base) === 1
                    && ! str_contains($folder, '-');
                $said = $isThere ? null : $this->said($rows, $folder.$base);
                if ($said !== null && $said[1] > ($best[1] ?? 0)) {
                    $best = [...$said, $folder.$base];
                }
            }
        }

        return $best;
    }

    /**
     * A folder as a column says it, and with what always stands around that: `g12/` for 12.
     *
     * @param  list<array<string, string|null>>  $rows
     * @return list<string>
     */
    private function folders(array $rows, string $base, string $name): array
    {
        $around = [];
        $digits = preg_match('~\{'.preg_quote($name, '~').'\.0(\d+)~', $base, $m) === 1 ? (int) $m[1] : 0;
        foreach (array_slice($rows, 0, self::LOOKED) as $row) {
            $value = trim((string) $row[$name], '/');
            $value = $digits > 0 && $value !== '' ? str_pad($value, $digits, '0', STR_PAD_LEFT) : $value;
            foreach ($value === '' ? [] : $this->files->foldersFor(self::filled($base, $row)) as $folder) {
                foreach ($this->spread($digits > 0 ? "$name.0$digits" : $name, $value, $folder) as $letters) {
                    $around[$letters] = ($around[$letters] ?? 0) + 1;
                }
                if (preg_match('~([A-Za-z_-]*)'.preg_quote($value, '~').'([A-Za-z_-]*)/$~D', $folder, $m) === 1) {
                    $around[$m[1].'{'.$name.'}'.$m[2].'/'] = ($around[$m[1].'{'.$name.'}'.$m[2].'/'] ?? 0) + 1;
                }
            }
        }
        arsort($around);

        return array_values(array_unique(['{'.$name.'}/', ...array_slice(array_keys($around), 0, 2)]));
    }

    /**
     * Folders over which files are spread by the first letters of a name, as `ab/cd/` for abcdef.
     *
     * @return list<string> with the column in braces
     */
    private function spread(string $name, string $value, string $folder): array
    {
        $ways = [];
        foreach (self::SPREADS as $spread) {
            $said = $hole = '';
            foreach ($spread as [$from, $to]) {
                $said .= substr($value, $from - 1, $to - $from + 1).'/';
                $hole .= '{'."$name.$from-$to".'}/';
            }
            // A number's digits are no chance where they say the folder of each.
            $isLong = strlen($value) >= self::HASH || (ctype_digit($value) && strlen($value) > 1);
            if ($isLong && ($folder === $said || str_ends_with($folder, "/$said"))) {
                $ways[] = $hole;
            }
        }

        return $ways;
    }

    /**
     * @param  list<array<string, string|null>>  $rows
     * @param  string  $base with columns in braces
     * @return array{string, int}|null the whole path with columns in braces, and how many rows it makes a file of
     */
    private function said(array $rows, string $base): ?array
    {
        $before = [];
        $texts = array_map(static fn (array $row): string => self::filled($base, $row), $rows);
        foreach ($texts as $text) {
            $whole = $this->own->pathOf($text)
                ?? (preg_match('~^(?:https?:)?/~i', $text) === 1 ? $this->addresses->locate($text)?->path : null);
            $folders =
                $whole !== null && $this->files->has($whole)
                    ? [str_starts_with($text, '/') && $whole === ltrim($text, '/') ? '' : "\0"]
                    : $this->files->foldersFor($text);
            foreach (array_unique($folders) as $one) {
                $before[$one] = ($before[$one] ?? 0) + 1;
            }
        }
        if ($before === []) {
            return null;
        }
        arsort($before);
        $first = (string) array_key_first($before);
        // Of a name that many folders have, only some are remembered; the file itself is asked for.
        $there = count(
            array_filter(
                $texts,
                fn (string $text): bool => $text !== '' && $this->files->has($first.ltrim($text, '/')),
            ),
        );

        return [$first === "\0" ? $base : $first.$base, max($before[$first], $there)];
    }

    /** @param  array<string, string|null>  $row */
    private static function filled(string $base, array $row): string
    {
        $isWhole = true;
        $text = preg_replace_callback(
            Hole::PATTERN,
            static function (array $m) use ($row, $base, &$isWhole): string {
                $hole = Hole::of($m[1]);
                $value = $hole->said((string) ($row[$hole->column] ?? ''));
                $isWhole = $isWhole && $value !== '';

                // A name that is a whole address stays one.
                return $base === $m[0] ? $value : trim($value, '/');
            },
            $base,
        );

        return $isWhole ? (string) $text : '';
    }
}
