<?php

declare(strict_types=1);

namespace Ylema\Plan;

use Ylema\Change\EditConflict;
use Ylema\Change\Rewriter;
use Ylema\Plan\Steps\EditRecord;
use Ylema\Plan\Steps\FieldEdits;
use Ylema\Plan\Steps\PromisedEdit;
use Ylema\Reading\CannotEncode;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Reading;
use Ylema\Reading\Reference;
use Ylema\Sites\SourceRecord;
use Ylema\Sites\WriteRefused;

/** Makes the step that gives chosen places of a record new values, or says why it cannot be made. */
final readonly class RecordEditor
{
    private FieldReader $reader;

    private Rewriter $rewriter;

    /** @param  string  $promise the name of a media row whose id takes the place of a value that nobody knows yet */
    public function __construct(private string $promise = '')
    {
        $this->reader = new FieldReader();
        $this->rewriter = new Rewriter($this->reader);
    }

    /**
     * @param  callable(Reference, PlacedUse, Reading, Brought): (string|TakenOut|null)  $value of a place, with all
     *       that its field holds; null for the promised id; what the plan brings and it names is noted on the way
     */
    public function edit(RecordUses $uses, callable $value): EditRecord|Refused
    {
        $record = $uses->record;
        $problem = $uses->problem();
        if ($record === null || $problem !== null) {
            return $this->left($uses, (string) $problem);
        }
        $wanted = [];
        foreach ($uses->uses as $use) {
            if ($use->field === SourceRecord::FILES) {
                return $this->left(
                    $uses,
                    sprintf(
                        "The site's own code finds %s by what the record is called, so that no text names it, and only "
                            .'what lies at that path is shown. Put the new one behind the same address.',
                        $use->path ?? 'this file',
                    ),
                );
            }
            $wanted[$use->field][$use->start.':'.$use->length] = $use;
        }
        $found = [];
        $brought = new Brought();
        $open = false;
        foreach ($record->fields as $field) {
            $places = $wanted[$field->name] ?? [];
            if ($places === []) {
                continue;
            }
            if ($field->fixed !== null) {
                $what = "The $record->kind \"$record->key\"";

                return $this->left($uses, (new WriteRefused($what, $field->fixed))->getMessage());
            }
            $reading = $this->reader->read($field->text, $field->notation, $field->rules);
            $changes = $gone = [];
            foreach ($reading->references as $reference) {
                $place = $reference->start.':'.$reference->length;
                if (isset($places[$place])) {
                    $new = $value($reference, $places[$place], $reading, $brought);
                    if ($new instanceof TakenOut) {
                        $gone[$place] = $reference;
                    } else {
                        $open = $open || $new === null;
                        $changes[$place] = [$reference, $new];
                    }
                }
            }
            if (count($changes) + count($gone) !== count($places)) {
                return $this->left(
                    $uses,
                    'A place in this record is not where the index has it. Read the site again, then plan again.',
                );
            }
            $found[$field->name] = [$reading, array_values($changes), array_values($gone)];
        }
        try {
            return $open
                ? $this->promised($record, $found, $brought->marks())
                : $this->edits($record, $found, $brought->marks());
        } catch (CannotEncode|EditConflict $e) {
            return $this->left($uses, $e->getMessage());
        }
    }

    private function left(RecordUses $uses, string $why): Refused
    {
        return new Refused(
            new EditRecord($uses->kind, $uses->key, $uses->title, $uses->contentHash, null, []),
            $why,
        );
    }

    /**
     * @param  array<string, array{Reading, list<array{Reference, string|null}>, list<Reference>}>  $found field → its
     *       reading, its changes, and what is taken out of it
     * @param  list<string>  $brought see Mark
     *
     * @throws CannotEncode|EditConflict
     */
    private function edits(SourceRecord $record, array $found, array $brought): EditRecord
    {
        $fields = [];
        foreach ($record->fields as $field) {
            if (isset($found[$field->name])) {
                $changes = array_map(
                    static fn (array $change): array => [$change[0], (string) $change[1]],
                    $found[$field->name][1],
                );
                $edits = $this->rewriter->edits(
                    $field->text,
                    $field->notation,
                    $field->rules,
                    $changes,
                    $found[$field->name][0],
                    $found[$field->name][2],
                );
                $fields[$field->name] = FieldEdits::of($field->text, $edits);
            }
        }

        return EditRecord::of($record, $fields, [], $brought);
    }

    /**
     * A record that says the new row's id somewhere is edited once that id is there; its other places wait with it.
     *
     * @param  array<string, array{Reading, list<array{Reference, string|null}>, list<Reference>}>  $found
     * @param  list<string>  $brought see Mark
     */
    private function promised(SourceRecord $record, array $found, array $brought): EditRecord
    {
        $promises = [];
        foreach ($found as $field => [, $changes]) {
            foreach ($changes as [$reference, $value]) {
                $promises[] = new PromisedEdit(
                    (string) $field,
                    $reference->start,
                    $reference->length,
                    $this->promise,
                    $value,
                );
            }
        }

        return EditRecord::of($record, [], $promises, $brought);
    }
}
