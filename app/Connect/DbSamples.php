<?php

declare(strict_types=1);

namespace App\Connect;

use App\Sites\FieldMap;
use App\Sites\FieldMapError;
use App\Sites\Join;
use App\Sites\JoinedTable;
use App\Sites\PdoRecords;
use App\Sites\Sql\Column;
use App\Sites\Sql\Connection;
use App\Sites\Text;
use Doctrine\DBAL\DriverManager;
use Doctrine\DBAL\Exception as SchemaException;
use Doctrine\DBAL\Schema\Column as DoctrineColumn;
use Doctrine\DBAL\Schema\Table;
use Doctrine\DBAL\Types\Types;
use PDO;
use PDOException;
use Ylema\Connect\ColumnProfile;
use Ylema\Connect\ColumnType;
use Ylema\Connect\Samples;
use Ylema\Connect\TableProfile;
use Ylema\Sites\SourceUnavailable;

/** A database that nobody described: its schema through Doctrine, and some rows of each table. */
final class DbSamples implements Samples
{
    /** Rows from each end of a table. */
    private const ROWS = 200;

    /** Characters of a value that are looked at: what it is shows at its beginning. */
    private const LONGEST = 65536;

    /** Keys of media that a column is held against. */
    private const KEYS = 300_000;

    /** A table is counted so far. */
    private const COUNTED = 100_001;

    private const EACH = 20;

    /** Characters of what is a word by which rows are sorted, and no text. */
    private const WORD = 40;

    /** Names of columns that name a row. */
    private const KEY = '~(?:^|_)(?:id|key|code|no|nr|num|uid|uuid|sku)$|id$~i';

    private readonly Connection $database;

    /** @var array<string, string> table → why it could not be looked at */
    public array $unread = [];

    public function __construct(
        private readonly string $dsn,
        private readonly string $user,
        private readonly string $password,
    ) {
        $this->database = new Connection(FieldMap::none(), $dsn, $user, $password);
    }

    /** @throws SourceUnavailable */
    public function tables(): iterable
    {
        // What is wrong with host, user or password is said before Doctrine would say it in its own words.
        $this->database->pdo();
        foreach ($this->schema() as $table) {
            try {
                yield $this->profile($table);
            } catch (PDOException|FieldMapError $e) {
                $this->unread[self::nameOf($table)] = $e->getMessage();
            }
        }
    }

    /**
     * @return array<string, list<string>> table → columns, without a look at any row
     *
     * @throws SourceUnavailable
     */
    public function names(): array
    {
        $this->database->pdo();
        $names = [];
        foreach ($this->schema() as $table) {
            $columns = [];
            foreach ($table->getColumns() as $column) {
                $columns[] = self::bare($column->getName());
            }
            $names[self::nameOf($table)] = $columns;
        }

        return $names;
    }

    public function known(string $table, string $column, array $values): int
    {
        try {
            $own = $this->column($table, $column);
            $asked = array_values(array_filter($values, $own->canHold(...)));
            if ($asked === []) {
                return 0;
            }
            $name = $this->database->dialect->name($column);
            $count = $this->database
                ->run(
                    "select count(distinct $name) from {$this->database->dialect->quote($table)} where $name in ("
                        .implode(', ', array_fill(0, count($asked), $this->database->dialect->keyParameter($own)))
                        .')',
                    $asked,
                )
                ->fetchColumn();

            return is_numeric($count) ? (int) $count : 0;
        } catch (PDOException|FieldMapError) {
            return 0;
        }
    }

    public function keys(string $table, string $column): iterable
    {
        $dialect = $this->database->dialect;
        $name = $dialect->name($column);
        // Bytes are said in hexadecimal digits.
        $said = $this->column($table, $column)->isBinary ? $dialect->hex($name) : $dialect->text($name);
        $sql = "select distinct $said as k from {$dialect->quote($table)} where $name is not null limit ".self::KEYS;
        foreach ($this->database->dialect->stream($this->database->pdo(), $sql) as $row) {
            yield Text::of($row['k'] ?? null);
        }
    }

    public function byName(string $table, string $name, string $value): array
    {
        [$n, $v] = [$this->database->dialect->name($name), $this->database->dialect->name($value)];
        $rows = $this->database->run(
            "select n, v from (select $n as n, $v as v, row_number() over (partition by $n order by $n) as r from "
                ."{$this->database->dialect->quote($table)} where $v is not null and "
                ."{$this->database->dialect->text($v)} <> '' and length({$this->database->dialect->text($v)}) <= "
                .self::LONGEST.') as numbered where r <= '.self::EACH,
        );
        $values = [];
        foreach (PdoRecords::fetch($rows) as $row) {
            $values[(string) $row['n']][] = (string) $row['v'];
        }

        return $values;
    }

    public function quoted(string $column): string
    {
        return preg_match('~^[a-z_][a-z0-9_]*$~D', $column) === 1 ? $column : $this->database->dialect->name($column);
    }

