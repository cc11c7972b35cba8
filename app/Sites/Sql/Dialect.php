<?php

declare(strict_types=1);

namespace App\Sites\Sql;

use PDO;
use PDOException;

/** Where the databases part: how they quote, describe themselves, lock rows and say what went wrong. */
interface Dialect
{
    /** The name of a table, in a schema if it has one before a dot. */
    public function quote(string $name): string;

    /** A name that is one, whatever stands in it. */
    public function name(string $name): string;

    /** Bytes said in small hexadecimal digits. */
    public function hex(string $expression): string;

    /** A value as a text. */
    public function text(string $expression): string;

    /** How many bytes a value takes; of a text, some databases say its characters. */
    public function size(string $expression): string;

    /** A value as text where it is one in that row at all, for databases whose columns hold anything. */
    public function textual(string $expression, Column $column): string;

    /** @return list<string> all tables that this user may know of, as quote() takes them; no views */
    public function tables(PDO $pdo): array;

    /**
     * Rows of a select, of which few are in memory at a time.
     *
     * @return iterable<array<array-key, mixed>>
     */
    public function stream(PDO $pdo, string $sql): iterable;

    /** @return array<string, Column> by name; empty where there is no such table */
    public function columns(PDO $pdo, string $table): array;

    /** @return list<list<string>> the columns of each index that lets no two rows be alike */
    public function uniques(PDO $pdo, string $table): array;

    /** @return list<string> names of the triggers that run when a row is updated */
    public function triggers(PDO $pdo, string $table): array;

    public function begin(PDO $pdo): void;

    public function commit(PDO $pdo): void;

    public function rollBack(PDO $pdo): void;

    /** What a select ends with so that nobody else changes its rows before the transaction ends. */
    public function lock(): string;

    /** A parameter as a value of a column's type. */
    public function parameter(Column $column): string;

    /** A parameter as a key or an id of a column's type; bytes are said in hexadecimal digits. */
    public function keyParameter(Column $column): string;

    /** Whether an insert can give back columns of the row that it made. */
    public function returnsRows(PDO $pdo): bool;

    /** Whether an update can take its values from a list of rows, and give back the rows that it left. */
    public function updatesFromRows(): bool;

    public function trouble(PDOException $e): Trouble;
}
