<?php

declare(strict_types=1);

namespace App\Sites\Sql;

use App\Sites\FieldMap;
use App\Sites\FieldMapError;
use PDO;
use PDOException;
use PDOStatement;
use Throwable;
use Ylema\Sites\SourceUnavailable;
use Ylema\Sites\WriteRefused;

/** One connection to a content database: opened when first needed, described once, and its errors said in words. */
final class Connection
{
    private ?PDO $pdo = null;

    public readonly Dialect $dialect;

    /** @var array<string, array<string, Column>> */
    private array $columns = [];

    public function __construct(
        private readonly FieldMap $map,
        private readonly string $dsn,
        private readonly string $user,
        private readonly string $password,
    ) {
        $this->dialect = match (strstr($dsn, ':', true)) {
            'mysql' => new MySql(),
            'sqlite' => new Sqlite(),
            default => new Postgres(),
        };
    }

    /** @throws SourceUnavailable */
    public function pdo(): PDO
    {
        try {
            return $this->pdo ??= $this->open();
        } catch (PDOException $e) {
            throw $this->unavailable($e);
        }
    }

    public function forget(): void
    {
        $this->pdo = null;
    }

    /**
     * @param  list<scalar|null>  $values
     *
     * @throws PDOException
     */
    public function run(string $sql, array $values = []): PDOStatement
    {
        $statement = $this->pdo()->prepare($sql);
        $statement->execute($values);

        return $statement;
    }

    /**
     * The same for what is only read; whatever goes wrong is said in the words of the field map.
     *
     * @param  list<scalar|null>  $values
     * @param  string  $place of the field map that the statement follows from: `records.page`
     *
     * @throws SourceUnavailable|FieldMapError
     */
    public function read(string $sql, array $values, string $place): PDOStatement
    {
        try {
            return $this->run($sql, $values);
        } catch (PDOException $e) {
            throw $this->explained($e, $place);
        }
    }

    /**
     * @return array<string, Column>
     *
     * @throws SourceUnavailable|FieldMapError
     */
    public function columns(string $table, string $place): array
    {
        if (! isset($this->columns[$table])) {
            try {
                $columns = $this->dialect->columns($this->pdo(), $table);
            } catch (PDOException $e) {
                throw $this->explained($e, $place);
            }
            if ($columns === []) {
                throw $this->map->wrong(
                    "$place.table",
                    "the database ({$this->where()}) has no table \"$table\" that this user can see. Correct the ".
                        'name, or grant the user the right to read it.',
                );
            }
            $this->columns[$table] = $columns;
        }

        return $this->columns[$table];
    }

    /**
     * @param  string|null  $named how the field map names it, where that is not the column alone
     *
     * @throws SourceUnavailable|FieldMapError
     */
    public function column(string $table, string $column, string $place, ?string $named = null): Column
    {
        return $this->columns($table, $place)[$column] ?? throw $this->noColumn($named ?? $column, $place);
    }

    /**
     * @return list<string> the columns of the shortest index that lets no two rows be alike; empty where there is none
     *
     * @throws PDOException
     */
    public function key(string $table): array
    {
        $columns = $this->dialect->columns($this->pdo(), $table);
        $usable = array_filter(
            $this->dialect->uniques($this->pdo(), $table),
            static fn (array $names): bool => array_filter(
                $names,
                static fn (string $name): bool => ! isset($columns[$name]) || $columns[$name]->isBinary,
            ) === [],
        );
        usort($usable, static fn (array $a, array $b): int => count($a) <=> count($b));

        return $usable[0] ?? [];
    }

    public function isAway(PDOException $e): bool
    {
        return in_array($this->dialect->trouble($e), [Trouble::Away, Trouble::SignIn], true);
    }

