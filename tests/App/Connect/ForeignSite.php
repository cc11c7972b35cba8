<?php

declare(strict_types=1);

namespace Tests\App\Connect;

use PDO;

/** A made-up site with habits of its own: its tables, its files, and what its makers know of their uses. */
abstract class ForeignSite
{
    /** @var list<string> table|key|column|path */
    public array $uses = [];

    /** @var list<string> paths of files that nothing uses */
    public array $idle = [];

    public function __construct(protected readonly PDO $pdo, protected readonly string $folder)
    {
        $pdo->setAttribute(PDO::ATTR_ERRMODE, PDO::ERRMODE_EXCEPTION);
        shell_exec('rm -rf '.escapeshellarg($folder));
        $this->write();
        sort($this->uses);
    }

    abstract protected function write(): void;

    protected function file(string $path, ?string $bytes = null): string
    {
        @mkdir(dirname("$this->folder/$path"), 0o775, true);
        file_put_contents("$this->folder/$path", $bytes ?? "made for $path");

        return $path;
    }

    /** @param  array<int|string, scalar|null>  $values of all columns in their order, or by their names */
    protected function add(string $table, array $values): void
    {
        $columns = array_is_list($values) ? '' : ' ('.implode(', ', array_keys($values)).')';
        $this->pdo
            ->prepare("insert into $table$columns values (".implode(', ', array_fill(0, count($values), '?')).')')
            ->execute(array_values($values));
    }

    protected function uses(string $table, int|string $key, string $column, string ...$paths): void
    {
        foreach ($paths as $path) {
            $this->uses[] = "$table|$key|$column|$path";
        }
    }
}
