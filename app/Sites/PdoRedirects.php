<?php

declare(strict_types=1);

namespace App\Sites;

use App\Sites\Sql\Column;
use App\Sites\Sql\Connection;
use Generator;
use PDO;
use PDOException;
use Ylema\Sites\SourceRedirect;
use Ylema\Sites\SourceUnavailable;
use Ylema\Sites\WriteRefused;

/** The site's own table of redirects, where its field map names one. */
final readonly class PdoRedirects
{
    private const PLACE = 'redirects';

    public function __construct(private FieldMap $map, private Connection $database)
    {
    }

    /**
     * @return Generator<SourceRedirect>
     *
     * @throws SourceUnavailable|FieldMapError
     */
    public function all(): Generator
    {
        if ($this->map->redirects === null) {
            return;
        }
        $rows = $this->database->read("{$this->select()} order by {$this->id('from')}", [], self::PLACE);
        while (is_array($row = $rows->fetch(PDO::FETCH_NUM))) {
            yield self::redirect($row);
        }
    }

    /**
     * @param  list<string>  $spellings in which the table may say one address
     * @return list<SourceRedirect>
     *
     * @throws SourceUnavailable|FieldMapError
     */
    public function from(array $spellings): array
    {
        $rows = $this->database->read(
            "{$this->select()} where {$this->id('from')} in ("
                .implode(', ', array_fill(0, count($spellings), $this->parameter('from')))
                .')',
            $spellings,
            self::PLACE,
        );

        return array_values(array_map(self::redirect(...), $rows->fetchAll(PDO::FETCH_NUM)));
    }

    /** @throws WriteRefused|SourceUnavailable|FieldMapError */
    public function add(SourceRedirect $redirect): void
    {
        $redirect = $this->asOthers($redirect);
        $this->write(
            $redirect,
            "insert into {$this->table()} (".implode(', ', $this->columns()).') values ('
                .implode(', ', array_map($this->parameter(...), array_keys($this->columns())))
                .')',
            $this->values($redirect),
            static fn (array $now): bool => in_array($redirect, $now, false),
        );
    }

    /** @throws WriteRefused|SourceUnavailable|FieldMapError */
    public function remove(SourceRedirect $redirect): void
    {
        $conditions = [];
        foreach ($this->columns() as $name => $column) {
            $conditions[] = "$column = {$this->parameter($name)}";
        }
        $this->write(
            $redirect,
            "delete from {$this->table()} where ".implode(' and ', $conditions),
            $this->values($redirect),
            static fn (array $now): bool => ! in_array($redirect, $now, false),
        );
    }

    /** A site that says its paths without the slash before them looks for them so. */
    private function asOthers(SourceRedirect $redirect): SourceRedirect
    {
        $row = $this->database->read("{$this->select()} limit 1", [], self::PLACE)->fetch(PDO::FETCH_NUM);
        $this->database->close();
        if (! is_array($row)) {
            return $redirect;
        }
        $other = self::redirect($row);
        $like = static function (string $own, string $others): string {
            $isWhole = preg_match('~^(?:[a-z][a-z0-9+.-]*:|/)~i', $others) === 1 || str_starts_with($own, '//');

            return $isWhole ? $own : preg_replace('~^/(?=.)~', '', $own) ?? $own;
        };

        return new SourceRedirect(
            $like($redirect->from, $other->from),
            $like($redirect->to, $other->to),
            $redirect->status,
        );
    }

    /**
     * @param  list<scalar>  $values
     * @param  callable(list<SourceRedirect>): bool  $isDone what of the address is there afterwards
     */
    private function write(SourceRedirect $redirect, string $sql, array $values, callable $isDone): void
    {
        $what = "The redirect of \"$redirect->from\"";
        $pdo = $this->database->pdo();
        try {
            $this->database->dialect->begin($pdo);
            $this->database->run($sql, $values);
            if (! $isDone($this->from([$redirect->from]))) {
                throw WriteRefused::notReadBack($what, 'A column may be too short for it.');
            }
            $this->database->dialect->commit($pdo);
        } catch (PDOException $e) {
            throw $this->database->isAway($e) ? $this->database->unavailable($e) : $this->database->refused($e, $what);
        } finally {
            $this->database->close();
        }
    }

    /** @return array<string, string> from, to, code → quoted column, those that the map names */
    private function columns(): array
    {
        return array_map(
            $this->database->dialect->quote(...),
            array_filter(array_diff_key($this->map->redirects ?? [], ['table' => 1]), is_string(...)),
        );
    }

    /** @return list<scalar> in the order of the columns */
    private function values(SourceRedirect $redirect): array
    {
        return isset($this->columns()['code'])
            ? [$redirect->from, $redirect->to, $redirect->status]
            : [$redirect->from, $redirect->to];
    }

    private function select(): string
    {
        return 'select '.implode(', ', $this->columns())." from {$this->table()}";
    }

    private function table(): string
    {
        return $this->database->dialect->quote((string) ($this->map->redirects['table'] ?? ''));
    }

    private function id(string $name): string
    {
        return $this->columns()[$name];
    }

    private function parameter(string $name): string
    {
        $redirects = $this->map->redirects ?? [];
        $column = $this->database->columns((string) ($redirects['table'] ?? ''), self::PLACE)[
            (string) ($redirects[$name] ?? '')
        ] ?? new Column('text');

        return $this->database->dialect->parameter($column);
    }

    /** @param  array<mixed>  $row */
    private static function redirect(array $row): SourceRedirect
    {
        $status = (int) Text::of($row[2] ?? '301');

        return new SourceRedirect(
            Text::of($row[0] ?? ''),
            Text::of($row[1] ?? ''),
            in_array($status, [301, 302, 307, 308, 410], true) ? $status : 301,
        );
    }
}