    /** Why one statement was refused, in the database's own words. */
    public function refused(PDOException $e, string $what): WriteRefused
    {
        return new WriteRefused(
            $what,
            $this->dialect->trouble($e) === Trouble::NoRight
                ? "the database does not let the user \"{$this->user}\" write there ({$this->words(
                    $e,
                )}). Grant it the ".'right to update the table, then try again'
                : $this->words($e),
            $e,
        );
    }

    public function explained(PDOException $e, string $place): SourceUnavailable|FieldMapError
    {
        $table = $this->map->tableAt($place);

        return match ($this->dialect->trouble($e)) {
            Trouble::NoTable => $this->map->wrong(
                "$place.table",
                "the database ({$this->where()}) has no table \"$table\". Correct the name, or restore the table.",
            ),
            Trouble::NoColumn => $this->noColumn($this->columnIn($e), $place),
            Trouble::NoRight => $this->map->wrong(
                "$place.table",
                "the database does not let the user \"{$this->user}\" read \"$table\" ({$this->words($e)}). Grant it ".
                    'the right, then read again.',
            ),
            Trouble::Refused => $this->map->wrong(
                $place,
                "the database refuses what follows from these lines: {$this->words($e)}.",
            ),
            default => $this->unavailable($e),
        };
    }

    public function unavailable(PDOException $e): SourceUnavailable
    {
        $this->pdo = null;
        $advice =
            $this->dialect->trouble($e) === Trouble::SignIn
                ? "It does not let the user \"{$this->user}\" in. Check user, password and database name, then try ".
                    'again.'
                : 'Check that it runs and that its address is right, then try again.';

        return new SourceUnavailable(
            "The site's content database ({$this->where()}) does not answer as it should: {$this->words($e)}. $advice",
            $e,
            $this->where(),
            $this->words($e),
        );
    }

    public function close(): void
    {
        try {
            $this->pdo !== null && $this->dialect->rollBack($this->pdo);
        } catch (Throwable) {
            $this->pdo = null;
        }
    }

    private function open(): PDO
    {
        $options = [PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION, PDO::ATTR_TIMEOUT => 10];
        $dsn = $this->dsn;
        if ($this->dialect instanceof MySql) {
            // Anything less loses characters, unless somebody says that the site itself speaks it.
            $dsn .= str_contains($dsn, 'charset=') ? '' : ';charset=utf8mb4';
            // Rows that an update found count, also where it changed nothing in them.
            $options[PDO::MYSQL_ATTR_FOUND_ROWS] = true;
        }

        if ($this->dialect instanceof Postgres) {
            // No statement here is run twice, so that preparing each would only cost a way to the server and back.
            $options[PDO::PGSQL_ATTR_DISABLE_PREPARES] = true;
        }

        $pdo = new PDO($dsn, $this->user, $this->password, $options);
        if ($this->dialect instanceof Sqlite) {
            $bytes = static fn (mixed $digits): ?string => is_string($digits) ? (hex2bin($digits) ?: null) : null;
            $pdo->sqliteCreateFunction(Sqlite::BYTES, $bytes, 1, PDO::SQLITE_DETERMINISTIC);
        }

        return $pdo;
    }

    private function noColumn(string $column, string $place): FieldMapError
    {
        $at = $this->map->placeOf($place, $column);

        return $this->map->wrong(
            $at,
            "the table has no column \"$column\" that this user can see. Correct the name, or take the line out.",
        );
    }

    private function columnIn(PDOException $e): string
    {
        return preg_match('~(?:column:? |Unknown column )["\']?(?:[\w]+\.)?([\w]+)~', $e->getMessage(), $m) === 1
            ? $m[1]
            : '?';
    }

    private function where(): string
    {
        return preg_replace('~password=[^;]*~', 'password=…', $this->dsn) ?? '';
    }

    private function words(PDOException $e): string
    {
        return rtrim(
            trim(explode("\n", preg_replace('~^SQLSTATE\[\w+\](?: \[\d+\])?:?\s*~', '', $e->getMessage()) ?? '')[0]),
            '.',
        );
    }
}
