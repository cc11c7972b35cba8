<?php

declare(strict_types=1);

namespace Ylema\Connect;

/**
 * Finds files that a site's own code shows by what a row is called, so that no column names them: a picture with the
 * row's number for its name, all that lies in a gallery's folder.
 */
final class NamedFiles
{
    /** So many rows must have such a file or folder before it is the site's habit. */
    private const TELLING = 3;

    /** Of the folders that a column says, so many must be there. */
    private const ENOUGH = 0.6;

    /** Files of one way of naming that are looked for in texts. */
    private const LOOKED = 20;

    private const FOLDER =
        '~(?:^|_)(?:dir(?:ectory)?|folder|path|album|'.
        'ordner|verzeichnis|pfad|dossier|repertoire|carpeta|cartella|map)$~i';

    /** @var array<string, array{ids: array<array-key, true>, endings: array<string, int>}>|null by what is before */
    private ?array $numbered = null;

    /** @var array<string, list<string>>|null last part of a folder → folders, each ending in `/` */
    private ?array $folders = null;

    /** @var array<string, list<array{string, string}>>|null name without its ending → folders and endings */
    private ?array $stems = null;

    /** @var array<string, true>|null names of files that stand in texts */
    private ?array $said = null;

    /** @param  array<string, TableProfile>  $tables */
    public function __construct(
        private readonly array $tables,
        private readonly FileLookup $files,
        private readonly Relations $relations,
        private readonly ?MediaTable $media,
        private readonly string $prefix,
    ) {
    }

    /**
     * @param  array<string, mixed>  $rules how the table's columns are read
     * @return list<string> paths as a map says them, with a column in braces
     */
    public function of(TableProfile $table, array $rules): array
    {
        return [...$this->byNumber($table), ...$this->byName($table, $rules), ...$this->byFolder($table, $rules)];
    }

    /** @return list<string> */
    private function byNumber(TableProfile $table): array
    {
        $id = $table->id();
        $stem = Hints::stem($table->name, $this->prefix);
        $ways = [];
        foreach ($id === null ? [] : $this->numbered() as $way => $group) {
            $ids = array_map(strval(...), array_keys($group['ids']));
            if (
                count($ids) >= self::TELLING
                && self::speaksOf((string) $way, $stem)
                && ! $this->isSaid((string) $way, $ids, $group['endings'])
                && $this->relations->areKeys($ids, $table)
            ) {
                $ending = count($group['endings']) === 1 ? (string) array_key_first($group['endings']) : '*';
                $ways[] = $way.'{'.$id.'}.'.$ending;
            }
        }

        return $ways;
    }

    /**
     * Columns with the names of pictures, whose endings the site's code puts behind them.
     *
     * @param  array<string, mixed>  $rules
     * @return list<string>
     */
    private function byName(TableProfile $table, array $rules): array
    {
        $ways = [];
        foreach ($table->columns as $name => $column) {
            $values = $column->distinct();
            $isName = $column->type === ColumnType::Text
                && ! isset($rules[$name])
                && Hints::say(Hints::MEDIA, $name)
                && $column->share('~^[\w -]{1,80}$~u') === 1.0
                && count($values) >= self::TELLING;
            $met = [];
            foreach ($isName ? $values : [] as $value) {
                foreach ($this->stems()[$value] ?? [] as [$folder, $ending]) {
                    $met[$folder]['rows'][$value] = true;
                    $met[$folder]['endings'][$ending] = true;
                }
            }
            uasort($met, static fn (array $a, array $b): int => count($b['rows']) <=> count($a['rows']));
            $best = reset($met);
            if ($best !== false && count($best['rows']) >= self::ENOUGH * count($values)) {
                $ending = count($best['endings']) === 1 ? (string) array_key_first($best['endings']) : '*';
                $ways[] = array_key_first($met).'{'.$name.'}.'.$ending;
            }
        }

        return $ways;
    }

    /** @return array<string, list<array{string, string}>> name without its ending → folders, each with the ending */
    private function stems(): array
    {
        if ($this->stems === null) {
            $this->stems = [];
            foreach ($this->files->paths() as $path) {
                if (preg_match('~^(.*/)?([^/]+)\.([a-z0-9]{2,5})$~i', $path, $m) === 1) {
                    $this->stems[$m[2]][] = [$m[1], $m[3]];
                }
            }
        }

        return $this->stems;
    }

