<?php

declare(strict_types=1);

namespace Ylema\Connect;

use Ylema\Addresses\SiteAddresses;
use Ylema\Reading\PathRule;

/** Finds what a field map leaves out, by the same looks from which one is proposed. */
final readonly class Gaps
{
    public function __construct(
        private Samples $samples,
        private FileLookup $files,
        private SiteAddresses $addresses,
    ) {
    }

    /**
     * @param  array<string, list<PathRule>>  $read `table.column`, or `table.column.name` where a table keeps one value
     *     a row → what is said of places inside of it
     * @param  list<string>  $outside tables that are read as what they are: media, sizes, redirects
     * @return list<Gap> the one with most files first
     */
    public function beside(array $read, array $outside): array
    {
        $tables = [];
        foreach ($this->samples->tables() as $table) {
            $tables[$table->name] = $table;
        }
        $prefix = Hints::prefix(array_map(strval(...), array_keys($tables)));
        $own = new OwnAddresses($this->files, $this->addresses, TableProfile::texts($tables));
        $relations = new Relations($tables, $prefix, $this->samples);
        $ties = $relations->all();
        $media = (new MediaTables(
            $tables,
            $ties,
            $this->samples,
            $this->files,
            $this->addresses,
            $own,
            $prefix,
        ))->find();
        $looker = new Looker($this->addresses, $this->files, $own);
        $fields = new Fields($tables, $looker, $relations, $ties, $this->samples, $media, $prefix);
        $gaps = [];
        foreach ($tables as $name => $table) {
            if (in_array($name, $outside, true) || $name === $media?->table->name) {
                continue;
            }
            $passing = Hints::say(Hints::PASSING, $name)
                ? 'by its name it holds copies or notes, which no visitor is shown'
                : null;
            [$rules, $why] = $fields->of($table, $fields->pair($table));
            foreach ($rules as $column => $rule) {
                $byName = is_array($rule) && is_array($rule['of'] ?? null) ? $rule['of'] : ['' => $rule];
                foreach ($byName as $own => $one) {
                    $place = "$name.$column".($own === '' ? '' : ".$own");
                    $said = $why[$column.($own === '' ? '' : ".$own")] ?? '';
                    // What holds words and links only hides no picture.
                    $files = preg_match('~, (\d+) with files~', $said, $found) === 1 ? (int) $found[1] : 0;
                    $files = str_contains($said, 'ids of media') ? (int) $said : $files;
                    $inside = $read[$place] ?? $read["$name.$column"] ?? null;
                    if ($inside === null && $files > 0 && (is_string($one) || is_array($one))) {
                        $gaps[] = new Gap($name, $column, (string) $own, $one, $said, $files, $passing);
                    }
                    $paths = is_array($one) && is_array($one['paths'] ?? null) ? $one['paths'] : [];
                    foreach ($paths as $path => $rule) {
                        if ($inside !== null && is_array($rule) && ! self::isSaid((string) $path, $inside)) {
                            $rule = array_filter($rule, static fn (mixed $v): bool => $v !== '');
                            $why = "$said; what stands at $path is told by no rule";
                            $gaps[] = new Gap(
                                $name, $column, (string) $own, $rule, $why, max(1, $files), $passing, (string) $path,
                            );
                        }
                    }
                }
            }
        }
        $order = static fn (Gap $gap): array => [$gap->passing !== null, -$gap->files];
        usort($gaps, static fn (Gap $a, Gap $b): int => $order($a) <=> $order($b));

        return $gaps;
    }

    /** @param  list<PathRule>  $rules */
    private static function isSaid(string $path, array $rules): bool
    {
        // Any position stands for all of them.
        $one = str_replace('[]', '[0]', $path);
        foreach ($rules as $rule) {
            if ($rule->matches($one)) {
                return true;
            }
        }

        return false;
    }
}
