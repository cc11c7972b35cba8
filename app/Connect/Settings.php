<?php

declare(strict_types=1);

namespace App\Connect;

use App\Sites\Remote\RemoteFiles;
use Illuminate\Support\Str;
use InvalidArgumentException;
use Symfony\Component\Yaml\Exception\ParseException;
use Symfony\Component\Yaml\Yaml;
use Ylema\Addresses\InvalidAddress;
use Ylema\Addresses\SiteAddresses;

/** What a maintainer says of a site that is to be connected: where it is served, where its content and files are. */
final readonly class Settings
{
    /** What addresses of Ylema itself begin with. */
    private const TAKEN = ['api', 'build', 'sites', 'up', 'welcome'];

    private const ENGINES = ['postgresql' => 'pgsql', 'mariadb' => 'mysql', 'mysql' => 'mysql', 'sqlite' => 'sqlite'];

    /**
     * @param  list<string>  $former
     * @param  list<string>  $aliases
     * @param  array<string, string>  $reachAt host → origin
     * @param  array{dsn: string, user: string, password: string, content?: string, folder: string,
     *     remote?: array<string, string>,
     *     roots: list<array{at: string, folder: string, remote?: array<string, string>}>}  $connection
     * @param  array<string, string>  $answers question → answer
     */
    private function __construct(
        public string $slug,
        public string $name,
        public string $address,
        public array $former,
        public array $aliases,
        public array $reachAt,
        public array $connection,
        public ?string $map,
        public array $answers,
    ) {
    }

    /** @throws InvalidArgumentException in words, with what to do */
    public static function fromYaml(string $yaml, string $folder): self
    {
        try {
            $said = Yaml::parse($yaml);
        } catch (ParseException $e) {
            throw new InvalidArgumentException("The settings are no YAML: {$e->getMessage()}");
        }

        return self::fromArray(is_array($said) ? $said : [], $folder);
    }

    /**
     * @param  array<mixed>  $said
     * @param  string  $folder against which paths are read
     *
     * @throws InvalidArgumentException
     */
    public static function fromArray(array $said, string $folder): self
    {
        self::only(
            $said,
            ['name', 'short', 'address', 'former', 'aliases', 'reach_at', 'content', 'files', 'map', 'answers'],
            '',
        );
        $address = self::text($said, 'address');
        try {
            new SiteAddresses($address, self::texts($said, 'former'), self::texts($said, 'aliases'));
        } catch (InvalidAddress $e) {
            throw new InvalidArgumentException(
                "\"{$e->getMessage()}\" is no whole address such as https://hollinmill.example/.",
            );
        }
        $name = is_string($said['name'] ?? null) ? $said['name'] : (string) parse_url($address, PHP_URL_HOST);
        $slug = is_string($said['short'] ?? null) ? $said['short'] : self::shortName($name, $address);
        if (preg_match('~^[a-z0-9][a-z0-9-]{0,60}$~D', $slug) !== 1 || in_array($slug, self::TAKEN, true)) {
            throw new InvalidArgumentException(
                'short: a name of small letters, digits and hyphens belongs here, and none of '
                    .implode(', ', self::TAKEN).'.',
            );
        }
        $map = $said['map'] ?? null;

        $files = self::files($said['files'] ?? null, $folder);
        if (! isset($said['content']) && isset($files['remote'])) {
            throw new InvalidArgumentException(
                'content: say where it is, a database or a folder on this machine. Files elsewhere can be media only.',
            );
        }

        return new self(
            $slug,
            $name,
            rtrim($address, '/').'/',
            self::texts($said, 'former'),
            self::texts($said, 'aliases'),
            self::pairs($said, 'reach_at'),
            [...self::content($said['content'] ?? null, $folder), ...$files],
            is_string($map) ? self::path($map, $folder) : null,
            self::pairs($said, 'answers'),
        );
    }

    /** Of the name in ASCII letters, or of the host where it has none of those. */
    private static function shortName(string $name, string $address): string
    {
        $host = strtr((string) parse_url($address, PHP_URL_HOST), '.', '-');
        $slug = substr(Str::slug($name) ?: Str::slug($host), 0, 60);

        return in_array($slug, self::TAKEN, true) ? "$slug-site" : trim($slug, '-');
    }

    /** @return array{dsn: string, user: string, password: string, content?: string} */
    private static function content(mixed $content, string $folder): array
    {
        if ($content === null) {
            return ['dsn' => '', 'user' => '', 'password' => ''];
        }
        if (is_string($content)) {
            return ['dsn' => '', 'user' => '', 'password' => '', 'content' => self::path($content, $folder)];
        }
        if (! is_array($content)) {
            throw new InvalidArgumentException(
                'content: a database belongs here, with engine, host, database, user and password.',
            );
        }
        self::only(
            $content,
            ['engine', 'host', 'port', 'database', 'user', 'password', 'password_from', 'charset', 'file', 'socket'],
            'content.',
        );
        $engine =
            self::ENGINES[strtolower(self::text($content, 'engine', 'content.'))] ??
            throw new InvalidArgumentException(
                'content.engine: one of '.implode(', ', array_keys(self::ENGINES)).' belongs here.',
            );
        if ($engine === 'sqlite') {
            return [
                'dsn' => 'sqlite:'.self::path(self::text($content, 'file', 'content.'), $folder),
                'user' => '',
                'password' => '',
            ];
        }
        $parts = [
            isset($content['socket'])
                ? 'unix_socket='.self::text($content, 'socket', 'content.')
                : 'host='.self::text($content, 'host', 'content.'),
            ...isset($content['port']) ? ['port='.(is_scalar($content['port']) ? $content['port'] : '')] : [],
            'dbname='.self::text($content, 'database', 'content.'),
            ...isset($content['charset']) ? ['charset='.self::text($content, 'charset', 'content.')] : [],
        ];
        foreach ($parts as $part) {
            if (str_contains($part, ';')) {
                throw new InvalidArgumentException('content: a semicolon can stand in none of its values.');
            }
        }
        $from = $content['password_from'] ?? null;
        $password = is_string($from) ? getenv($from) : $content['password'] ?? '';
        if (! is_scalar($password) || $password === false) {
            throw new InvalidArgumentException('content.password_from: there is no such variable in the environment.');
        }

        return [
            'dsn' => "$engine:".implode(';', $parts),
            'user' => self::text($content, 'user', 'content.'),
            'password' => (string) $password,
        ];
    }

    /**
     * @return array{folder: string, remote?: array<string, string>,
     *     roots: list<array{at: string, folder: string, remote?: array<string, string>}>}
     *     the root, and others at addresses
     */
    private static function files(mixed $files, string $folder): array
    {
        if (is_string($files) || (is_array($files) && array_intersect_key($files, ['sftp' => 1, 's3' => 1]) !== [])) {
            return [...self::where($files, 'files', $folder), 'roots' => []];
        }
        $root = null;
        $roots = [];
        foreach (is_array($files) ? $files : [] as $at => $own) {
            $where = self::where($own, "files.$at", $folder);
            $at = trim((string) $at, '/');
            $at === '' ? ($root = $where) : ($roots[] = ['at' => "$at/", ...$where]);
        }
        if ($root === null && $roots === []) {
            throw new InvalidArgumentException('files: say in which folder the files of the site lie.');
        }

        // Where nothing is served at the root itself, the first folder stands for it, and holds nothing there.
        $root ??= isset($roots[0]['remote'])
            ? ['folder' => '', 'remote' => $roots[0]['remote']]
            : ['folder' => $roots[0]['folder'] ?? ''];

        return [...$root, 'roots' => $roots];
    }

    /** @return array{folder: string, remote?: array<string, string>} */
    private static function where(mixed $own, string $place, string $folder): array
    {
        return match (true) {
            is_string($own) => ['folder' => self::path($own, $folder)],
            is_array($own) => ['folder' => '', 'remote' => RemoteFiles::said($own, $place, $folder)],
            default => throw new InvalidArgumentException(
                "$place: a folder belongs here, or addresses each with their folder: { /uploads/: /srv/uploads }.",
            ),
        };
    }

    private static function path(string $path, string $folder): string
    {
        return str_starts_with($path, '/') ? rtrim($path, '/') : rtrim("$folder/$path", '/');
    }

    /** @param  array<mixed>  $said */
    private static function text(array $said, string $key, string $place = ''): string
    {
        $text = $said[$key] ?? null;

        return is_scalar($text) && (string) $text !== ''
            ? (string) $text
            : throw new InvalidArgumentException("$place$key: this is missing.");
    }

    /**
     * @param  array<mixed>  $said
     * @return list<string>
     */
    private static function texts(array $said, string $key): array
    {
        return array_values(array_filter((array) ($said[$key] ?? []), is_string(...)));
    }

    /**
     * @param  array<mixed>  $said
     * @return array<string, string>
     */
    private static function pairs(array $said, string $key): array
    {
        $pairs = [];
        foreach (is_array($said[$key] ?? null) ? $said[$key] : [] as $name => $value) {
            if (is_scalar($value)) {
                $pairs[(string) $name] = (string) $value;
            }
        }

        return $pairs;
    }

    /**
     * @param  array<mixed>  $said
     * @param  list<string>  $known
     */
    private static function only(array $said, array $known, string $place): void
    {
        foreach (array_keys($said) as $key) {
            if (! in_array($key, $known, true)) {
                throw new InvalidArgumentException(
                    "$place$key: nothing is called so here. Known: ".implode(', ', $known).'.',
                );
            }
        }
    }
}
