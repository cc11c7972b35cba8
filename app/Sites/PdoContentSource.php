<?php

declare(strict_types=1);

namespace App\Sites;

use DateTimeImmutable;
use Generator;
use PDO;
use PDOException;
use PDOStatement;
use Ylema\Sites\ContentSource;
use Ylema\Sites\KeyRange;
use Ylema\Sites\NewMedia;
use Ylema\Sites\RecordChanged;
use Ylema\Sites\SourceField;
use Ylema\Sites\SourceMedia;
use Ylema\Sites\SourceRecord;
use Ylema\Sites\SourceUnavailable;
use Ylema\Usage\RecordState;

/** A content database behind PDO, read and written by its field map. */
final class PdoContentSource implements ContentSource
{
    private ?PDO $pdo = null;

    public function __construct(
        private readonly FieldMap $map,
        private readonly string $dsn,
        private readonly string $user,
        private readonly string $password,
    ) {
    }

    public function kinds(): array
    {
        return array_keys($this->map->kinds);
    }

    public function count(string $kind): int
    {
        $map = $this->map->kind($kind);

        return (int) self::text($this->query("select count(*) from {$this->id($map->table)}{$this->where($map)}")->fetchColumn());
    }

    public function ranges(string $kind, int $size): iterable
    {
        $map = $this->map->kind($kind);
        $key = $this->id($map->key);
        $size = max(1, $size);
        // Every size-th key is the end of a range; the last range is open, so that records added meanwhile are read too.
        $ends = $this->query("select k from (select $key as k, row_number() over (order by $key) as n from {$this->id($map->table)}{$this->where($map)}) as numbered where n % $size = 0 order by n");
        $after = null;
        while (($end = $ends->fetchColumn()) !== false) {
            $end = self::text($end);
            yield new KeyRange($after, $end);
            $after = $end;
        }
        yield new KeyRange($after, null);
    }

    public function records(string $kind, KeyRange $range): iterable
    {
        $map = $this->map->kind($kind);
        $key = $this->id($map->key);
        $conditions = [];
        $values = [];
        if ($map->where !== null) {
            $conditions[] = "({$map->where})";
        }
        if ($range->after !== null) {
            $conditions[] = "$key > ?";
            $values[] = $range->after;
        }
        if ($range->to !== null) {
            $conditions[] = "$key <= ?";
            $values[] = $range->to;
        }
        yield from $this->rows($map, $conditions === [] ? '' : ' where '.implode(' and ', $conditions), $values, " order by $key");
    }

    public function find(string $kind, array $keys): iterable
    {
        $map = $this->map->kind($kind);
        foreach (array_chunk($keys, 500) as $chunk) {
            $marks = implode(',', array_fill(0, count($chunk), '?'));
            yield from $this->rows($map, ' where '.($map->where === null ? '' : "({$map->where}) and ")."cast({$this->id($map->key)} as text) in ($marks)", $chunk, '');
        }
    }

    public function replace(string $kind, string $key, string $expected, array $fields): string
    {
        $map = $this->map->kind($kind);
        foreach (array_keys($fields) as $field) {
            if (! isset($map->fields[$field])) {
                throw FieldMapError::at("records.$kind.fields", "there is no \"$field\" to write.");
            }
        }
        $pdo = $this->connect();
        try {
            $pdo->beginTransaction();
            try {
                $lock = $pdo->getAttribute(PDO::ATTR_DRIVER_NAME) === 'sqlite' ? '' : ' for update';
                $record = null;
                foreach ($this->rows($map, ' where '.($map->where === null ? '' : "({$map->where}) and ")."cast({$this->id($map->key)} as text) = ?", [$key], $lock) as $found) {
                    $record = $found;
                }
                if ($record === null) {
                    throw RecordChanged::gone($kind, $key);
                }
                if ($record->contentHash !== $expected) {
                    throw RecordChanged::since($kind, $key);
                }
                $sets = implode(', ', array_map(fn (string $f): string => $this->id($f).' = ?', array_keys($fields)));
                $statement = $pdo->prepare("update {$this->id($map->table)} set $sets where cast({$this->id($map->key)} as text) = ?");
                $statement->execute([...array_values($fields), $key]);
                $texts = array_column($record->fields, 'text', 'name');
                $pdo->commit();

                return SourceRecord::hashOf([...$texts, ...$fields]);
            } finally {
                if ($pdo->inTransaction()) {
                    $pdo->rollBack();
                }
            }
        } catch (PDOException $e) {
            throw $this->unavailable($e);
        }
    }