    public function rows(string $table, array $columns, array $joins = []): array
    {
        $own = [];
        foreach ($joins as $name => $join) {
            $own[$name] = new Join($name, $join['table'], $join['on'], $join['where'] ?? null);
        }
        $joined = new JoinedTable($this->database, $table, null, $own, 'records');
        $rows = $this->database->run($joined->select($columns, $columns).' limit '.(2 * self::ROWS));

        return iterator_to_array(PdoRecords::fetch($rows), false);
    }

    private function profile(Table $table): TableProfile
    {
        $name = self::nameOf($table);
        $quoted = $this->database->dialect->quote($name);
        $uniques = [];
        foreach ($table->getIndexes() as $index) {
            if ($index->isUnique()) {
                $index->isPrimary()
                    ? array_unshift($uniques, $index->getUnquotedColumns())
                    : array_push($uniques, $index->getUnquotedColumns());
            }
        }
        $counted = $this->database
            ->run("select count(*) from (select 1 from $quoted limit ".self::COUNTED.') as counted')
            ->fetchColumn();
        $count = is_numeric($counted) ? (int) $counted : 0;
        if ($uniques === [] && $count > 0 && $count < self::COUNTED) {
            $told = $this->tellingApart($name, $table);
            $uniques = $told === null ? [] : [$told];
        }
        $samples = $this->sampled($name, $table, array_values($uniques[0] ?? []), $count);
        $columns = [];
        foreach ($table->getColumns() as $column) {
            $own = self::bare($column->getName());
            [$type, $values] = self::typed($this->typeOf($column->getType()::class), $samples[$own] ?? []);
            $columns[$own] = new ColumnProfile($own, $type, $values, $column->getLength() ?? 0);
        }
        $foreign = [];
        foreach ($table->getForeignKeys() as $key) {
            if (count($key->getLocalColumns()) === 1) {
                $foreign[self::bare($key->getLocalColumns()[0])] = [
                    self::bare($key->getForeignTableName()), self::bare($key->getForeignColumns()[0]),
                ];
            }
        }

        return new TableProfile(
            $name,
            $count,
            $columns,
            array_values(array_map(array_values(...), $uniques)),
            $foreign,
            stamps: array_keys(array_filter(
                $this->database->dialect->columns($this->database->pdo(), $name),
                static fn (Column $column): bool => $column->stampsItself,
            )),
        );
    }

    /**
     * Columns that tell all rows of a table apart which says none itself, as many an old one does not.
     *
     * @return list<string>|null
     */
    private function tellingApart(string $name, Table $table): ?array
    {
        $likely = [];
        foreach ($table->getColumns() as $column) {
            $own = self::bare($column->getName());
            $type = $this->typeOf($column->getType()::class);
            $isShort = $type === ColumnType::Number
                || ($type === ColumnType::Text && ($column->getLength() ?? 0) > 0 && $column->getLength() <= 80);
            if ($isShort && $this->column($name, $own)->isFloating === false) {
                $likely[] = $own;
            }
        }
        // What is called a key comes first, and what stands at the front of the table.
        usort(
            $likely,
            static fn (string $a, string $b): int => preg_match(self::KEY, $b) <=> preg_match(self::KEY, $a),
        );
        $likely = array_slice($likely, 0, 4);
        // Where rows only tie others together, one of them may be there once just by now.
        $tells = array_filter(
            $table->getColumns(),
            fn (DoctrineColumn $c): bool => $this->typeOf($c->getType()::class) === ColumnType::Text
                && ($c->getLength() === null || $c->getLength() > self::WORD),
        );
        $sets = $tells === [] ? [] : array_map(static fn (string $one): array => [$one], $likely);
        foreach ($likely as $n => $one) {
            foreach (array_slice($likely, $n + 1) as $other) {
                $sets[] = [$one, $other];
            }
        }
        $sets[] = array_slice($likely, 0, 3);
        array_push($sets, ...array_map(static fn (string $one): array => [$one], $likely));
        foreach ($sets as $set) {
            if ($set !== [] && $this->areApart($name, $set)) {
                return $set;
            }
        }

        return null;
    }

    /** @param  non-empty-list<string>  $columns */
    private function areApart(string $table, array $columns): bool
    {
        $list = implode(', ', array_map($this->database->dialect->name(...), $columns));
        $quoted = $this->database->dialect->quote($table);
        $nothing = implode(
            ' or ',
            array_map(fn (string $c): string => $this->database->dialect->name($c).' is null', $columns),
        );
        $twice = $this->database
            ->run(
                "select 1 from (select 1 as one from $quoted group by $list having count(*) > 1 limit 1) as twice"
                    ." union all select 1 from (select 1 as one from $quoted where $nothing limit 1) as holes",
            )
            ->fetchColumn();

        return $twice === false;
    }

