<?php

declare(strict_types=1);

namespace Tests\App\Sources;

use App\Sites\FieldMap;
use App\Sites\PdoContentSource;
use PDO;
use RuntimeException;
use Ylema\Change\Edit;
use Ylema\Change\Edits;
use Ylema\Failure;
use Ylema\Sites\Replacement;
use Ylema\Sites\SourceRecord;

/** A small site's content in one of the databases that Ylema reads, with a connection of its own editors. */
final class Source
{
    public const KINDS = ['pgsql', 'mysql', 'sqlite'];

    private const MAP = <<<'YAML'
    version: 1
    media: { table: pictures, key: id, path: path, title: title, alt: alt, renditions: sizes, width: w, height: h }
    files: { folders: [media] }
    records:
      page:
        table: pages
        key: id
        title: name
        address: "{id}"
        state: { column: state, live: [out], waiting: [draft], from: starts, until: { column: ends, as: unix } }
        fields: { body: html, extras: php-serialized }
    YAML;

    public PDO $pdo;

    public function __construct(public readonly string $kind)
    {
        $this->pdo = new PDO(
            $this->dsn().($kind === 'mysql' ? ';charset=utf8mb4' : ''),
            $this->user(),
            $this->password(),
            [PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION],
        );
        foreach (['pages', 'pictures', 'extra'] as $table) {
            $this->pdo->exec("drop table if exists $table");
        }
        $big = $kind === 'mysql' ? 'longtext' : 'text';
        $number = [
            'pgsql' => 'serial primary key',
            'mysql' => 'integer auto_increment primary key',
            'sqlite' => 'integer primary key',
        ][$kind];
        $moment = $kind === 'mysql' ? 'datetime(6)' : ($kind === 'pgsql' ? 'timestamp(6)' : 'text');
        $this->pdo->exec(
            "create table pages (id $number, name varchar(200), body $big, extras "
                .($kind === 'mysql' ? 'longblob' : 'text')
                .", state varchar(20) default 'out', starts $moment, ends bigint, changed_at $moment)",
        );
        $this->pdo->exec(
            "create table pictures (id $number, path varchar(200), title varchar(100), alt varchar(100), sizes text, "
                .'w integer, h integer)',
        );
        $this->pdo->exec("insert into pictures (path, title, alt, sizes) values ('media/a.jpg', 'A', 'an a', '[]')");
    }

    public function add(string $body, ?string $extras = null): string
    {
        $this->pdo
            ->prepare(
                "insert into pages (name, body, extras, changed_at) values ('Page', ?, ?, '2020-02-02 "
                    ."02:02:02.123456')",
            )
            ->execute([$body, $extras]);

        return (string) $this->pdo->query('select max(id) from pages')->fetchColumn();
    }

    /** @param  array<string, string>  $changes parts of the map → what stands there instead */
    public function open(array $changes = [], ?string $user = null, string $more = ''): PdoContentSource
    {
        return new PdoContentSource(
            FieldMap::parse(strtr(self::MAP, $changes)),
            $this->dsn().$more,
            $user ?? $this->user(),
            $this->password(),
        );
    }

    public function record(PdoContentSource $source, string $key, string $kind = 'page'): SourceRecord
    {
        foreach ($source->find($kind, [$key]) as $record) {
            return $record;
        }
        throw new RuntimeException("No $kind $key.");
    }

    /** Replaces the first $from in a field by $to, as a plan would. */
    public function replace(
        PdoContentSource $source,
        string $key,
        string $from,
        string $to,
        string $field = 'body',
    ): ?Failure {
        $record = $this->record($source, $key);
        $text = (string) $record->field($field)?->text;
        $edits = Edits::of([new Edit((int) strpos($text, $from), $from, $to)]);
        $wanted = SourceRecord::hashOf([
            ...array_column($record->fields, 'text', 'name'),
            $field => $edits->applyTo($text),
        ]);

        return $source->replaceMany('page', [
            new Replacement($key, $record->contentHash, $wanted, [$field => $edits]),
        ])[0];
    }

    public function column(string $key, string $column): ?string
    {
        $statement = $this->pdo->prepare("select $column from pages where id = ?");
        $statement->execute([$key]);
        $value = $statement->fetchColumn();

        return is_resource($value) ? stream_get_contents($value) : ($value === null ? null : (string) $value);
    }

    public function map(): string
    {
        return self::MAP;
    }

    /** @return array{user: string, password: string} */
    public function credentials(): array
    {
        return ['user' => $this->user(), 'password' => $this->password()];
    }

    public function dsn(): string
    {
        return match ($this->kind) {
            'pgsql' => (string) config('demo.dsn'),
            'mysql' => getenv('MARIA_DSN') ?: throw new RuntimeException('Run the tests with bin/test.'),
            default => 'sqlite:'.(getenv('YLEMA_VAR') ?: sys_get_temp_dir()).'/sources.sqlite',
        };
    }

    private function user(): string
    {
        return ['pgsql' => (string) config('demo.user'), 'mysql' => 'sources', 'sqlite' => ''][$this->kind];
    }

    private function password(): string
    {
        return [
            'pgsql' => (string) config('demo.password'),
            'mysql' => (string) getenv('MARIA_PASSWORD'),
            'sqlite' => '',
        ][$this->kind];
    }
}
