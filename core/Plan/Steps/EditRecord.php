<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

use Ylema\Change\EditConflict;
use Ylema\Plan\Mark;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;
use Ylema\Sites\SourceRecord;

/** The fields of one record, edited byte for byte; carried out only on the record that the plan saw. */
final readonly class EditRecord implements Step
{
    /**
     * @param  string  $before content hash that the plan saw
     * @param  string|null  $after content hash that it leaves; null as long as a promise is open
     * @param  array<string, FieldEdits>  $fields field → its edits
     * @param  list<PromisedEdit>  $promises places that will name what an earlier step makes
     * @param  string|null  $moved the key that it leaves, where a part of that is edited; else null
     * @param  list<string>  $brought what the plan brings and the record will name (see Mark)
     */
    public function __construct(
        public string $record,
        public string $key,
        public string $title,
        public string $before,
        public ?string $after,
        public array $fields,
        public array $promises = [],
        public ?string $moved = null,
        public array $brought = [],
    ) {
    }

    /**
     * @param  array<string, FieldEdits>  $fields
     * @param  list<PromisedEdit>  $promises
     * @param  list<string>  $brought
     *
     * @throws EditConflict when the edits do not fit the record's text
     */
    public static function of(SourceRecord $record, array $fields, array $promises = [], array $brought = []): self
    {
        $texts = self::texts($record, $fields);
        $moved = $record->key;
        foreach ($record->fields as $field) {
            $moved = $field->part?->in($moved, $texts[$field->name]) ?? $moved;
        }

        return new self(
            $record->kind,
            $record->key,
            $record->title,
            $record->contentHash,
            $promises === [] ? SourceRecord::hashOf($texts) : null,
            $fields,
            $promises,
            $moved === $record->key ? null : $moved,
            $brought,
        );
    }

    public function kind(): StepKind
    {
        return StepKind::EditRecord;
    }

    public function title(): string
    {
        return $this->title;
    }

    /**
     * The same edits for the record as a later step left it, where they fit.
     *
     * @throws EditConflict when that step touched the same bytes
     */
    public function through(self $later): self
    {
        $fields = [];
        foreach ($this->fields as $name => $field) {
            $fields[$name] = isset($later->fields[$name]) ? $field->through($later->fields[$name]) : $field;
        }

        return new self($this->record, $this->key, $this->title, (string) $later->after, null, $fields);
    }

    /** The same step, which leaves a record with these texts. */
    public function leaving(string $after): self
    {
        return new self($this->record, $this->key, $this->title, $this->before, $after, $this->fields);
    }

    /** @return int how many references it changes */
    public function count(): int
    {
        return count($this->promises)
            + array_sum(array_map(static fn (FieldEdits $field): int => $field->count(), $this->fields));
    }

    /**
     * The whole texts of all fields as they will be.
     *
     * @param  array<string, FieldEdits>  $fields
     * @return array<string, string> field → text
     *
     * @throws EditConflict
     */
    public static function texts(SourceRecord $record, array $fields): array
    {
        $texts = [];
        foreach ($record->fields as $field) {
            $texts[$field->name] = isset($fields[$field->name])
                ? $fields[$field->name]->edits->applyTo($field->text)
                : $field->text;
        }

        return $texts;
    }

    public function inverse(): Step
    {
        return new self(
            $this->record,
            $this->moved ?? $this->key,
            $this->title,
            $this->after ?? '',
            $this->before,
            array_map(static fn (FieldEdits $field): FieldEdits => $field->inverse(), $this->fields),
            moved: $this->moved === null ? null : $this->key,
        );
    }

    public function gives(): ?string
    {
        return null;
    }

    public function needs(): array
    {
        $rows = array_map(static fn (PromisedEdit $one): string => Mark::row($one->promise), $this->promises);

        return array_values(array_unique([...$rows, ...$this->brought]));
    }

    public function toArray(): array
    {
        return [
            'record' => $this->record,
            'key' => $this->key,
            'title' => $this->title,
            'before' => $this->before,
            'after' => $this->after,
            'fields' => array_map(static fn (FieldEdits $field): array => $field->toArray(), $this->fields),
            'promises' => array_map(static fn (PromisedEdit $promise): array => $promise->toArray(), $this->promises),
            ...$this->moved === null ? [] : ['moved' => $this->moved],
            ...$this->brought === [] ? [] : ['brought' => $this->brought],
        ];
    }

    /** @param  array<mixed>  $data */
    public static function fromArray(array $data): self
    {
        $fields = $promises = [];
        foreach (is_array($data['fields'] ?? null) ? $data['fields'] : [] as $name => $field) {
            $fields[(string) $name] = FieldEdits::fromArray(is_array($field) ? $field : []);
        }
        foreach (is_array($data['promises'] ?? null) ? $data['promises'] : [] as $promise) {
            $promises[] = PromisedEdit::fromArray(is_array($promise) ? $promise : []);
        }
        $text = static fn (string $name): string => is_string($data[$name] ?? null) ? $data[$name] : '';

        return new self(
            $text('record'),
            $text('key'),
            $text('title'),
            $text('before'),
            is_string($data['after'] ?? null) ? $data['after'] : null,
            $fields,
            $promises,
            is_string($data['moved'] ?? null) ? $data['moved'] : null,
            is_array($data['brought'] ?? null) ? array_values(array_filter($data['brought'], is_string(...))) : [],
        );
    }
}
