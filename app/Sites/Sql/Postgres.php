<?php

declare(strict_types=1);

namespace App\Sites\Sql;

use PDO;
use PDOException;

final readonly class Postgres implements Dialect
{
    use Transactions;

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
        return "encode($expression, 'hex')";
    }

    public function text(string $expression): string
    {
        return "cast($expression as text)";
    }

    public function size(string $expression): string
    {
        return "octet_length($expression)";
    }

    public function textual(string $expression, Column $column): string
    {
        return $column->isBinary ? $expression : $this->text($expression);
    }

    public function tables(PDO $pdo): array
    {
        $statement = $pdo->query(
            <<<'SQL'
            select case when pg_table_is_visible(c.oid) then c.relname else n.nspname || '.' || c.relname end
            from pg_class c join pg_namespace n on n.oid = c.relnamespace
            where c.relkind in ('r', 'p', 'f', 'm') and not c.relispartition
                and n.nspname not in ('pg_catalog', 'information_schema') and n.nspname not like 'pg\_t%'
            order by 1
            SQL
            ,
        );

        return $statement === false ? [] : array_values(
            array_filter($statement->fetchAll(PDO::FETCH_COLUMN), is_string(...)),
        );
    }

    public function stream(PDO $pdo, string $sql): iterable
    {
        // The driver would take all rows of a plain select into memory.
        $this->begin($pdo);
        try {
            $pdo->exec("declare beside no scroll cursor for $sql");
            do {
                $rows = $pdo->query('fetch 500 from beside');
                $batch = $rows === false ? [] : $rows->fetchAll(PDO::FETCH_ASSOC);
                foreach ($batch as $row) {
                    /** @var array<array-key, mixed> $row */
                    yield $row;
                }
            } while ($batch !== []);
        } finally {
            $this->rollBack($pdo);
        }
    }

    public function keyParameter(Column $column): string
    {
        return $column->isBinary ? "decode(?, 'hex')" : $this->parameter($column);
    }

    public function columns(PDO $pdo, string $table): array
    {
        $statement = $pdo->prepare(
            <<<'SQL'
            select a.attname as name, format_type(a.atttypid, null) as type, t.typname, t.typcategory,
                (a.atthasdef or a.attidentity <> '' or a.attgenerated <> '') as fills
            from pg_attribute a join pg_type t on t.oid = a.atttypid
            where a.attrelid = to_regclass(?) and a.attnum > 0 and not a.attisdropped
            SQL
            ,
        );
        $statement->execute([$this->quote($table)]);
        $columns = [];
        /** @var array{name: string, type: string, typname: string, typcategory: string, fills: bool} $row */
        foreach ($statement->fetchAll(PDO::FETCH_ASSOC) as $row) {
            $columns[$row['name']] = new Column(
                $row['type'],
                $row['typname'] === 'bytea',
                in_array($row['typname'], ['int2', 'int4', 'int8'], true),
                $row['fills'],
                isFloating: in_array($row['typname'], ['float4', 'float8'], true),
            );
        }

        return $columns;
    }

    public function uniques(PDO $pdo, string $table): array
    {
        $statement = $pdo->prepare(
            <<<'SQL'
            select i.indexrelid, a.attname from pg_index i cross
                join lateral unnest(i.indkey) with ordinality as k(num, place)
            join pg_attribute a on a.attrelid = i.indrelid and a.attnum = k.num
            where i.indrelid = to_regclass(?) and i.indisunique and i.indpred is null and i.indexprs is null
                order by i.indexrelid, k.place
            SQL
            ,
        );
        $statement->execute([$this->quote($table)]);
        $indexes = [];
        /** @var array{indexrelid: int, attname: string} $row */
        foreach ($statement->fetchAll(PDO::FETCH_ASSOC) as $row) {
            $indexes[$row['indexrelid']][] = $row['attname'];
        }

        return array_values($indexes);
    }

    public function triggers(PDO $pdo, string $table): array
    {
        // Bit 4 of tgtype: fires on update.
        $statement = $pdo->prepare(
            'select tgname from pg_trigger where tgrelid = to_regclass(?) and not tgisinternal and tgenabled <> \'D\' '.
                'and tgtype & 16 > 0 order by tgname',
        );
        $statement->execute([$this->quote($table)]);

        return array_values(array_filter($statement->fetchAll(PDO::FETCH_COLUMN), is_string(...)));
    }

    public function parameter(Column $column): string
    {
        return "cast(? as $column->type)";
    }

    public function returnsRows(PDO $pdo): bool
    {
        return true;
    }

    public function updatesFromRows(): bool
    {
        return true;
    }

    public function trouble(PDOException $e): Trouble
    {
        $state = (string) $e->getCode();

        // PostgreSQL's appendix A; a connection that could not be made comes without a state of its own.
        return match (true) {
            str_starts_with($state, '28')
                || preg_match(
                    '~password authentication failed|role "[^"]*" does not exist|no pg_hba~',
                    $e->getMessage(),
                ) === 1 => Trouble::SignIn,
            str_starts_with($state, '08')
                || str_starts_with($state, '57P')
                || $state === '7'
                || preg_match(
                    '~server closed the connection|no connection to the server|could not connect|Connection refused~',
                    $e->getMessage(),
                ) === 1 => Trouble::Away,
            $state === '42P01' || $state === '3F000' => Trouble::NoTable,
            $state === '42703' => Trouble::NoColumn,
            $state === '42501' || $state === '25006' => Trouble::NoRight,
            default => Trouble::Refused,
        };
    }
}