    public function media(): iterable
    {
        $media = $this->map->media;
        $columns = array_values(array_filter([$media['key'], $media['path'], $media['title'], $media['alt'], $media['caption'], $media['credit'], $media['folder'], $media['tags'], $media['renditions'], $media['focus_x'], $media['focus_y']]));
        $rows = $this->query('select '.implode(', ', array_map($this->id(...), $columns))." from {$this->id((string) $media['table'])} order by {$this->id((string) $media['key'])}");
        while (is_array($row = $rows->fetch(PDO::FETCH_ASSOC))) {
            $get = static fn (string $name): string => $media[$name] === null ? '' : self::text($row[$media[$name]] ?? '');
            $tags = json_decode($get('tags'), true);
            $renditions = json_decode($get('renditions'), true);
            $paths = [];
            foreach (is_array($renditions) ? $renditions : [] as $rendition) {
                $path = is_array($rendition) ? ($rendition['path'] ?? null) : $rendition;
                if (is_string($path)) {
                    $paths[] = $path;
                }
            }
            yield new SourceMedia(
                $get('key'), ltrim($get('path'), '/'), $get('title'), $get('alt'), $get('caption'), $get('credit'), $get('folder'),
                is_array($tags) ? array_values(array_filter($tags, is_string(...))) : [], $paths,
                $get('focus_x') === '' ? null : (float) $get('focus_x'), $get('focus_y') === '' ? null : (float) $get('focus_y'),
            );
        }
    }

    public function newMediaId(): string
    {
        $table = $this->id((string) $this->map->media['table']);
        $key = (string) $this->map->media['key'];
        if ($this->connect()->getAttribute(PDO::ATTR_DRIVER_NAME) === 'pgsql') {
            $sequence = $this->query('select pg_get_serial_sequence(?, ?)', [$this->map->media['table'], $key])->fetchColumn();
            if (is_string($sequence)) {
                return self::text($this->query('select nextval(cast(? as regclass))', [$sequence])->fetchColumn());
            }
        }

        return self::text($this->query("select coalesce(max({$this->id($key)}), 0) + 1 from $table")->fetchColumn());
    }

    public function addMedia(NewMedia $media): void
    {
        $columns = $this->map->media;
        $row = [];
        foreach ([
            'key' => $media->id, 'path' => $media->path, 'title' => $media->title, 'alt' => $media->alt, 'folder' => dirname($media->path),
            'width' => $media->width, 'height' => $media->height,
            'renditions' => json_encode($media->renditions, JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE),
        ] as $name => $value) {
            if ($columns[$name] !== null) {
                $row[$columns[$name]] = $value;
            }
        }
        $names = implode(', ', array_map($this->id(...), array_keys($row)));
        $this->query("insert into {$this->id((string) $columns['table'])} ($names) values (".implode(', ', array_fill(0, count($row), '?')).')', array_values($row));
    }

    public function hasMedia(string $id): bool
    {
        return $this->query("select 1 from {$this->id((string) $this->map->media['table'])} where cast({$this->id((string) $this->map->media['key'])} as text) = ?", [$id])->fetchColumn() !== false;
    }

    public function removeMedia(string $id): void
    {
        $this->query("delete from {$this->id((string) $this->map->media['table'])} where cast({$this->id((string) $this->map->media['key'])} as text) = ?", [$id]);
    }

    /**
     * @param  list<scalar|null>  $values
     * @return Generator<SourceRecord>
     */
    private function rows(KindMap $map, string $where, array $values, string $tail): Generator
    {
        $columns = implode(', ', array_map($this->id(...), $map->columns()));
        $rows = $this->query("select $columns from {$this->id($map->table)}$where$tail", $values);
        while (is_array($row = $rows->fetch(PDO::FETCH_ASSOC))) {
            /** @var array<string, mixed> $row */
            yield $this->record($map, $row);
        }
    }

