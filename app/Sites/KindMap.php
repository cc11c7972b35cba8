<?php

declare(strict_types=1);

namespace App\Sites;

/** Where the records of one kind lie and what their columns mean. A column of a join is named `join.column`. */
final readonly class KindMap
{
    /**
     * @param  list<Template>  $addresses below the root; the first is the page's own, the others lead to the same
     * @param  bool  $isPage whether an address is one that a visitor opens (a style sheet's is not)
     * @param  bool  $everywhere whether the site's own code shows it on every page
     * @param  array<string, string>  $facts label → column
     * @param  array<string, FieldColumn>  $fields column → how it is read
     * @param  list<string>  $keep columns that stamp themselves when a record is written, and shall stay as they were
     * @param  array{string, string}|null  $box the columns of width and height in pixels that its content is made for
     * @param  array<string, Join>  $joins
     * @param  list<FieldRule>  $owners columns with the keys of the records that show it
     * @param  array<string, DateColumn>  $dates how moments in columns are written
     * @param  array<string, array<string, string>>  $spelt column → value → how it stands in titles and addresses
     * @param  bool  $isDistinct whether a record is each value that the key has, however many rows have it
     * @param  bool  $isKept whether it is read and never written
     * @param  list<Template>  $shows paths of files that the site's own code finds by a row's values
     * @param  list<string>  $patterns of the paths of its files, where its records are files and no rows
     */
    public function __construct(
        public string $kind,
        public string $table,
        public ?string $where,
        public RecordKey $key,
        public Template $title,
        public array $addresses,
        public bool $isPage,
        public bool $everywhere,
        public RecordStates $states,
        public array $facts,
        public array $fields,
        public array $keep = [],
        public ?array $box = null,
        public array $joins = [],
        public array $owners = [],
        public array $dates = [],
        public array $spelt = [],
        public bool $isDistinct = false,
        public bool $isKept = false,
        public array $patterns = [],
        public array $shows = [],
    ) {
    }

    /** Whether its records are files, and no rows. */
    public function isOfFiles(): bool
    {
        return $this->patterns !== [];
    }

    /** @return list<string> the columns that a reading needs, each once; not what only another record says of itself */
    public function columns(): array
    {
        $columns = [
            ...$this->key->columns,
            ...array_keys($this->fields),
            ...array_values($this->facts),
            ...$this->states->columns(),
            ...$this->box ?? [],
        ];
        foreach ([$this->title, ...$this->addresses, ...$this->shows] as $template) {
            foreach ($template->columns() as $column) {
                $columns[] = $this->relation($column)?->keyColumn() ?? $column;
            }
        }
        foreach ($this->fields as $field) {
            array_push($columns, ...$field->columns());
        }
        foreach ($this->owners as $owner) {
            array_push($columns, $owner->column, ...$owner->columns());
        }

        return array_values(array_unique($columns));
    }

    /** @return list<string> the columns of the table itself that a write looks at, each once */
    public function ownColumns(): array
    {
        $columns = [...$this->key->columns, ...array_keys($this->fields)];
        foreach ($this->fields as $field) {
            if ($field->by !== null && ! $field->isNamedElsewhere()) {
                $columns[] = $field->by;
            }
        }

        return array_values(array_unique($columns));
    }

    /** @return list<string> columns of other tables that decide how fields are read */
    public function decidingElsewhere(): array
    {
        $elsewhere = array_filter($this->fields, static fn (FieldColumn $field): bool => $field->isNamedElsewhere());

        return array_values(array_unique(array_map(
            static fn (FieldColumn $field): string => (string) $field->by,
            $elsewhere,
        )));
    }

    /** The same without other tables: what a write locks and changes. */
    public function alone(): self
    {
        return new self(
            $this->kind,
            $this->table,
            $this->where,
            $this->key,
            $this->title,
            [],
            false,
            $this->everywhere,
            $this->states,
            [],
            $this->fields,
            $this->keep,
            isDistinct: $this->isDistinct,
            isKept: $this->isKept,
        );
    }

    /**
     * Why nothing may be written to a field of its records; null where it may be.
     *
     * @param  bool  $isNamed whether other records name them by their keys
     * @param  string  $raw what the column holds
     */
    public function fixed(string $field, FieldRule $rule, bool $isNamed, string $raw): ?string
    {
        if ($rule->textOf($raw) === null) {
            return "its $field is not {$rule->packing?->value}, as the field map says "
                ."(records.$this->kind.fields.$field)";
        }
        if ($this->isKept || $this->isDistinct) {
            return "the field map says that it is never written (records.$this->kind.read_only)";
        }
        if ($rule->isKept) {
            return "the field map says that its $field is never written (records.$this->kind.fields.$field)";
        }

        return $isNamed && in_array($field, $this->key->columns, true)
            ? "its $field is a part of the key by which other records name it, so that they would name nothing. Change "
                .'it on the site, or name a key in the field map that leaves it out'
            : null;
    }

    /** The joined record that says `parent.address` or `parent.title` of itself. */
    public function relation(string $column): ?Join
    {
        [$join, $rest] = [...explode('.', $column, 2), ''];

        return in_array($rest, ['address', 'title'], true) && ($this->joins[$join]->kind ?? null) !== null
            ? $this->joins[$join]
            : null;
    }

    /** Where in the field map a column is named, as `fields.body` or `key`. */
    public function placeOf(string $column): string
    {
        $place = match (true) {
            isset($this->fields[$column]) => "fields.$column",
            in_array($column, $this->key->columns, true) => 'key',
            in_array($column, $this->facts, true) => 'facts.'.array_search($column, $this->facts, true),
            in_array($column, $this->states->columns(), true) => 'state',
            in_array($column, $this->box ?? [], true) => 'box',
            in_array($column, $this->keep, true) => 'keep',
            in_array($column, $this->title->columns(), true) => 'title',
            in_array($column, array_column($this->owners, 'column'), true) => "part_of.$column",
            array_filter($this->addresses, static fn (Template $a): bool => in_array($column, $a->columns(), true)) !==
                [] => 'address',
            default => 'table',
        };

        return "records.$this->kind.$place";
    }
}
