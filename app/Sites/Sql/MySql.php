<?php

declare(strict_types=1);

namespace App\Sites\Sql;

use PDO;
use PDOException;

/** MySQL and MariaDB. */
final readonly class MySql implements Dialect
{
    use Transactions;

    public function quote(string $name): string
    {
        return implode('.', array_map($this->name(...), explode('.', $name)));
    }

    public function name(string $name): string
    {
        return '`'.str_replace('`', '``', $name).'`';
    }

    public function hex(string $expression): string
    {
        return "lower(hex($expression))";
    }

    public function text(string $expression): string
    {
        return "cast($expression as char)";
    }

    public function size(string $expression): string
    {
        return "length($expression)";
    }

    public function textual(string $expression, Column $column): string
    {
        return $column->isBinary ? $expression : $this->text($expression);
    }

    public function tables(PDO $pdo): array
    {
        $statement = $pdo->query(
            'select table_name as n from information_schema.tables where table_schema = database() and '.
                "table_type in ('BASE TABLE', 'SYSTEM VERSIONED') order by table_name",
        );

        return $statement === false ? [] : array_values(
            array_filter($statement->fetchAll(PDO::FETCH_COLUMN), is_string(...)),
        );
    }

    public function stream(PDO $pdo, string $sql): iterable
    {
        // The driver would take all rows of a buffered select into memory.
        $pdo->setAttribute(PDO::MYSQL_ATTR_USE_BUFFERED_QUERY, false);
        try {
            $rows = $pdo->query($sql);
            while ($rows !== false && is_array($row = $rows->fetch(PDO::FETCH_ASSOC))) {
                yield $row;
            }
        } finally {
            $rows = null;
            $pdo->setAttribute(PDO::MYSQL_ATTR_USE_BUFFERED_QUERY, true);
        }
    }

    public function keyParameter(Column $column): string
    {
        return $column->isBinary ? 'unhex(?)' : '?';
    }

    public function columns(PDO $pdo, string $table): array
    {
        $columns = [];
        foreach (
            $this->rows(
                $pdo,
                'select column_name as n, data_type as t, extra as e, column_default as d, '.
                    'is_nullable as z from information_schema.columns where table_schema = %s and table_name = %s',
                $table,
            ) as $row
        ) {
            $type = strtolower((string) $row['t']);
            $extra = strtolower((string) $row['e']);
            $columns[(string) $row['n']] = new Column(
                $type,
                preg_match('~binary|blob|^bit$|geometry~', $type) === 1,
                preg_match('~int$~', $type) === 1,
                str_contains($extra, 'auto_increment')
                    || ($row['d'] !== null && strtolower((string) $row['d']) !== 'null'),
                str_contains($extra, 'on update'),
                in_array($type, ['float', 'double', 'real'], true),
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
                'select index_name as i, column_name as n from information_schema.statistics where '.
                    'table_schema = %s and table_name = %s and non_unique = 0 order by index_name, seq_in_index',
                $table,
            ) as $row
        ) {
            $indexes[(string) $row['i']][] = (string) $row['n'];
        }

        return array_values($indexes);
    }

    public function triggers(PDO $pdo, string $table): array
    {
        return array_map(
            static fn (array $row): string => (string) $row['n'],
            $this->rows(
                $pdo,
                'select trigger_name as n from information_schema.triggers where event_object_schema = %s and '.
                    "event_object_table = %s and event_manipulation = 'UPDATE' order by trigger_name",
                $table,
            ),
        );
    }

    public function parameter(Column $column): string
    {
        return '?';
    }

    public function returnsRows(PDO $pdo): bool
    {
        // MariaDB does since 10.5, MySQL does not.
        $version = $pdo->getAttribute(PDO::ATTR_SERVER_VERSION);

        return is_string($version) && stripos($version, 'mariadb') !== false;
    }

    public function updatesFromRows(): bool
    {
        return false;
    }

    public function trouble(PDOException $e): Trouble
    {
        $info = $e->errorInfo ?? [];
        $code = is_int($info[1] ?? null) ? $info[1] : (int) $e->getCode();

        return match ($code) {
            // Cannot connect, gone away, lost during query, shutting down, killed, too many connections.
            2002, 2003, 2005, 2006, 2013, 1053, 1927, 1040, 1203, 4031 => Trouble::Away,
            1044, 1045, 1049, 1130, 1698 => Trouble::SignIn,
            1146 => Trouble::NoTable,
            1054 => Trouble::NoColumn,
            1142, 1143, 1290, 1227, 1792, 1036 => Trouble::NoRight,
            default => Trouble::Refused,
        };
    }

    /** @return list<array<string, scalar|null>> */
    private function rows(PDO $pdo, string $sql, string $table): array
    {
        $parts = explode('.', $table);
        $statement = $pdo->prepare(sprintf($sql, count($parts) > 1 ? '?' : 'database()', '?'));
        $statement->execute(array_slice($parts, -2));
        /** @var list<array<string, scalar|null>> $rows */
        $rows = $statement->fetchAll(PDO::FETCH_ASSOC);

        return $rows;
    }
}