    /**
     * Rows from both ends of a table: the newest are written as the site is now, the oldest as it was.
     *
     * @param  list<string>  $key
     * @return array<string, list<string>> column → values that are not empty
     */
    private function sampled(string $name, Table $table, array $key, int $count): array
    {
        $list = [];
        foreach ($table->getColumns() as $column) {
            $own = $this->database->dialect->name(self::bare($column->getName()));
            $isLong = in_array($this->typeOf($column->getType()::class), [ColumnType::Text, ColumnType::Bytes], true);
            $list[] = $isLong
                ? "substr({$this->measured($name, self::bare($column->getName()), $own)}, 1, ".self::LONGEST.") as $own"
                : $own;
        }
        $order = implode(', ', array_map($this->database->dialect->name(...), $key));
        $back = implode(', ', array_map(fn (string $c): string => $this->database->dialect->name($c).' desc', $key));
        $values = [];
        // A small table is read once.
        $ends = match (true) {
            $order === '' => [''],
            $count <= self::ROWS => [" order by $order"],
            default => [" order by $order", " order by $back"],
        };
        foreach ($ends as $by) {
            $rows = $this->database->run(
                'select '.implode(', ', $list)." from {$this->database->dialect->quote($name)}$by limit ".self::ROWS,
            );
            while (is_array($row = $rows->fetch(PDO::FETCH_ASSOC))) {
                foreach ($row as $column => $value) {
                    $text = Text::of($value);
                    if ($text !== '') {
                        $values[(string) $column][] = $text;
                    }
                }
            }
        }

        return $values;
    }

    private function measured(string $table, string $column, string $quoted): string
    {
        return $this->column($table, $column)->isBinary ? $quoted : $this->database->dialect->text($quoted);
    }

    private function column(string $table, string $column): Column
    {
        return $this->database->column($table, $column, 'records');
    }

    /**
     * Bytes that are text are read as text: many a site keeps serialized values so.
     *
     * @param  list<string>  $values
     * @return array{ColumnType, list<string>}
     */
    private static function typed(ColumnType $type, array $values): array
    {
        if ($type !== ColumnType::Bytes) {
            // What is no text in part is judged by the rest.
            return [$type, array_map(mb_scrub(...), $values)];
        }
        foreach ($values as $value) {
            if (! mb_check_encoding($value, 'UTF-8') || preg_match('~[\x00-\x08\x0E-\x1F]~', $value) === 1) {
                return [
                    ColumnType::Bytes,
                    array_map(
                        bin2hex(...),
                        array_values(array_filter($values, static fn (string $v): bool => strlen($v) <= 64)),
                    ),
                ];
            }
        }

        return [ColumnType::Text, $values];
    }

    /** @param  class-string  $type of Doctrine's */
    private function typeOf(string $type): ColumnType
    {
        $name = strtolower(preg_replace('~^.*\\\\(?:Var)?(\w+?)Type$~', '$1', $type) ?? $type);

        return match (true) {
            str_contains($name, 'int') => ColumnType::Number,
            // MySQL's flags are numbers, in which an old site may well keep a 2.
            $name === Types::BOOLEAN => str_starts_with($this->dsn, 'pgsql') ? ColumnType::Flag : ColumnType::Number,
            in_array($name, ['float', 'smallfloat', 'decimal'], true) => ColumnType::Rounded,
            str_contains($name, 'date') || str_contains($name, 'time') => ColumnType::Moment,
            in_array($name, ['binary', 'blob'], true) => ColumnType::Bytes,
            default => ColumnType::Text,
        };
    }

    /** @return list<Table> */
    private function schema(): array
    {
        $connection = DriverManager::getConnection($this->parameters());
        $manager = $connection->createSchemaManager();
        for ($unknown = 0; ; $unknown++) {
            try {
                return $manager->listTables();
            } catch (SchemaException $e) {
                // A type of the database's own (a network address, a shape) is as good as text here.
                $said = '~Unknown database type "?(\S+?)"? requested~i';
                if ($unknown > 50 || preg_match($said, $e->getMessage(), $m) !== 1) {
                    throw new SourceUnavailable("The schema of the database could not be read: {$e->getMessage()}", $e);
                }
                $connection->getDatabasePlatform()->registerDoctrineTypeMapping($m[1], Types::STRING);
            }
        }
    }

    /** @return array<string, mixed> */
    private function parameters(): array
    {
        [$driver, $rest] = [...explode(':', $this->dsn, 2), ''];
        if ($driver === 'sqlite') {
            return ['driver' => 'pdo_sqlite', 'path' => $rest];
        }
        $parts = [];
        foreach (explode(';', $rest) as $part) {
            [$name, $value] = [...explode('=', $part, 2), ''];
            $parts[trim($name)] = $value;
        }

        return array_filter([
            'driver' => "pdo_$driver",
            'host' => $parts['host'] ?? null,
            'port' => isset($parts['port']) ? (int) $parts['port'] : null,
            'dbname' => $parts['dbname'] ?? null,
            'unix_socket' => $parts['unix_socket'] ?? null,
            'charset' => $parts['charset'] ?? ($driver === 'mysql' ? 'utf8mb4' : null),
            'user' => $this->user,
            'password' => $this->password,
        ], static fn (mixed $v): bool => $v !== null);
    }

    private static function nameOf(Table $table): string
    {
        // The schema that everything lies in by itself need not be said.
        return preg_replace('~^(?:public|main)\.~', '', self::bare($table->getName())) ?? '';
    }

    private static function bare(string $name): string
    {
        return str_replace(['"', '`'], '', $name);
    }
}
