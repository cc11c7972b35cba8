<?php

declare(strict_types=1);

namespace Ylema\Plan;

use Ylema\Addresses\MediaPages;
use Ylema\Change\EditConflict;
use Ylema\Change\Rewriter;
use Ylema\Plan\Steps\EditRecord;
use Ylema\Plan\Steps\FieldEdits;
use Ylema\Plan\Steps\PromisedEdit;
use Ylema\Reading\CannotEncode;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Names;
use Ylema\Sites\SourceRecord;

/** Keeps what a step was promised: the id of a row that only the source could give. */
final readonly class Promises
{
    private Rewriter $rewriter;

    public function __construct(private FieldReader $reader, private ?MediaPages $pages)
    {
        $this->rewriter = new Rewriter($reader);
    }

    /**
     * The same step with all its edits, for the record as the plan saw it.
     *
     * @param  array<string, string>  $made promise → id
     *
     * @throws CannotEncode|EditConflict when a place cannot say what it was promised, or its promise was not kept
     */
    public function keep(EditRecord $step, SourceRecord $record, array $made): EditRecord
    {
        $fields = $step->fields;
        foreach ($record->fields as $field) {
            $own = array_filter($step->promises, static fn (PromisedEdit $p): bool => $p->field === $field->name);
            if ($own === []) {
                continue;
            }
            $reading = $this->reader->read($field->text, $field->notation, $field->rules);
            $changes = [];
            foreach ($reading->references as $reference) {
                foreach ($own as $promised) {
                    if ($promised->isOf($reference)) {
                        $id = $made[$promised->promise] ?? throw EditConflict::notReadBack($reference->value);
                        $changes[] = [
                            $reference,
                            match (true) {
                                $promised->value !== null => $promised->value,
                                $reference->names === Names::MediaItem => $id,
                                default => $this->pages?->withId($reference->value, $id) ?? $reference->value,
                            },
                        ];
                    }
                }
            }
            $edits = $this->rewriter->edits($field->text, $field->notation, $field->rules, $changes, $reading);
            $fields[$field->name] = FieldEdits::of($field->text, $edits);
        }

        return EditRecord::of($record, $fields, [], $step->needs());
    }
}