    /** @param  array<string, mixed>  $row */
    private function record(KindMap $map, array $row): SourceRecord
    {
        $rules = $this->map->rules();
        $fields = [];
        foreach ($map->fields as $name => $field) {
            if (! isset($row[$name])) {
                continue;
            }
            $target = $field->target;
            if ($field->targetFrom !== null) {
                $target = $field->targetFrom['kinds'][self::text($row[$field->targetFrom['column']] ?? '')] ?? null;
            }
            $fields[] = new SourceField($name, self::text($row[$name]), $field->notation, $rules->withPaths($field->paths)->forField($field->role, $target));
        }
        $facts = [];
        foreach ($map->facts as $label => $column) {
            $value = $row[$column] ?? null;
            $facts[$label] = is_int($value) ? $value : ($value === null ? null : self::text($value));
        }
        $fill = static fn (string $template): string => preg_replace_callback('~\{(\w+)\}~', static fn (array $m): string => self::text($row[$m[1]] ?? ''), $template) ?? $template;

        return new SourceRecord(
            $map->kind, self::text($row[$map->key]), $fill($map->title), $map->address === null ? null : ltrim($fill($map->address), '/'),
            $this->state($map, $row), $fields, $facts,
        );
    }

    /** @param  array<string, mixed>  $row */
    private function state(KindMap $map, array $row): RecordState
    {
        $says = $map->state;
        if (isset($says['always'])) {
            return RecordState::ofWord($says['always']);
        }
        $state = RecordState::Live;
        if (isset($says['column'])) {
            $value = self::text($row[$says['column']] ?? '');
            $state = match (true) {
                in_array($value, $says['live'], true) => RecordState::Live,
                in_array($value, $says['waiting'], true) => RecordState::Waiting,
                in_array($value, $says['fading'], true) => RecordState::Fading,
                // A word that the map does not know is safest taken for something that may come out.
                default => RecordState::Waiting,
            };
        }
        $now = new DateTimeImmutable;
        if (isset($says['from']) && ($from = self::moment($row[$says['from']] ?? null, false)) !== null && $from > $now) {
            $state = $state->and(RecordState::Waiting);
        }
        if (isset($says['until']) && ($until = self::moment($row[$says['until']] ?? null, true)) !== null && $until < $now) {
            $state = $state->and(RecordState::Fading);
        }

        return $state;
    }

    /** A date without a time lasts until its day is over. */
    private static function moment(mixed $value, bool $endOfDay): ?DateTimeImmutable
    {
        $text = self::text($value);
        $time = $text === '' ? false : strtotime($text.(preg_match('~^\d{4}-\d\d-\d\d$~D', $text) === 1 ? ($endOfDay ? ' 23:59:59 UTC' : ' 00:00:00 UTC') : ''));

        return $time === false ? null : new DateTimeImmutable("@$time");
    }

    private static function text(mixed $value): string
    {
        return match (true) {
            is_bool($value) => $value ? 'true' : 'false',
            is_resource($value) => (string) stream_get_contents($value),
            is_scalar($value) => (string) $value,
            default => '',
        };
    }

    private function where(KindMap $map): string
    {
        return $map->where === null ? '' : " where {$map->where}";
    }

    private function id(string $name): string
    {
        $quote = $this->connect()->getAttribute(PDO::ATTR_DRIVER_NAME) === 'mysql' ? '`' : '"';

        return implode('.', array_map(static fn (string $part): string => $quote.$part.$quote, explode('.', $name)));
    }

    /**
     * @param  list<scalar|null>  $values
     *
     * @throws SourceUnavailable
     */
    private function query(string $sql, array $values = []): PDOStatement
    {
        try {
            $statement = $this->connect()->prepare($sql);
            $statement->execute($values);

            return $statement;
        } catch (PDOException $e) {
            throw $this->unavailable($e);
        }
    }

    private function connect(): PDO
    {
        try {
            return $this->pdo ??= new PDO($this->dsn, $this->user, $this->password, [
                PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION,
                PDO::ATTR_TIMEOUT => 10,
            ]);
        } catch (PDOException $e) {
            throw $this->unavailable($e);
        }
    }

    private function unavailable(PDOException $e): SourceUnavailable
    {
        $this->pdo = null;
        $where = preg_replace('~password=[^;]*~', 'password=…', $this->dsn);
        $why = trim(explode("\n", preg_replace('~^SQLSTATE\[\w+\](?: \[\d+\])?\s*~', '', $e->getMessage()) ?? '')[0]);

        return new SourceUnavailable("The site's content database ($where) does not answer as it should: $why. Check that it runs and that its address and password are right, then try again.", previous: $e);
    }
}
