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
     * @param  array{column?: string, live: list<string>, waiting: list<string>, fading: list<string>, from?: string, until?: string, always?: string}  $state
     * @param  array<string, string>  $facts label → column
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
        public array $state,
        public array $facts,
        public array $fields,
    ) {
    }

    /** @return list<string> the columns that a reading needs, each once */
    public function columns(): array
    {
        $columns = [$this->key, ...array_keys($this->fields), ...array_values($this->facts)];
        foreach ([$this->title, (string) $this->address] as $template) {
            preg_match_all('~\{(\w+)\}~', $template, $m);
            array_push($columns, ...$m[1]);
        }
        foreach (['column', 'from', 'until'] as $part) {
            if (isset($this->state[$part])) {
                $columns[] = $this->state[$part];
            }
        }
        foreach ($this->fields as $field) {
            if ($field->targetFrom !== null) {
                $columns[] = $field->targetFrom['column'];
            }
        }

        return array_values(array_unique($columns));
    }
}
