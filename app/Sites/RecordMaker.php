<?php

declare(strict_types=1);

namespace App\Sites;

use DateTimeImmutable;
use Ylema\Reading\Notation;
use Ylema\Reading\PathRule;
use Ylema\Reading\Rules;
use Ylema\Sites\Owner;
use Ylema\Sites\SourceField;
use Ylema\Sites\SourceRecord;

/** Makes records of rows, as the field map says: what it is called, where it is met, how it stands, what it holds. */
final class RecordMaker
{
    /** Rules of fields that are kept: as many as there are columns, and folders and roles that rows say. */
    private const KEPT = 2000;

    /** @var array<string, Rules> */
    private array $fieldRules = [];

    /**
     * @param  string  $root the path of the site's root on its host, such as `/`
     * @param  list<string>  $named kinds whose records others name by their keys
     */
    public function __construct(
        private readonly Rules $rules,
        private readonly string $root,
        private readonly array $named = [],
    ) {
    }

    /**
     * @param  array<string, string|null>  $row column → text
     * @param  array<string, array<string, array{address: string, title: string}>>  $said kind → key → what other
     *       records say of themselves
     */
    public function record(KindMap $map, array $row, array $said = []): SourceRecord
    {
        $fields = [];
        foreach ($map->fields as $name => $field) {
            $rule = isset($row[$name]) ? $field->rule($row) : null;
            if ($rule !== null) {
                $text = $rule->textOf((string) $row[$name]);
                $fields[] = new SourceField(
                    $name,
                    $text ?? (string) $row[$name],
                    $text === null ? Notation::Text : $rule->notation,
                    $this->rulesOf($rule, $row),
                    $map->fixed($name, $rule, in_array($map->kind, $this->named, true), (string) $row[$name]),
                    $map->key->part($name),
                );
            }
        }
        $facts = array_map(
            static fn (string $column): string|int|null => preg_match(
                '~^-?[1-9]\d{0,17}$|^0$~D',
                $row[$column] ?? '',
            ) === 1
                ? (int) $row[$column]
                : $row[$column] ?? null,
            $map->facts,
        );
        if ($map->box !== null) {
            [$width, $height] = [(int) ($row[$map->box[0]] ?? 0), (int) ($row[$map->box[1]] ?? 0)];
            $facts['Box'] = $width > 0 && $height > 0 ? "$width × $height" : null;
        }
        $addresses = $this->addresses($map, $row, $said);

        return new SourceRecord(
            $map->kind,
            $map->key->of($row),
            $this->title($map, $row, $said),
            $addresses[0] ?? null,
            $map->states->of($row, new DateTimeImmutable()),
            $fields,
            $facts,
            array_slice($addresses, 1),
            self::owners($map, $row),
            shows: $this->shows($map, $row, $said),
        );
    }

    /**
     * @param  array<string, string|null>  $row
     * @param  array<string, array<string, array{address: string, title: string}>>  $said
     * @return list<string>
     */
    private function shows(KindMap $map, array $row, array $said): array
    {
        $shows = [];
        foreach ($map->shows as $template) {
            $value = fn (string $column): string => $this->value($map, $row, $column, $said) ?? '';
            $values = array_map(static fn (string $c): string => trim($value($c), '/. '), $template->columns());
            // Without a value there is no such folder, and never the one above it.
            if (! in_array('', $values, true)) {
                $path = $template->fill($value, $map->dates);
                $shows[] = ltrim(preg_replace('~/{2,}~', '/', $path) ?? $path, '/');
            }
        }

        return $shows;
    }

    /**
     * @param  array<string, string|null>  $row
     * @return list<Owner>
     */
    private static function owners(KindMap $map, array $row): array
    {
        $owners = [];
        foreach ($map->owners as $rule) {
            foreach (preg_split('~[\s,;|]+~', $row[$rule->column] ?? '', -1, PREG_SPLIT_NO_EMPTY) ?: [] as $said) {
                [$kind, $key] = $rule->namedBy($said, $row);
                if ($kind !== null && $key !== '0') {
                    $owners[] = new Owner($rule->column, $kind, $key);
                }
            }
        }

        return $owners;
    }

