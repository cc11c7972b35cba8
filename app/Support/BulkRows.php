<?php

declare(strict_types=1);

namespace App\Support;

use Illuminate\Support\Facades\DB;
use RuntimeException;

/** Writes many rows at once through PostgreSQL's COPY, over the models' own connection. */
final class BulkRows
{
    /** @var list<string> */
    private array $lines = [];

    /** @param  list<string>  $columns */
    public function __construct(private readonly string $table, private readonly array $columns)
    {
    }

    /** @param  list<scalar|array<mixed>|null>  $row in the order of the columns; an array is written as json */
    public function add(array $row): void
    {
        $cells = [];
        foreach ($row as $value) {
            $cells[] = match (true) {
                $value === null => '\N',
                is_bool($value) => $value ? 't' : 'f',
                is_array($value) => self::escape(self::json($value)),
                default => self::escape((string) $value),
            };
        }
        $this->lines[] = implode("\t", $cells);
        if (count($this->lines) >= 2000) {
            $this->flush();
        }
    }

    public function flush(): void
    {
        if ($this->lines === []) {
            return;
        }
        $done = DB::connection()
            ->getPdo()
            ->pgsqlCopyFromArray(
                $this->table,
                $this->lines,
                "\t",
                '\\\\N',
                implode(', ', array_map(static fn (string $c): string => '"'.$c.'"', $this->columns)),
            );
        if (! $done) {
            throw new RuntimeException("Rows could not be copied into {$this->table}.");
        }
        $this->lines = [];
    }

    /**
     * PostgreSQL's jsonb refuses the escape of a NUL, and one such value would undo a whole chunk.
     *
     * @param  array<mixed>  $value
     */
    public static function json(array $value): string
    {
        $json = json_encode(
            $value,
            JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE,
        );

        return preg_replace('~(?<!\\\\)((?:\\\\\\\\)*)\\\\u0000~', '$1', $json) ?? $json;
    }

    /** PostgreSQL's text has neither NUL nor broken UTF-8; content may have both, and the index shows what it can. */
    private static function escape(string $value): string
    {
        if (! mb_check_encoding($value, 'UTF-8')) {
            $value = mb_scrub($value, 'UTF-8');
        }

        return strtr($value, ['\\' => '\\\\', "\t" => '\t', "\n" => '\n', "\r" => '\r', "\0" => '']);
    }
}
