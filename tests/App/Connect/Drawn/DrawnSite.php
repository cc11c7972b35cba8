<?php

declare(strict_types=1);

namespace Tests\App\Connect\Drawn;

use PDO;
use Tests\App\Connect\ForeignSite;

/**
 * A site drawn from a seed: habits that builders of sites have, independent of each other, in tables and files, and
 * exactly which file each row uses.
 */
final class DrawnSite extends ForeignSite
{
    public readonly Draw $draw;

    public readonly Naming $naming;

    public readonly Library $library;

    public readonly string $host;

    public readonly string $former;

    public readonly Content $content;

    /** @var list<string> in words, what was drawn */
    public array $habits = [];

    /** @var array<string, true> files that a visitor is sent, or that lead to what is sent */
    public array $shown = [];

    /** @var array<string, true> addresses in content with which something is wrong: they lead nowhere, or elsewhere */
    public array $wrong = [];

    /** @var array<string, string> table|key → title of a row that visitors meet at an address of its own */
    public array $pages = [];

    public readonly string $driver;

    public function __construct(PDO $pdo, string $folder, public readonly int $seed)
    {
        $this->driver = (string) $pdo->getAttribute(PDO::ATTR_DRIVER_NAME);
        parent::__construct($pdo, $folder);
    }

    protected function write(): void
    {
        $this->draw = $draw = new Draw($this->seed);
        $this->naming = new Naming($draw);
        $keys = $draw->one(['numbers', 'numbers', 'spread', 'spread', 'uuid']);
        $this->library = new Library($draw, $keys, $draw->number(40, 160));
        $name = $draw->one(['harbourmuseum', 'kiteclub', 'saltworks', 'netmakers', 'lanternfair']);
        $this->host = ($draw->is(60) ? 'www.' : '')."$name.example";
        $this->former = $draw->is(30) ? "old.$name-site.example" : '';
        $this->content = new Content($this);
        $this->habits[] = $this->naming->habits();
        $this->habits[] = "media {$this->library->kind}".($this->library->kind === 'none' ? '' :
            " $keys {$this->library->scheme}").", sizes {$this->library->sizes}";
        $this->habits[] = "addresses {$this->content->way}";
        if ($this->driver === 'pgsql') {
            $this->pdo->exec('drop schema if exists cms cascade; drop schema public cascade; create schema public');
        }
        $this->pdo->beginTransaction();
        $this->media();
        (new Tables($this))->write();
        if ($this->pdo->inTransaction()) {
            $this->pdo->commit();
        }
        foreach ($this->library->items as $item) {
            $this->file($item['path']);
            if ($item['small'] !== null) {
                $this->file($item['small']);
            }
            if (! isset($this->shown[$item['path']]) && ! isset($this->shown[$item['small'] ?? ''])) {
                $this->idle[] = $item['path'];
            }
        }
    }

    /** What the makers of the site know: a row uses a file. */
    public function used(string $table, int|string $key, string $column, string $path): void
    {
        $this->shown[$path] = true;
        $this->uses($table, $key, $column, $this->library->smaller[$path] ?? $path);
    }

    /** A file that stands in no list. */
    public function own(string $path): string
    {
        return $this->file($path);
    }

    /**
     * @param  array<string, string>  $columns name → type
     * @param  list<string>  $key
     * @param  array<string, array{string, string}>  $foreign column → table and its key
     */
    public function make(string $table, array $columns, array $key, array $foreign = []): void
    {
        $lines = [];
        foreach ($columns as $name => $type) {
            $type = $this->driver === 'pgsql' && $type === 'datetime' ? 'timestamp' : $type;
            $lines[] = $this->quote($name)." $type";
        }
        if ($key !== []) {
            $lines[] = 'primary key ('.implode(', ', array_map($this->quote(...), $key)).')';
        }
        foreach ($foreign as $column => [$to, $of]) {
            $lines[] = "foreign key ({$this->quote($column)}) references {$this->quote($to)} ({$this->quote($of)})";
        }
        $this->pdo->exec("create table {$this->quote($table)} (".implode(', ', $lines).')'
            .($this->driver === 'mysql' ? ' engine=InnoDB default charset=utf8mb4' : ''));
    }

    /** @param  array<string, scalar|null>  $row by column */
    public function put(string $table, array $row): void
    {
        $names = implode(', ', array_map($this->quote(...), array_keys($row)));
        $values = implode(', ', array_fill(0, count($row), '?'));
        $this->pdo
            ->prepare("insert into {$this->quote($table)} ($names) values ($values)")
            ->execute(array_values($row));
    }

    public function quote(string $name): string
    {
        return $this->driver === 'mysql' ? "`$name`" : "\"$name\"";
    }

    /** The type of columns with keys of media. */
    public function keyType(): string
    {
        return match (true) {
            $this->library->kind === 'natural' => 'varchar(120)',
            $this->library->keys === 'uuid' => 'varchar(36)',
            default => 'integer',
        };
    }