    /**
     * @param  array<string, string|null>  $row
     * @param  array<string, array<string, array{address: string, title: string}>>  $said
     */
    private function title(KindMap $map, array $row, array $said): string
    {
        return trim(
            $map->title->fill(
                fn (string $column): string => self::said($this->value($map, $row, $column, $said) ?? ''),
                $map->dates,
            ),
        );
    }

    /**
     * @param  array<string, string|null>  $row
     * @param  array<string, array<string, array{address: string, title: string}>>  $said
     * @return list<string> below the root; the page's own first
     */
    private function addresses(KindMap $map, array $row, array $said): array
    {
        $addresses = [];
        foreach ($map->addresses as $n => $template) {
            $columns = $template->columns();
            $last = end($columns);
            // What has no name of its own has no such address; a page below nothing lies at the root.
            if ($last !== false && $map->relation($last) === null && ($row[$last] ?? null) === null) {
                continue;
            }
            $value = fn (string $column): string => $this->value($map, $row, $column, $said) ?? '';
            if ($template->lacksLast($value)) {
                continue;
            }
            $filled = $template->fill($value, $map->dates);
            // A part that is empty leaves no slash behind.
            $address = ltrim(preg_replace('~(?<!:)/{2,}~', '/', $filled) ?? $filled, '/');
            if ($n === 0 || ! in_array($address, $addresses, true)) {
                $addresses[] = $address;
            }
        }

        return $addresses;
    }

    /**
     * @param  array<string, string|null>  $row
     * @param  array<string, array<string, array{address: string, title: string}>>  $said
     */
    private function value(KindMap $map, array $row, string $column, array $said): ?string
    {
        $relation = $map->relation($column);
        if ($relation !== null) {
            $own = $said[(string) $relation->kind][$row[$relation->keyColumn()] ?? ''] ?? null;

            return $own[substr($column, strlen($relation->name) + 1)] ?? null;
        }
        $value = $row[$column] ?? null;

        return $value === null ? null : $map->spelt[$column][$value] ?? $value;
    }

    /**
     * What a record says of itself to those below it.
     *
     * @param  array<string, string|null>  $row
     * @param  array<string, array<string, array{address: string, title: string}>>  $said
     * @return array{address: string, title: string}
     */
    public function named(KindMap $map, array $row, array $said): array
    {
        return ['address' => $this->addresses($map, $row, $said)[0] ?? '', 'title' => $this->title($map, $row, $said)];
    }

    /** A moment in a title is said to the minute, and midnight as its day. */
    private static function said(string $value): string
    {
        $moment = '~^(\d{4}-\d\d-\d\d)[ T](\d\d:\d\d)(?::\d\d(?:\.\d+)?)?(?:Z|[+-]\d\d(?::?\d\d)?)?$~D';

        return preg_match($moment, $value, $m) === 1 ? $m[1].($m[2] === '00:00' ? '' : " $m[2]") : $value;
    }

    /** @param  array<string, string|null>  $row */
    private function rulesOf(FieldRule $rule, array $row): Rules
    {
        [$role, $target] = [$rule->roleOf($row), $rule->targetOf($row)];
        $below = FieldRule::folderOf($rule->below, $row);
        $inside = array_map(
            static fn (PathRule $p): ?string => FieldRule::folderOf($p->below, $row),
            $rule->paths,
        );
        $key = implode('>', [spl_object_id($rule), $target, $role, $below, ...$inside]);
        if (count($this->fieldRules) > self::KEPT) {
            $this->fieldRules = [];
        }

        return $this->fieldRules[$key] ??= $this->rules->with(
            paths: array_map(
                fn (PathRule $p, ?string $folder): PathRule => new PathRule(
                    $p->path,
                    $p->notation,
                    $p->role,
                    $p->target,
                    $this->below($folder),
                ),
                $rule->paths,
                $inside,
            ),
            role: $role,
            target: $target,
            below: $this->below($below),
            typed: $rule->typed,
        );
    }

    private function below(?string $folder): ?string
    {
        return $folder === null ? null : '/'.ltrim(rtrim($this->root, '/').'/', '/').$folder;
    }
}
