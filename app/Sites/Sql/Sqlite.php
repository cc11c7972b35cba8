<?php

declare(strict_types=1);

namespace App\Sites\Sql;

use PDO;
use PDOException;

final readonly class Sqlite implements Dialect
{
    /** A function that the connection brings along: SQLite learned to read hexadecimal digits in 3.41 only. */
    public const BYTES = 'ylema_bytes';

    public function quote(string $name): string
    {
        return implode('.', array_map($this->name(...), explode('.', $name)));
    }

    public function name(string $name): string
    {
        return '"'.str_replace('"', '""', $name).'"';
    }

    public function hex(string $expression): string
    {
        return "lower(hex($expression))";
    }

    public function text(string $expression): string
    {
        return "cast($expression as text)";
    }

    public function size(string $expression): string
    {
        return "length(cast($expression as blob))";
    }

    public function textual(string $expression, Column $column): string
    {
        // A column of any type holds texts and bytes as well (SQLite's documentation, "Datatypes", 3).
        return "case when typeof($expression) in ('text', 'blob') then $expression end";
    }

    public function tables(PDO $pdo): array
    {
        $statement = $pdo->query(
            "select name from sqlite_master where type = 'table' and name not like 'sqlite\\_%' escape '\\' order by 1",
        );

        return $statement === false ? [] : array_values(
            array_filter($statement->fetchAll(PDO::FETCH_COLUMN), is_string(...)),
        );
    }

    public function stream(PDO $pdo, string $sql): iterable
    {
        $rows = $pdo->query($sql);
        while ($rows !== false && is_array($row = $rows->fetch(PDO::FETCH_ASSOC))) {
            yield $row;
        }
    }

    public function keyParameter(Column $column): string
    {
        return $column->isBinary ? 'cast('.self::BYTES.'(?) as blob)' : '?';
    }

    public function columns(PDO $pdo, string $table): array
    {
        $columns = [];
        foreach ($this->rows($pdo, 'select name, type, dflt_value, pk from pragma_table_info(?)', $table) as $row) {
            $type = strtolower((string) $row['type']);
            // A column of exactly this type that is the whole key is an alias of the row's own number (SQLite's
            // documentation, "Rowid Tables").
            $columns[(string) $row['name']] = new Column(
                $type,
                str_contains($type, 'blob'),
                str_contains($type, 'int'),
                ($type === 'integer' && (int) $row['pk'] === 1) || $row['dflt_value'] !== null,
                isFloating: preg_match('~real|floa|doub~', $type) === 1,
            );
        }

        return $columns;
    }

    public function uniques(PDO $pdo, string $table): array
    {
        $indexes = [];
        foreach (
            $this->rows(
                $pdo,
                'select l.name as i, c.name as n from pragma_index_list(?) l join '.
                    'pragma_index_info(l.name) c where l."unique" = 1 and l.partial = 0 order by l.name, c.seqno',
                $table,
            ) as $row
        ) {
            $indexes[(string) $row['i']][] = (string) $row['n'];
        }
        $key = array_map(
            static fn (array $row): string => (string) $row['name'],
            $this->rows($pdo, 'select name from pragma_table_info(?) where pk > 0 order by pk', $table),
        );

        return $key === [] ? array_values($indexes) : [...array_values($indexes), $key];
    }

    public function triggers(PDO $pdo, string $table): array
    {
        return array_map(
            static fn (array $row): string => (string) $row['name'],
            array_values(
                array_filter(
                    $this->rows(
                        $pdo,
                        "select name, sql from sqlite_master where type = 'trigger' and lower(tbl_name) = lower(?) ".
                            'order by name',
                        $table,
                    ),
                    static fn (array $row): bool => preg_match('~\bupdate\b.*?\bon\b~is', (string) $row['sql']) === 1,
                ),
            ),
        );
    }

    public function begin(PDO $pdo): void
    {
        // A transaction that only begins to write in its middle may find that another one does already.
        $pdo->exec('begin immediate');
    }

    public function commit(PDO $pdo): void
    {
        $pdo->exec('commit');
    }

    public function rollBack(PDO $pdo): void
    {
        try {
            $pdo->exec('rollback');
        } catch (PDOException) {
            // None was open.
        }
    }

    public function lock(): string
    {
        return '';
    }

    public function parameter(Column $column): string
    {
        return '?';
    }

    public function returnsRows(PDO $pdo): bool
    {
        return true;
    }

    public function updatesFromRows(): bool
    {
        return false;
    }

    public function trouble(PDOException $e): Trouble
    {
        $message = $e->getMessage();

        return match (true) {
            str_contains($message, 'unable to open database') => Trouble::Away,
            str_contains($message, 'disk I/O error') => Trouble::Away,
            str_contains($message, 'no such table') => Trouble::NoTable,
            str_contains($message, 'no such column') => Trouble::NoColumn,
            str_contains($message, 'has no column named') => Trouble::NoColumn,
            str_contains($message, 'readonly database') => Trouble::NoRight,
            default => Trouble::Refused,
        };
    }

    /** @return list<array<string, scalar|null>> */
    private function rows(PDO $pdo, string $sql, string $table): array
    {
        $statement = $pdo->prepare($sql);
        $statement->execute([$table]);
        /** @var list<array<string, scalar|null>> $rows */
        $rows = $statement->fetchAll(PDO::FETCH_ASSOC);

        return $rows;
    }
}
