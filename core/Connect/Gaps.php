<?php

declare(strict_types=1);

namespace Ylema\Connect;

use Ylema\Addresses\SiteAddresses;

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
     * @param  array<string, true>  $read `table.column`, or `table.column.name` where a table keeps one value a row
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
        $relations = new Relations($tables, $prefix, $this->samples);
        $ties = $relations->all();
        $media = (new MediaTables($tables, $ties, $this->samples, $this->files, $this->addresses))->find();
        $fields = new Fields(new Looker($this->addresses, $this->files), $relations, $ties, $this->samples, $media);
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
                    $isRead = isset($read[$place]) || isset($read["$name.$column"]);
                    if (! $isRead && $files > 0 && (is_string($one) || is_array($one))) {
                        $gaps[] = new Gap($name, $column, (string) $own, $one, $said, $files, $passing);
                    }
                }
            }
        }
        $order = static fn (Gap $gap): array => [$gap->passing !== null, -$gap->files];
        usort($gaps, static fn (Gap $a, Gap $b): int => $order($a) <=> $order($b));

        return $gaps;
    }
}
