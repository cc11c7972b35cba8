<?php

declare(strict_types=1);

namespace App\Connect;

use App\Models\Site;
use App\Outgoing\HostNames;
use App\Sites\Checkable;
use App\Sites\FieldMap;
use App\Sites\FieldMapError;
use App\Sites\SharedFiles;
use App\Sites\SiteOpener;
use App\Sites\Sql\Connection;
use App\Sites\Sql\MySql;
use App\Sites\Sql\Sqlite;
use PDOException;
use Throwable;
use Ylema\Sites\SourceUnavailable;
use Ylema\Sites\StoredFile;
use Ylema\Sites\WriteRefused;

/** Tries all that a site's settings promise, one thing after the other, and says of each what is wrong with it. */
final readonly class ConnectionTest
{
    /** Seconds that the clocks may be apart before dates are judged wrongly. */
    private const APART = 120;

    public function __construct(private SiteOpener $opener, private HostNames $names)
    {
    }

    /**
     * @param  bool  $writes whether writing is tried as well; all of it is taken back
     * @return list<Finding> up to the first thing without which the next cannot be tried
     */
    public function of(Site $site, bool $writes = false): array
    {
        return [
            ...$this->content($site, $writes),
            ...$this->files($site, $writes),
            ...$this->shared($site),
            ...$this->map($site),
        ];
    }

    /** @return list<Finding> */
    private function content(Site $site, bool $writes): array
    {
        ['dsn' => $dsn, 'user' => $user, 'password' => $password] = $site->connection;
        if ($dsn === '') {
            return [];
        }
        $found = [];
        if (preg_match('~^\w+:.*\bhost=([^;]+)~', $dsn, $m) === 1 && ! str_starts_with($m[1], '/')) {
            $found[] = $this->host($m[1]);
            if (! end($found)->isGood) {
                return $found;
            }
        }
        if (preg_match('~^sqlite:(.+)$~', $dsn, $m) === 1 && ! is_file($m[1])) {
            return [
                new Finding(
                    'database',
                    false,
                    "There is no file $m[1]. Say where the SQLite database of the site lies.",
                ),
            ];
        }
        $database = new Connection(FieldMap::none(), $dsn, $user, $password);
        try {
            $database->pdo();
        } catch (SourceUnavailable $e) {
            return [...$found, new Finding('database', false, $e->getMessage())];
        }
        $found[] = new Finding('database', true, "It lets \"$user\" in.");
        try {
            $found[] = $this->clock($database);
            $found[] = $this->characters($database);
            $found[] = $this->right($database, $site, $writes);
        } catch (PDOException $e) {
            $found[] = new Finding('right to read', false, "The database refuses: {$e->getMessage()}");
        }

        return $found;
    }

    private function host(string $host): Finding
    {
        $isNumber = filter_var($host, FILTER_VALIDATE_IP) !== false;

        return $isNumber || $host === 'localhost' || $this->names->isKnown($host)
            ? new Finding('name of the host', true, $isNumber ? 'It is an address.' : "$host is known.")
            : new Finding(
                'name of the host',
                false,
                "No machine is known as \"$host\". Check how it is spelt, or give its number.",
            );
    }

    private function clock(Connection $database): Finding
    {
        $sql = match (true) {
            $database->dialect instanceof MySql => 'select unix_timestamp()',
            $database->dialect instanceof Sqlite => "select strftime('%s', 'now')",
            default => 'select extract(epoch from now())',
        };
        $theirs = $database->run($sql)->fetchColumn();
        $apart = abs((is_numeric($theirs) ? (int) $theirs : 0) - time());

        return new Finding(
            'clock',
            $apart <= self::APART,
            $apart <= self::APART
                ? 'It goes as the one here does.'
                : "The database's clock is $apart seconds away from the one here, so that what starts or ends soon is "
                    .'judged wrongly. Set one of them right.',
        );
    }

    private function characters(Connection $database): Finding
    {
        // What comes back is what was sent, or letters would be lost in every write.
        $sent = 'Größe 水 🦆';
        $back = $database->run('select '.$database->pdo()->quote($sent))->fetchColumn();

        return new Finding(
            'characters',
            $back === $sent,
            $back === $sent
                ? 'They come back as they were sent.'
                : 'Letters do not come back as they were sent. Let the connection speak UTF-8 (charset=utf8mb4 in '
                    .'MySQL).',
        );
    }

    /** Tried with a statement that changes no row, in a transaction that is taken back. */
    private function right(Connection $database, Site $site, bool $writes): Finding
    {
        $tables = $this->tables($site);
        foreach ($tables as $table => $column) {
            $name = $database->dialect->quote($table);
            try {
                $database->run("select 1 from $name limit 1")->fetchColumn();
            } catch (PDOException $e) {
                return new Finding(
                    'right to read',
                    false,
                    "{$site->connection['user']} may not read $table: {$e->getMessage()}",
                );
            }
            if (! $writes) {
                continue;
            }
            $own = $database->dialect->name($column);
            try {
                $database->dialect->begin($database->pdo());
                $database->run("update $name set $own = $own where 1 = 0");
            } catch (PDOException $e) {
                return new Finding(
                    'right to write',
                    false,
                    "{$site->connection['user']} may not write $table: {$e->getMessage()}",
                );
            } finally {
                $database->close();
            }
        }
        $count = count($tables);

        return new Finding(
            $writes ? 'right to write' : 'right to read',
            true,
            $count === 0
                ? 'No map says yet which tables are needed.'
                : "Tried on $count tables of the map".($writes ? ', and taken back.' : '.'),
        );
    }

    /** @return array<string, string> table of the map → a column that a plan would write */
    private function tables(Site $site): array
    {
        try {
            $map = FieldMap::parse($site->field_map);
        } catch (FieldMapError) {
            return [];
        }
        $tables = [];
        foreach ($map->kinds as $kind) {
            $column = array_key_first($kind->fields);
            if ($column !== null && ! $kind->isKept && ! $kind->isOfFiles()) {
                $tables[$kind->table] ??= (string) $column;
            }
        }

        return $tables;
    }

    /** @return list<Finding> */
    private function files(Site $site, bool $writes): array
    {
        try {
            $store = $this->opener->files($site->connection, FieldMap::parse($site->field_map));
        } catch (FieldMapError) {
            if (isset($site->connection['remote'])) {
                return [$this->elsewhere($site)];
            }

            return is_dir($site->connection['folder'])
                ? [new Finding('files', true, "{$site->connection['folder']} is there.")]
                : [
                    new Finding(
                        'files',
                        false,
                        "There is no folder {$site->connection['folder']}. Mount it, or correct its path.",
                    ),
                ];
        } catch (SourceUnavailable $e) {
            return [new Finding('files', false, $e->getMessage())];
        }
        $count = 0;
        $folder = '';
        try {
            foreach ($store->files() as $file) {
                if (! $file instanceof StoredFile) {
                    return [new Finding('files', false, "$file->path: $file->why")];
                }
                $folder = dirname($file->path);
                if (++$count === 1000) {
                    break;
                }
            }
            if ($count === 0) {
                return [
                    new Finding(
                        'files',
                        false,
                        'No file lies in the folders of the map. Is it the right folder? (files.folders)',
                    ),
                ];
            }
            if ($writes) {
                $trial = ltrim("$folder/ylema-trial-".bin2hex(random_bytes(4)).'.txt', './');
                $store->write($trial, 'tried');
                $store->delete($trial);
            }
        } catch (WriteRefused|SourceUnavailable $e) {
            return [new Finding('files', false, $e->getMessage())];
        }

        return [
            new Finding(
                'files',
                true,
                ($count === 1000 ? '1,000 and more' : (string) $count)
                    .' files were found'
                    .($writes ? '; one was written and taken away again.' : '.'),
            ),
        ];
    }

    /** @return list<Finding> */
    private function shared(Site $site): array
    {
        $names = array_values(array_unique(array_column(SharedFiles::of($site), 'name')));

        return $names === []
            ? []
            : [
                new Finding(
                    'shared files',
                    true,
                    'Files of '.implode(', ', array_map(static fn (string $name): string => "“{$name}”", $names))
                        .' lie in the same place. What is written there changes for all of them; what another one uses '
                        .'is not laid to rest here.',
                ),
            ];
    }

    /** Before there is a map, whether the machine or the store lets anybody in. */
    private function elsewhere(Site $site): Finding
    {
        try {
            $all = FieldMap::parse("version: 1\nfiles: { folders: [.] }\nrecords: {}");
            foreach ($this->opener->files($site->connection, $all)->files() as $file) {
                return new Finding('files', true, "They answer; \"$file->path\" is one of them.");
            }
        } catch (SourceUnavailable $e) {
            return new Finding('files', false, $e->getMessage());
        }

        return new Finding('files', false, 'They answer, and none is there. Is it the right folder?');
    }

    /** @return list<Finding> */
    private function map(Site $site): array
    {
        if ($site->field_map === '') {
            return [];
        }
        try {
            $content = $this->opener->open($site)->content;
            if ($content instanceof Checkable) {
                $content->check();
            }
        } catch (Throwable $e) {
            // Whatever is wrong is a finding here; a test of a connection has no other answer.
            return [new Finding('field map', false, $e->getMessage())];
        }

        return [new Finding('field map', true, 'All that it names is there.')];
    }
}