    /**
     * @param  array<string, mixed>  $rules
     * @return list<string>
     */
    private function byFolder(TableProfile $table, array $rules): array
    {
        $ways = [];
        $told = (string) json_encode($rules, JSON_UNESCAPED_SLASHES);
        foreach ($table->columns as $name => $column) {
            $isFolder = $column->type === ColumnType::Text
                && preg_match(self::FOLDER, Hints::apart($name)) === 1
                && $column->share('~^[^<>"{}?*:\n]{1,120}$~') === 1.0
                && ! isset($rules[$name])
                && ! str_contains($told, '{'.$name.'}');
            if (! $isFolder) {
                continue;
            }
            $before = [];
            $values = array_map(static fn (string $value): string => trim($value, '/'), $column->distinct());
            foreach ($values as $value) {
                foreach (array_unique($this->before($value)) as $folder) {
                    $before[$folder] = ($before[$folder] ?? 0) + 1;
                }
            }
            // Folders of the site's list of media hold what that list says.
            unset($before[preg_replace('~\{.*$~s', '', (string) $this->media?->path) ?: "\0"]);
            arsort($before);
            $most = $before === [] ? 0 : max($before);
            if ($most >= min(self::TELLING, count($values)) && $most >= self::ENOUGH * count($values)) {
                $ways[] = array_key_first($before).'{'.$name.'}/*';
            }
        }

        return $ways;
    }

    /** @return list<string> what stands before a folder, each ending in `/` or empty */
    private function before(string $value): array
    {
        $before = [];
        foreach ($value === '' ? [] : $this->folders()[basename($value)] ?? [] as $folder) {
            if ($folder === "$value/" || str_ends_with($folder, "/$value/")) {
                $before[] = substr($folder, 0, -strlen($value) - 1);
            }
        }

        return $before;
    }

    /** Whether a folder or the beginning of a name is called as a table is. */
    private static function speaksOf(string $way, string $stem): bool
    {
        foreach ([basename(dirname("{$way}x")), basename("{$way}x")] as $part) {
            $word = Hints::singular(trim(Hints::apart(preg_replace('~x$~', '', $part) ?? $part), '_'));
            if ($word !== '' && ($word === $stem || Hints::alike($word, $stem) || str_ends_with($stem, "_$word"))) {
                return true;
            }
        }

        return false;
    }

    /**
     * Whether texts name these files, as where a list of media has a row for each.
     *
     * @param  list<string>  $ids
     * @param  array<string, int>  $endings
     */
    private function isSaid(string $way, array $ids, array $endings): bool
    {
        $said = 0;
        $looked = array_slice($ids, 0, self::LOOKED);
        foreach ($looked as $id) {
            foreach (array_keys($endings) as $ending) {
                $said += isset($this->said()[basename("$way$id.$ending")]) ? 1 : 0;
            }
        }

        return $said * 3 > count($looked);
    }

    /** @return array<string, true> */
    private function said(): array
    {
        if ($this->said === null) {
            $said = [];
            foreach (TableProfile::texts($this->tables) as $text) {
                preg_match_all('~[\w.-]*\d\.[a-z0-9]{2,5}\b~i', $text, $found);
                $said += array_fill_keys($found[0], true);
            }
            $this->said = $said;
        }

        return $this->said;
    }

    /** @return array<string, array{ids: array<array-key, true>, endings: array<string, int>}> */
    private function numbered(): array
    {
        if ($this->numbered === null) {
            $this->numbered = [];
            foreach ($this->files->paths() as $path) {
                if (preg_match('~^(.*?(?:/|^)[a-z_-]{0,30})([1-9]\d{0,9})\.([a-z0-9]{2,5})$~i', $path, $m) === 1) {
                    $this->numbered[$m[1]]['ids'][$m[2]] = true;
                    $this->numbered[$m[1]]['endings'][$m[3]] = ($this->numbered[$m[1]]['endings'][$m[3]] ?? 0) + 1;
                }
            }
        }

        return $this->numbered;
    }

    /** @return array<string, list<string>> */
    private function folders(): array
    {
        if ($this->folders === null) {
            $all = [];
            foreach ($this->files->paths() as $path) {
                $all[dirname($path)] = true;
            }
            $this->folders = [];
            foreach (array_keys($all) as $folder) {
                $this->folders[basename((string) $folder)][] = "$folder/";
            }
        }

        return $this->folders;
    }
}
