<?php

declare(strict_types=1);

namespace App\Sites;

/** Where the records of one kind lie and what their columns mean. */
final readonly class KindMap
{
    /**
     * @param  array<string, FieldRule>  $fields column → rule
     * @param  string|null  $address below the root, with `{column}` for the row's values
     * @param  bool  $isPage whether that address is one that a visitor opens (a style sheet's is not)
     * @param  bool  $everywhere whether the site's own code shows it on every page
     * @param  array<string, string>  $facts label → column
     * @param  array{string, string}|null  $box the columns of width and height in pixels that its content is made for
     * @param  list<string>  $keep columns that stamp themselves when a record is written, and shall stay as they were
     */
    public function __construct(
        public string $kind,
        public string $table,
        public ?string $where,
        public string $key,
        public string $title,
        public ?string $address,
        public bool $isPage,
        public bool $everywhere,
        public RecordStates $states,
        public array $facts,
        public array $fields,
        public array $keep = [],
        public ?array $box = null,
    ) {
    }

    /** @return list<string> the columns that a reading needs, each once */
    public function columns(): array
    {
        $columns = [
            $this->key,
            ...array_keys($this->fields),
            ...array_values($this->facts),
            ...$this->states->columns(),
            ...$this->box ?? [],
        ];
        foreach ([$this->title, (string) $this->address] as $template) {
            preg_match_all('~\{(\w+)\}~', $template, $m);
            array_push($columns, ...$m[1]);
        }
        foreach ($this->fields as $field) {
            if ($field->targetFrom !== null) {
                $columns[] = $field->targetFrom['column'];
            }
        }

        return array_values(array_unique($columns));
    }

    /** Where in the field map a column is named, as `fields.body` or `key`. */
    public function placeOf(string $column): string
    {
        return match (true) {
            isset($this->fields[$column]) => "records.$this->kind.fields.$column",
            $column === $this->key => "records.$this->kind.key",
            in_array($column, $this->facts, true) => "records.$this->kind.facts."
                .array_search($column, $this->facts, true),
            in_array($column, $this->states->columns(), true) => "records.$this->kind.state",
            in_array($column, $this->box ?? [], true) => "records.$this->kind.box",
            in_array($column, $this->keep, true) => "records.$this->kind.keep",
            str_contains($this->title, "{{$column}}") => "records.$this->kind.title",
            default => "records.$this->kind.address",
        };
    }
}