    private function media(): void
    {
        [$library, $naming] = [$this->library, $this->naming];
        if ($library->kind === 'none') {
            return;
        }
        $table = $naming->table('media');
        $column = static fn (string ...$of): string => $naming->column('media', ...$of);
        $key = $naming->key('media');
        $hasWords = $this->draw->is(60);
        $hasBytes = $this->draw->is(50);
        $isEndingApart = $this->draw->is(40);
        $columns = [$key => $this->keyType()];
        $columns += match ($library->kind) {
            'padded' => [$column('title') => 'varchar(120)', $column('ending') => 'varchar(8)']
                + ($library->keys === 'uuid' ? [$column('file') => 'varchar(20)'] : []),
            'natural' => [$column('title') => 'varchar(120)'],
            'parts' => [$column('folder') => 'varchar(120)', $column('file') => 'varchar(120)']
                + ($isEndingApart ? [$column('ending') => 'varchar(8)'] : []),
            'digest' => [$column('digest') => 'varchar(40)', $column('ending') => 'varchar(8)',
                $column('title') => 'varchar(120)'],
            'number' => [$column('ending') => 'varchar(8)', $column('title') => 'varchar(120)'],
            'folders' => [$naming->foreign($naming->word('folder')) => 'integer', $column('file') => 'varchar(120)'],
            default => [$column('file') => 'varchar(200)'],
        };
        $columns += $hasWords ? [$column('alt') => 'varchar(120)'] : [];
        $columns += $hasBytes ? [$column('bytes') => 'integer', $column('width') => 'integer',
            $column('height') => 'integer'] : [];
        $columns += [$column('created') => 'datetime'];
        $folders = [];
        if ($library->kind === 'folders') {
            $of = $naming->written([$naming->word('folder'), 'list']);
            $this->make($of, ['id' => 'integer', $column('folder') => 'varchar(120)'], ['id']);
            foreach ($library->items as $item) {
                $folder = rtrim(substr(dirname($item['path']).'/', strlen($library->base)), '/');
                if (! isset($folders[$folder])) {
                    $folders[$folder] = count($folders) + 1;
                    $this->put($of, ['id' => $folders[$folder], $column('folder') => $folder]);
                }
            }
        }
        $this->make($table, $columns, [$key]);
        foreach ($library->items as $n => $item) {
            $ending = pathinfo($item['path'], PATHINFO_EXTENSION);
            $below = rtrim(substr(dirname($item['path']).'/', strlen($library->base)), '/');
            $row = [$key => $item['key']];
            $row += match ($library->kind) {
                'padded' => [$column('title') => "Picture $n", $column('ending') => $ending]
                    + ($library->keys === 'uuid' ? [$column('file') => basename($item['path'], ".$ending")] : []),
                'natural' => [$column('title') => "Picture $n"],
                'dated' => [$column('file') => basename($item['path'])],
                'parts' => $isEndingApart
                    ? [$column('folder') => $below, $column('file') => basename($item['path'], ".$ending"),
                        $column('ending') => $ending]
                    : [$column('folder') => $below, $column('file') => basename($item['path'])],
                'digest' => [$column('digest') => basename($item['path'], ".$ending"), $column('ending') => $ending,
                    $column('title') => "Picture $n"],
                'number' => [$column('ending') => $ending, $column('title') => "Picture $n"],
                'folders' => [$naming->foreign($naming->word('folder')) => $folders[$below],
                    $column('file') => basename($item['path'])],
                'name' => [$column('file') => basename($item['path'])],
                default => [$column('file') => $library->written($item['path'], $this->host)],
            };
            $row += $hasWords ? [$column('alt') => $n % 3 === 0 ? '' : "A picture of $n"] : [];
            $row += $hasBytes ? [$column('bytes') => 1000 + 37 * $n, $column('width') => 800, $column('height') => 600]
                : [];
            $this->put($table, $row + [$column('created') => Library::came($n + 1)]);
        }
        if ($library->sizes === 'table') {
            $this->sizes($table, $key);
        }
    }

    private function sizes(string $media, string $of): void
    {
        $naming = $this->naming;
        $table = $naming->table('media', 'size');
        $file = $naming->column('size', 'file');
        $owner = $naming->keyOf('media');
        $id = $naming->key('size');
        $file = $file === $owner ? $naming->written([$file, 'name']) : $file;
        $isDeclared = $this->draw->is(40);
        $this->make($table, [
            $id => 'integer',
            $owner => $this->keyType(),
            $file => 'varchar(200)',
            $naming->column('size', 'width') => 'integer',
        ], [$id], $isDeclared ? [$owner => [$media, $of]] : []);
        foreach ($this->library->items as $n => $item) {
            if ($item['small'] !== null) {
                $this->put($table, [
                    $id => $n + 1,
                    $owner => $item['key'],
                    $file => $this->library->written($item['small'], $this->host),
                    $naming->column('size', 'width') => 300,
                ]);
            }
        }
    }
}
