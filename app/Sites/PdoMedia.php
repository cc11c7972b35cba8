<?php

declare(strict_types=1);

namespace App\Sites;

use App\Sites\Sql\Column;
use App\Sites\Sql\Connection;
use Generator;
use PDO;
use PDOException;
use Ylema\Sites\MediaRow;
use Ylema\Sites\NewMedia;
use Ylema\Sites\RecordChanged;
use Ylema\Sites\SourceMedia;
use Ylema\Sites\SourceUnavailable;
use Ylema\Sites\WriteRefused;

/** The site's own list of media in its content database. */
final readonly class PdoMedia
{
    private const PAGE = 2000;

    /** Rows that are named in one statement. */
    private const CHUNK = 250;

    public function __construct(private FieldMap $map, private Connection $database)
    {
    }

    /** @return Generator<SourceMedia> in pages, so that a long list is never in memory */
    public function all(): Generator
    {
        $key = $this->id('key');
        $parameter = $this->database->dialect->parameter($this->keyColumn());
        /** @var string|null $after */
        $after = null;
        do {
            $count = 0;
            $rows = $this->database->read(
                "{$this->select()}"
                    .($after === null ? '' : " where $key > $parameter")
                    ." order by $key limit "
                    .self::PAGE,
                $after === null ? [] : [$after],
                'media',
            );
            while (is_array($row = $rows->fetch(PDO::FETCH_ASSOC))) {
                $media = $this->media($row);
                $after = $media->id;
                $count++;
                yield $media;
            }
        } while ($count === self::PAGE);
    }

    /**
     * @param  list<string>  $ids
     * @return Generator<SourceMedia>
     */
    public function find(array $ids): Generator
    {
        $parameter = $this->database->dialect->parameter($this->keyColumn());
        foreach (array_chunk($this->askable($ids), 250) as $chunk) {
            $rows = $this->database->read(
                "{$this->select()} where {$this->id('key')} in ("
                    .implode(', ', array_fill(0, count($chunk), $parameter))
                    .')',
                $chunk,
                'media',
            );
            while (is_array($row = $rows->fetch(PDO::FETCH_ASSOC))) {
                $media = $this->media($row);
                if (in_array($media->id, $chunk, true)) {
                    yield $media;
                }
            }
        }
    }

    /**
     * @param  list<string>  $ids
     * @return Generator<MediaRow>
     */
    public function rows(array $ids): Generator
    {
        $parameter = $this->database->dialect->parameter($this->keyColumn());
        foreach (array_chunk($this->askable($ids), 250) as $chunk) {
            $rows = $this->database->read(
                "select * from {$this->table()} where {$this->id('key')} in ("
                    .implode(', ', array_fill(0, count($chunk), $parameter))
                    .')',
                $chunk,
                'media',
            );
            while (is_array($row = $rows->fetch(PDO::FETCH_ASSOC))) {
                $id = Text::of($row[(string) $this->map->media['key']] ?? '');
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
        $values = $this->values($media);
        $found = $this->database
            ->read(
                "select {$this->id('key')} from {$this->table()} where {$this->id('path')} = ?",
                [$media->path],
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
            $columns = $this->database->columns((string) $this->map->media['table'], 'media');
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
                        'the media table gives its rows no key by itself. Add the picture on the site and swap for it '
                            .'by choosing it here',
                    );
                }
                // Where the table does not number its rows itself, the statement that inserts does.
                array_unshift($names, $this->id('key'));
                array_unshift($parameters, "coalesce(max({$this->id('key')}), 0) + 1");
                $from = " from {$this->table()}";
            }
            $sql =
                "insert into {$this->table()} ("
                .implode(', ', $names)
                .') '
                .($from === ''
                    ? 'values ('.implode(', ', $parameters).')'
                    : 'select '.implode(', ', $parameters).$from);
            $id = $media instanceof MediaRow ? $media->id : null;
            if ($id !== null) {
                $this->database->run($sql, array_values($values));
            } elseif ($this->database->dialect->returnsRows($this->database->pdo())) {
                $id = Text::of(
                    $this->database->run("$sql returning {$this->id('key')}", array_values($values))->fetchColumn(),
                );
            } else {
                $this->database->run($sql, array_values($values));
                $id =
                    $from === ''
                        ? (string) $this->database->pdo()->lastInsertId()
                        : Text::of(
                            $this->database->run("select max({$this->id('key')}) from {$this->table()}")->fetchColumn(),
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
            $columns = $this->database->columns((string) $this->map->media['table'], 'media');
            $sets = [];
            foreach (array_keys($after) as $word) {
                $column =
                    $this->map->media[$word]
                    ?? throw $this->map->wrong("media.$word", 'the field map names no column for it.');
                $sets[] =
                    $this->database->dialect->quote($column)
                    .' = '
                    .$this->database->dialect->parameter($columns[$column] ?? new Column('text'));
            }
            $this->database->run(
                "update {$this->table()} set "
                    .implode(', ', $sets)
                    ." where {$this->id('key')} = {$this->database->dialect->parameter($this->keyColumn())}",
                [...array_values($after), $id],
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
                    "delete from {$this->table()} where {$this->id('key')} = "
                        ."{$this->database->dialect->parameter($this->keyColumn())}",
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
            $parameter = $this->database->dialect->parameter($this->keyColumn());
            foreach (array_chunk($rows, self::CHUNK) as $chunk) {
                $ids = array_map(static fn (MediaRow $row): string => $row->id, $chunk);
                $in = "{$this->id('key')} in (".implode(', ', array_fill(0, count($ids), $parameter)).')';
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
            $columns = $this->database->columns((string) $this->map->media['table'], 'media');
            foreach ($rows as $row) {
                $names = array_map(strval(...), array_keys($row->columns));
                $this->database->run(
                    "insert into {$this->table()} ("
                        .implode(', ', array_map($this->database->dialect->quote(...), $names))
                        .') values ('
                        .implode(
                            ', ',
                            array_map(
                                fn (string $c): string => $this->database->dialect->parameter(
                                    $columns[$c] ?? new Column('text'),
                                ),
                                $names,
                            ),
                        )
                        .')',
                    array_values($row->columns),
                );
            }
            foreach (array_chunk($rows, self::CHUNK) as $chunk) {
                $parameter = $this->database->dialect->parameter($this->keyColumn());
                $ids = array_map(static fn (MediaRow $row): string => $row->id, $chunk);
                $in = "{$this->id('key')} in (".implode(', ', array_fill(0, count($ids), $parameter)).')';
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
            $own = self::asRow(Text::of($row[(string) $this->map->media['key']] ?? ''), $row);
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
                "select * from {$this->table()} where {$this->id('key')} = "
                    ."{$this->database->dialect->parameter($this->keyColumn())}$lock",
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
                || ($column === $this->map->media['renditions']
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
            $isSame = ($there[$name] ?? '') === $word
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
        $words = [];
        foreach (['title', 'alt', 'caption', 'credit', 'path', 'folder', 'renditions'] as $word) {
            $column = $this->map->media[$word];
            if ($column !== null) {
                $words[$word] = $row->columns[$column] ?? '';
            }
        }

        return $words;
    }

    /** @return array<string, string|int|null> column → value */
    private function values(NewMedia $media): array
    {
        $values = [];
        // Words that nobody gave are left to the table's own defaults.
        $words = array_filter(['caption' => $media->caption, 'credit' => $media->credit]);
        foreach (
            [
                'path' => $media->path,
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
            $column = $this->map->media[$name];
            if ($column !== null) {
                $values[$column] = $value;
            }
        }

        return $values;
    }

    private function select(): string
    {
        $media = $this->map->media;
        $columns = array_values(
            array_unique(
                array_filter(array_diff_key($media, ['table' => 1, 'width' => 1, 'height' => 1]), is_string(...)),
            ),
        );

        return 'select '
            .implode(', ', array_map(fn (string $c): string => $this->database->dialect->quote($c), $columns))
            ." from {$this->table()}";
    }

    /** @param  array<mixed>  $row */
    private function media(array $row): SourceMedia
    {
        $media = $this->map->media;
        $get = static fn (string $name): string => $media[$name] === null ? '' : Text::of($row[$media[$name]] ?? '');
        $tags = json_decode($get('tags'), true);
        $renditions = json_decode($get('renditions'), true);
        $paths = [];
        foreach (is_array($renditions) ? $renditions : [] as $rendition) {
            $path = is_array($rendition) ? $rendition['path'] ?? null : $rendition;
            if (is_string($path)) {
                $paths[] = $path;
            }
        }

        return new SourceMedia(
            $get('key'),
            ltrim($get('path'), '/'),
            $get('title'),
            $get('alt'),
            $get('caption'),
            $get('credit'),
            $get('folder'),
            is_array($tags) ? array_values(array_filter($tags, is_string(...))) : [],
            $paths,
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
        return $this->keyColumn()->isNumber
            ? array_values(array_filter($ids, static fn (string $id): bool => preg_match('~^-?\d{1,19}$~D', $id) === 1))
            : $ids;
    }

    private function keyColumn(): Column
    {
        return $this->database->column((string) $this->map->media['table'], (string) $this->map->media['key'], 'media');
    }

    private function table(): string
    {
        return $this->database->dialect->quote((string) $this->map->media['table']);
    }

    private function id(string $name): string
    {
        return $this->database->dialect->quote((string) $this->map->media[$name]);
    }
}
