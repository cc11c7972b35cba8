<?php

declare(strict_types=1);

namespace App\Connect;

use App\Models\Site;
use App\Sites\FieldMap;
use App\Sites\KindMap;
use App\Sites\SiteOpener;
use Symfony\Component\Finder\Glob;
use Ylema\Connect\FileLookup;
use Ylema\Connect\FolderProposer;
use Ylema\Connect\Gap;
use Ylema\Connect\Gaps;
use Ylema\Connect\Proposer;
use Ylema\Sites\SourceUnavailable;
use Ylema\Sites\StoredFile;

/** What a map leaves out: columns, places inside of them, and files that refer to media, and that no line reads. */
final readonly class Coverage
{
    public function __construct(private SiteOpener $opener)
    {
    }

    /**
     * @return list<Gap> the one with most files first
     *
     * @throws SourceUnavailable
     */
    public function of(Site $site): array
    {
        $map = FieldMap::parse($site->field_map);
        $files = new FileLookup($this->paths($site));
        $gaps = $this->inFiles($site, $map, $files);
        if ($site->connection['dsn'] !== '') {
            array_push($gaps, ...$this->inTables($site, $map, $files));
        }
        $order = static fn (Gap $gap): array => [$gap->passing !== null, -$gap->files];
        usort($gaps, static fn (Gap $a, Gap $b): int => $order($a) <=> $order($b));

        return $gaps;
    }

    /** @return iterable<string> paths of all files of the site */
    private function paths(Site $site): iterable
    {
        $everything = FieldMap::parse("version: 1\nfiles: { folders: [.] }\nrecords: {}");
        foreach ($this->opener->files($site->connection, $everything)->files() as $file) {
            if ($file instanceof StoredFile) {
                yield $file->path;
            }
        }
    }

    /** @return list<Gap> */
    private function inTables(Site $site, FieldMap $map, FileLookup $files): array
    {
        $read = [];
        foreach ($map->kinds as $kind) {
            foreach ($kind->fields as $column => $field) {
                foreach ($field->rules as $name => $rule) {
                    $read["$kind->table.$column".($field->by === null ? '' : ".$name")] = $rule->paths;
                }
            }
            foreach ($kind->owners as $owner) {
                $read["$kind->table.$owner->column"] = [];
            }
        }
        $outside = array_filter([$map->media?->table, $map->media?->sizes?->table, $map->redirects['table'] ?? null]);
        $connection = $site->connection;
        $samples = new DbSamples($connection['dsn'], $connection['user'], $connection['password']);
        $gaps = (new Gaps($samples, $files, $site->addresses()))->beside($read, array_values($outside));
        $tables = array_map(static fn (KindMap $kind): string => $kind->table, $map->kinds);
        $isNew = static fn (Gap $gap): bool => ! in_array($gap->table, $tables, true);

        return array_filter($gaps, $isNew) === []
            ? $gaps
            : $this->withKinds($gaps, $map, (new Proposer($samples, $files, $site->addresses()))->propose()->map);
    }

    /**
     * Tables that no kind reads yet, each with the kind that would.
     *
     * @param  list<Gap>  $gaps
     * @param  array<string, mixed>  $proposed a whole map
     * @return list<Gap>
     */
    private function withKinds(array $gaps, FieldMap $map, array $proposed): array
    {
        $known = $sections = [];
        foreach ($map->kinds as $kind) {
            $known[$kind->table] ??= $kind->kind;
        }
        foreach (is_array($proposed['records'] ?? null) ? $proposed['records'] : [] as $kind => $section) {
            $table = is_array($section) && is_string($section['table'] ?? null) ? $section['table'] : '';
            if ($table !== '') {
                $sections[$table] = [(string) $kind, $section];
            }
        }
        $called = array_map(static fn (array $own): string => $own[0], $sections);
        // What a kind is called in the proposal, and in the map that is there.
        $renamed = [];
        foreach ($called as $table => $kind) {
            $renamed[$kind] = $known[$table] ?? (isset($map->kinds[$kind]) ? "$kind-2" : $kind);
        }

        return array_map(static function (Gap $gap) use ($known, $sections, $renamed, $map): Gap {
            if (isset($known[$gap->table]) || ! isset($sections[$gap->table])) {
                return $gap;
            }
            [$kind, $section] = $sections[$gap->table];
            $there = array_fill_keys(array_keys($map->kinds), true) + [$renamed[$kind] => true];
            $own = self::renamed($section, $renamed, $there);

            return $own === null ? $gap : $gap->withKind($renamed[$kind], $own);
        }, $gaps);
    }

    /**
     * A section with the kinds that it names as the map calls them.
     *
     * @param  array<mixed>  $section
     * @param  array<string, string>  $renamed
     * @param  array<string, true>  $there kinds that the map has, or would then have
     * @return array<string, mixed>|null null where it names a kind that the map has not
     */
    private static function renamed(array $section, array $renamed, array $there): ?array
    {
        $own = [];
        foreach ($section as $line => $value) {
            if (is_string($value) && in_array($line, ['names', 'kind'], true)) {
                $value = $renamed[$value] ?? $value;
                if (! isset($there[$value])) {
                    return null;
                }
            } elseif (is_array($value)) {
                $value = $line === 'part_of'
                    ? self::owners($value, $renamed, $there)
                    : self::renamed($value, $renamed, $there);
                if ($value === null) {
                    return null;
                }
            }
            $own[(string) $line] = $value;
        }

        return $own;
    }

    /**
     * @param  array<mixed>  $owners column → kind, or the kinds that another column decides
     * @param  array<string, string>  $renamed
     * @param  array<string, true>  $there
     * @return array<string, mixed>
     */
    private static function owners(array $owners, array $renamed, array $there): array
    {
        $own = [];
        foreach ($owners as $column => $kinds) {
            if (is_string($kinds) && isset($there[$renamed[$kinds] ?? $kinds])) {
                $own[(string) $column] = $renamed[$kinds] ?? $kinds;
            } elseif (is_array($kinds)) {
                $words = array_map(
                    static fn (mixed $kind): string => is_string($kind) ? $renamed[$kind] ?? $kind : '',
                    array_diff_key($kinds, ['column' => true]),
                );
                $words = array_filter($words, static fn (string $kind): bool => isset($there[$kind]));
                $own[(string) $column] = ['column' => $kinds['column'] ?? '', ...$words];
            }
        }

        return $own;
    }

    /** @return list<Gap> */
    private function inFiles(Site $site, FieldMap $map, FileLookup $files): array
    {
        $connection = $site->connection;
        if (isset($connection['remote']) && ! isset($connection['content'])) {
            return [];
        }
        $patterns = $map->code ?? [];
        foreach ($map->kinds as $kind) {
            array_push($patterns, ...$kind->patterns);
        }
        $read = array_map(static fn (string $p): string => Glob::toRegex(ltrim($p, '/'), false), $patterns);

        return (new FolderProposer(new FolderLook($connection['content'] ?? $connection['folder'])))->unread(
            static fn (string $path): bool => array_filter(
                $read,
                static fn (string $pattern): bool => preg_match($pattern, $path) === 1,
            ) !== [],
            $files->namedIn(...),
            $connection['dsn'] !== '',
        );
    }
}
