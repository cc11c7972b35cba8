<?php

declare(strict_types=1);

namespace App\Sites;

use App\Sites\Sql\Column;
use App\Sites\Sql\Connection;
use Generator;
use PDO;
use PDOException;
use Ylema\Reading\CannotEncode;
use Ylema\Sites\MediaRow;
use Ylema\Sites\NewMedia;
use Ylema\Sites\RecordChanged;
use Ylema\Sites\SourceMedia;
use Ylema\Sites\SourceUnavailable;
use Ylema\Sites\WriteRefused;
use Ylema\Sites\WrittenPath;

/** The site's own list of media in its content database. */
final readonly class PdoMedia
{
    private const PAGE = 2000;

    /** Rows that are named in one statement. */
    private const CHUNK = 250;

    private ?MediaMap $media;

    public function __construct(private FieldMap $map, private Connection $database)
    {
        $this->media = $map->media;
    }

    /** @return Generator<SourceMedia> in pages, so that a long list is never in memory */
    public function all(): Generator
    {
        if ($this->media === null) {
            return;
        }
        $key = $this->joined()->expression($this->media->key);
        $parameter = $this->database->dialect->keyParameter($this->keyColumn());
        /** @var string|null $after */
        $after = null;
        do {
            $rows = $this->fetched(
                ($after === null ? '' : " and $key > $parameter")." order by $key limit ".self::PAGE,
                $after === null ? [] : [$after],
            );
            $sizes = [];
            foreach (array_chunk($rows, self::CHUNK) as $chunk) {
                $sizes += $this->sizes(array_map($this->key(...), $chunk));
            }
            foreach ($rows as $row) {
                $after = $this->key($row);
                yield $this->item($row, $sizes[$after] ?? []);
            }
        } while (count($rows) === self::PAGE);
    }

    /**
     * @param  list<string>  $ids
     * @return Generator<SourceMedia>
     */
    public function find(array $ids): Generator
    {
        foreach (array_chunk($this->askable($ids), self::CHUNK) as $chunk) {
            $rows = $this->fetched(" and {$this->among($chunk, true)}", $chunk);
            $sizes = $this->sizes(array_map($this->key(...), $rows));
            foreach ($rows as $row) {
                $id = $this->key($row);
                if (in_array($id, $chunk, true)) {
                    yield $this->item($row, $sizes[$id] ?? []);
                }
            }
        }
    }

    /** Whether an id can be anything but a whole number. */
    public function idsAreWords(): bool
    {
        return $this->media !== null && ! $this->keyColumn()->isNumber;
    }

    /**
     * @param  list<string>  $ids
     * @return Generator<MediaRow>
     */
    public function rows(array $ids): Generator
    {
        foreach (array_chunk($this->askable($ids), self::CHUNK) as $chunk) {
            $rows = $this->database->read(
                "select * from {$this->table()} where {$this->among($chunk)}",
                $chunk,
                'media',
            );
            while (is_array($row = $rows->fetch(PDO::FETCH_ASSOC))) {
                $id = $this->key($row);
                if (in_array($id, $chunk, true)) {
                    yield self::asRow($id, $row);
                }
            }
        }
    }

    public function row(string $id): ?MediaRow
    {
        try {
            return $this->askable([$id]) === [] ? null : $this->fetchRow($id, '');
        } catch (PDOException $e) {
            throw $this->database->explained($e, 'media');
        }
    }

    public function madeFrom(NewMedia $media): ?MediaRow
    {
        $own = $this->media?->valuesFor($this->asOthers($media->path));
        if ($own === null) {
            return null;
        }
        $values = $this->values($media);
        $conditions = array_map(
            fn (string $column): string => "{$this->database->dialect->name($column)} = ?",
            array_map(strval(...), array_keys($own)),
        );
        $found = $this->database
            ->read(
                "select {$this->keySaid()} from {$this->table()} where ".implode(' and ', $conditions),
                array_values($own),
                'media',
            )
            ->fetchAll(PDO::FETCH_COLUMN);
        foreach ($found as $id) {
            $row = $this->row(Text::of($id));
            if ($row !== null && $this->holds($row, $values)) {
                return $row;
            }
        }

        return null;
    }

    public function add(NewMedia|MediaRow $media): MediaRow
    {
        $values = $media instanceof MediaRow ? $media->columns : $this->values($media);

        $what = 'The media row of "'.($media instanceof MediaRow ? $media->id : $media->path).'"';

        return $this->within($what, function () use ($media, $values): MediaRow {
            $columns = $this->columns();
            $names = array_map(
                fn (string $c): string => $this->database->dialect->quote($c),
                array_map(strval(...), array_keys($values)),
            );
            $parameters = array_map(
                fn (string $c): string => $this->database->dialect->parameter($columns[$c] ?? new Column('text')),
                array_map(strval(...), array_keys($values)),
            );
            $from = '';
            if ($media instanceof NewMedia && ! $this->keyColumn()->fillsItself) {
                if (! $this->keyColumn()->isNumber) {
                    throw new WriteRefused(
                        "The media row of \"$media->path\"",
                        'the media table gives its rows no key by itself. Add the picture on the site and swap for it '.
                            'by choosing it here',
                    );
                }
                // Where the table does not number its rows itself, the statement that inserts does.
                array_unshift($names, $this->keyName());
                array_unshift($parameters, "coalesce(max({$this->keyName()}), 0) + 1");
                $from = " from {$this->table()}";
            }
            $sql =
                "insert into {$this->table()} (".
                implode(', ', $names).
                ') '.
                ($from === ''
                    ? 'values ('.implode(', ', $parameters).')'
                    : 'select '.implode(', ', $parameters).$from);
            $id = $media instanceof MediaRow ? $media->id : null;
            if ($id !== null) {
                $this->database->run($sql, array_values($values));
            } elseif ($this->database->dialect->returnsRows($this->database->pdo())) {
                $id = Text::of(
                    $this->database->run("$sql returning {$this->keySaid()}", array_values($values))->fetchColumn(),
                );
            } else {
                $this->database->run($sql, array_values($values));
                $id =
                    $from === ''
                        ? (string) $this->database->pdo()->lastInsertId()
                        : Text::of(
                            $this->database->run("select max({$this->keyName()}) from {$this->table()}")->fetchColumn(),
                        );
            }
            $row = $this->fetchRow($id, '');
            if ($row === null || ! $this->holds($row, $values)) {
                throw WriteRefused::notReadBack(
                    'The media row of "'.($media instanceof MediaRow ? $media->id : $media->path).'"',
                    'A column may be too short for it, or unable to hold its characters.',
                );
            }

            return $row;
        });
    }

    /**
     * @param  array<string, string>  $before
     * @param  array<string, string>  $after
     */
    public function change(string $id, array $before, array $after): void
    {
        $this->within("The media row $id", function () use ($id, $before, $after): null {
            $row =
                $this->fetchRow($id, $this->database->dialect->lock()) ?? throw RecordChanged::gone('media row', $id);
            $has = fn (MediaRow $row, array $words): bool => self::areAlike($this->words($row), $words);
            if ($has($row, $after)) {
                return null;
            }
            if (! $has($row, $before)) {
                throw RecordChanged::since('media row', $id);
            }
            $columns = $this->columns();
            $sets = $values = [];
            foreach ($after as $word => $text) {
                foreach ($this->ownValues($word, $text) as $column => $value) {
                    $values[] = $value;
                    $sets[] =
                        $this->database->dialect->name((string) $column).
                        ' = '.
                        $this->database->dialect->parameter($columns[$column] ?? new Column('text'));
                }
            }
            $this->database->run(
                "update {$this->table()} set ".
                    implode(', ', $sets).
                    " where {$this->keyName()} = {$this->database->dialect->keyParameter($this->keyColumn())}",
                [...$values, $id],
            );
            $now = $this->fetchRow($id, '');
            if ($now === null || ! $has($now, $after)) {
                throw WriteRefused::notReadBack(
                    "The media row $id",
                    'A column may be too short for it, or unable to hold its characters.',
                );
            }

            return null;
        });
    }

    public function remove(MediaRow $row): void
    {
        $this->within("The media row $row->id", function () use ($row): null {
            $now = $this->fetchRow($row->id, $this->database->dialect->lock());
            if ($now !== null && $now->hash() !== $row->hash()) {
                throw RecordChanged::since('media row', $row->id);
            }
            if ($now !== null) {
                $this->database->run(
                    "delete from {$this->table()} where {$this->keyName()} = ".
                        "{$this->database->dialect->keyParameter($this->keyColumn())}",
                    [$row->id],
                );
            }

            return null;
        });
    }

    /** @param  list<MediaRow>  $rows */
    public function removeAll(array $rows): void
    {
        $this->within(count($rows).' media rows', function () use ($rows): null {
            $parameter = $this->database->dialect->keyParameter($this->keyColumn());
            foreach (array_chunk($rows, self::CHUNK) as $chunk) {
                $ids = array_map(static fn (MediaRow $row): string => $row->id, $chunk);
                $in = "{$this->keyName()} in (".implode(', ', array_fill(0, count($ids), $parameter)).')';
                $there = $this->locked($in, $ids);
                foreach ($chunk as $row) {
                    if (isset($there[$row->id]) && $there[$row->id]->hash() !== $row->hash()) {
                        throw RecordChanged::since('media row', $row->id);
                    }
                }
                $this->database->run("delete from {$this->table()} where $in", $ids);
            }

            return null;
        });
    }

    /** @param  list<MediaRow>  $rows */
    public function addAll(array $rows): void
    {
        $this->within(count($rows).' media rows', function () use ($rows): null {
            $columns = $this->columns();
            foreach ($rows as $row) {
                $names = array_map(strval(...), array_keys($row->columns));
                $this->database->run(
                    "insert into {$this->table()} (".
                        implode(', ', array_map($this->database->dialect->quote(...), $names)).
                        ') values ('.
                        implode(
                            ', ',
                            array_map(
                                fn (string $c): string => $this->database->dialect->parameter(
                                    $columns[$c] ?? new Column('text'),
                                ),
                                $names,
                            ),
                        ).
                        ')',
                    array_values($row->columns),
                );
            }
            foreach (array_chunk($rows, self::CHUNK) as $chunk) {
                $parameter = $this->database->dialect->keyParameter($this->keyColumn());
                $ids = array_map(static fn (MediaRow $row): string => $row->id, $chunk);
                $in = "{$this->keyName()} in (".implode(', ', array_fill(0, count($ids), $parameter)).')';
                $there = $this->locked($in, $ids);
                foreach ($chunk as $row) {
                    if (! isset($there[$row->id]) || ! $this->holds($there[$row->id], $row->columns)) {
                        throw WriteRefused::notReadBack(
                            "The media row of \"$row->id\"",
                            'A column may be too short for it, or unable to hold its characters.',
                        );
                    }
                }
            }

            return null;
        });
    }

    /**
     * @param  list<string>  $ids
     * @return array<array-key, MediaRow>
     *
     * @throws PDOException
     */
    private function locked(string $in, array $ids): array
    {
        $rows = [];
        $found = $this->database->run(
            "select * from {$this->table()} where $in{$this->database->dialect->lock()}",
            $ids,
        );
        while (is_array($row = $found->fetch(PDO::FETCH_ASSOC))) {
            $own = self::asRow($this->key($row), $row);
            $rows[$own->id] = $own;
        }

        return $rows;
    }

    /**
     * One transaction of the source.
     *
     * @template T
     *
     * @param  callable(): T  $do
     * @return T
     *
     * @throws RecordChanged|WriteRefused|SourceUnavailable|FieldMapError
     */
    private function within(string $what, callable $do): mixed
    {
        $pdo = $this->database->pdo();
        try {
            $this->database->dialect->begin($pdo);
            $result = $do();
            $this->database->dialect->commit($pdo);

            return $result;
        } catch (PDOException $e) {
            throw $this->database->isAway($e) ? $this->database->unavailable($e) : $this->database->refused($e, $what);
        } finally {
            $this->database->close();
        }
    }

    /** @throws PDOException */
    private function fetchRow(string $id, string $lock): ?MediaRow
    {
        $row = $this->database
            ->run(
                "select * from {$this->table()} where {$this->keyName()} = ".
                    "{$this->database->dialect->keyParameter($this->keyColumn())}$lock",
                [$id],
            )
            ->fetch(PDO::FETCH_ASSOC);
        if (! is_array($row)) {
            return null;
        }

        return self::asRow($id, $row);
    }

    /** @param  array<mixed>  $row */
    private static function asRow(string $id, array $row): MediaRow
    {
        $columns = [];
        foreach ($row as $name => $value) {
            $columns[(string) $name] = $value === null ? null : Text::of($value);
        }

        return new MediaRow($id, $columns);
    }

    /** @param  array<string, string|int|null>  $values column → value */
    private function holds(MediaRow $row, array $values): bool
    {
        foreach ($values as $column => $value) {
            $there = $row->columns[$column] ?? null;
            // A database may keep json in a spelling of its own.
            $same =
                $there === ($value === null ? null : (string) $value)
                || ($column === $this->media?->column('renditions')
                    && json_decode((string) $there) == json_decode((string) $value));
            if (! $same) {
                return false;
            }
        }

        return true;
    }

    /**
     * @param  array<string, string>  $there
     * @param  array<string, string>  $words
     */
    private static function areAlike(array $there, array $words): bool
    {
        foreach ($words as $name => $word) {
            // A database may keep json in a spelling of its own.
            $isSame =
                ($there[$name] ?? '') === $word
                || ($name === 'renditions' && json_decode($there[$name] ?? '') == json_decode($word));
            if (! $isSame) {
                return false;
            }
        }

        return true;
    }

    /** @return array<string, string> */
    private function words(MediaRow $row): array
    {
        return $this->media?->wordsOf($row->columns) ?? [];
    }

    /** @return array<string, string|int|null> column → value */
    private function values(NewMedia $media): array
    {
        $path = $this->asOthers($media->path);
        $values = $this->ownValues('path', $path);
        // The site draws no smaller pictures of what it did not take in itself; whole ones are shown in their place.
        foreach ($this->media->ownSizes ?? [] as $size) {
            $values += $size->unfill($path) ?? [];
        }
        // Words that nobody gave are left to the table's own defaults.
        $words = array_filter(['caption' => $media->caption, 'credit' => $media->credit]);
        foreach (
            [
                'title' => $media->title,
                'alt' => $media->alt,
                ...$words,
                'folder' => dirname($media->path),
                'width' => $media->width,
                'height' => $media->height,
                'renditions' => json_encode(
                    $media->renditions,
                    JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE,
                ),
            ] as $name => $value
        ) {
            $column = $this->media?->written($name);
            if ($column !== null && ! isset($values[$column])) {
                $values[$column] = $value;
            }
        }

        return $values;
    }

    /** A path as the list's other rows write theirs: bare, from the root, as a whole address, or in a scheme. */
    private function asOthers(string $path): string
    {
        $media = $this->media;
        if ($media === null || ! str_starts_with($media->path->text, '{')) {
            return $path;
        }
        $last = $this->fetched(" order by {$this->joined()->expression($media->key)} desc limit 1", [])[0] ?? [];
        $written = $media->path->fill(static fn (string $column): string => $last[$column] ?? '');
        try {
            return WrittenPath::of($written, $this->map->schemes)->to($path);
        } catch (CannotEncode $e) {
            throw new WriteRefused("The media row of \"$path\"", $e->getMessage());
        }
    }

    /**
     * @return array<string, string> column → what it holds for a word, or for the path
     *
     * @throws WriteRefused|FieldMapError
     */
    private function ownValues(string $word, string $text): array
    {
        if ($word === 'path') {
            return $this->media?->valuesFor($text) ??
                throw new WriteRefused(
                    "The media row of \"$text\"",
                    'the media table cannot say this path: it says paths as '.
                        ($this->media->path->text ?? 'nothing').
                        ' (media.path in the field map)',
                );
        }
        if (str_starts_with($word, MediaMap::SIZE)) {
            return $this->media?->sizeFor($word, $text) ?? [];
        }
        $column =
            $this->media?->written($word) ??
            throw $this->map->wrong("media.$word", 'the field map names no column of the media table for it.');

        return [$column => $text];
    }

    /**
     * @param  list<string>  $values
     * @return list<array<string, string|null>>
     */
    private function fetched(string $conditions, array $values): array
    {
        $media = $this->media ?? throw $this->map->wrong('media', 'this site has no list of media.');
        $rows = $this->database->read(
            $this->joined()->select($media->columns(), [$media->key]).$conditions,
            $values,
            'media',
        );

        return iterator_to_array(PdoRecords::fetch($rows), false);
    }

    /**
     * The sizes that a table of their own lists.
     *
     * @param  list<string>  $ids
     * @return array<string, list<string>> id of the media row → paths
     */
    private function sizes(array $ids): array
    {
        $map = $this->media?->sizes;
        if ($map === null || $ids === []) {
            return [];
        }
        $table = new JoinedTable($this->database, $map->table, $map->where, [], 'media.sizes');
        $parameter = $this->database->dialect->keyParameter($table->column($map->media));
        $rows = $this->database->read(
            $table->select([$map->media, ...$map->path->columns()], [$map->media]).
                " and {$table->expression($map->media)} in (".
                implode(', ', array_fill(0, count($ids), $parameter)).
                ')',
            $ids,
            'media.sizes',
        );
        $sizes = [];
        foreach (PdoRecords::fetch($rows) as $row) {
            $sizes[(string) $row[$map->media]][] = $this->path($map->path, $row);
        }

        return $sizes;
    }

    /** @param  array<string, string|null>  $row */
    private function path(Template $template, array $row): string
    {
        $path = $template->fill(static fn (string $column): string => $row[$column] ?? '');

        return WrittenPath::of($path, $this->map->schemes)->path;
    }

    /**
     * @param  array<string, string|null>  $row
     * @param  list<string>  $sizes from a table of their own
     */
    private function item(array $row, array $sizes): SourceMedia
    {
        $media = $this->media ?? throw $this->map->wrong('media', 'this site has no list of media.');
        $get = static fn (string $name): string => $row[$media->column($name) ?? ''] ?? '';
        $tags = json_decode($get('tags'), true);
        $renditions = json_decode($get('renditions'), true);
        $paths = [];
        foreach (is_array($renditions) ? $renditions : [] as $rendition) {
            $path = is_array($rendition) ? $rendition['path'] ?? null : $rendition;
            if (is_string($path)) {
                $paths[] = WrittenPath::of($path, $this->map->schemes)->path;
            }
        }
        foreach ($media->ownSizes as $size) {
            $paths[] = $this->path($size, $row);
        }
        $paths = array_diff($paths, ['']);

        return new SourceMedia(
            (string) $row[$media->key],
            $this->path($media->path, $row),
            $get('title'),
            $get('alt'),
            $get('caption'),
            $get('credit'),
            $get('folder'),
            is_array($tags) ? array_values(array_filter($tags, is_string(...))) : [],
            array_values(array_unique([...$paths, ...$sizes])),
            $get('focus_x') === '' ? null : (float) $get('focus_x'),
            $get('focus_y') === '' ? null : (float) $get('focus_y'),
        );
    }

    /**
     * @param  list<string>  $ids
     * @return list<string>
     */
    private function askable(array $ids): array
    {
        if ($this->media === null) {
            return [];
        }
        $column = $this->keyColumn();

        return array_values(array_filter($ids, $column->canHold(...)));
    }

    /** @param  list<string>  $ids */
    private function among(array $ids, bool $joined = false): string
    {
        $parameter = $this->database->dialect->keyParameter($this->keyColumn());
        $key = $joined ? $this->joined()->expression((string) $this->media?->key) : $this->keyName();

        return "$key in (".implode(', ', array_fill(0, count($ids), $parameter)).')';
    }

    /** @param  array<mixed>  $row */
    private function key(array $row): string
    {
        $key = Text::of($row[(string) $this->media?->key] ?? '');

        // Whole rows come with the bytes themselves, what was selected by name with their digits.
        return $this->keyColumn()->isBinary && ! mb_check_encoding($key, 'ASCII') ? bin2hex($key) : $key;
    }

    private function joined(): JoinedTable
    {
        $media = $this->media ?? throw $this->map->wrong('media', 'this site has no list of media.');

        return new JoinedTable($this->database, $media->table, $media->where, $media->joins, 'media');
    }

    /** @return array<string, Column> */
    private function columns(): array
    {
        return $this->database->columns((string) $this->media?->table, 'media');
    }

    private function keyColumn(): Column
    {
        return $this->database->column((string) $this->media?->table, (string) $this->media?->key, 'media');
    }

    private function table(): string
    {
        if ($this->media === null) {
            throw new WriteRefused(
                'A media row',
                'the field map knows no list of media of this site (media), so that its files are all there is',
            );
        }

        return $this->database->dialect->quote($this->media->table);
    }

    private function keyName(): string
    {
        return $this->database->dialect->name((string) $this->media?->key);
    }

    /** The key as it is known here. */
    private function keySaid(): string
    {
        return $this->keyColumn()->isBinary ? $this->database->dialect->hex($this->keyName()) : $this->keyName();
    }
}
