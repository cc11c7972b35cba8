<?php

declare(strict_types=1);

namespace Tests\Core\Generators;

use RuntimeException;
use Ylema\Change\EditConflict;
use Ylema\Change\Rewriter;
use Ylema\Reading\CannotEncode;
use Ylema\Reading\CommentRule;
use Ylema\Reading\ElementRule;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;
use Ylema\Reading\TokenTag;

/** The laws of reading and changing, held against one drawn case at a time; a broken law is thrown with its seed. */
final readonly class Laws
{
    private FieldReader $reader;

    private Rewriter $rewriter;

    private Rules $rules;

    public function __construct()
    {
        $this->reader = new FieldReader();
        $this->rewriter = new Rewriter($this->reader);
        $this->rules = new Rules(
            mediaFolders: ['/media/'],
            tags: [
                new TokenTag('film', ['src' => new ElementRule(Notation::Url)]),
                new TokenTag('box', [], new ElementRule(Notation::Html)),
            ],
            comments: [new CommentRule('^ block (?<text>\{.*\})', Notation::Json)],
        );
    }

    /** @return array{int, int} of some drawn documents, how many could be written and how many were refused */
    public function readings(int $from, int $count): array
    {
        $written = $refused = 0;
        for ($seed = $from; $seed < $from + $count; $seed++) {
            match ($this->reading($seed)) {
                true => $written++,
                false => $refused++,
                null => null,
            };
        }

        return [$written, $refused];
    }

    /** @return bool|null whether the change could be written; null where the document holds no reference */
    public function reading(int $seed): ?bool
    {
        $documents = new Documents($seed);
        [$piece, $notation] = $documents->document();
        $text = $piece->text();
        $references = $this->reader->read($text, $notation, $this->rules)->references;

        // (1) What was planted is found, where it was planted, and says what was planted: nothing less, nothing more.
        $found = array_map(static fn (Reference $r): array => [$r->start, $r->length, $r->value], $references);
        $this->hold($found === $piece->planted(), 1, $seed, $text);
        if ($references === []) {
            return null;
        }

        $changes = $wanted = [];
        for ($n = $documents->number(1, 4); $n > 0; $n--) {
            $index = $documents->number(0, count($references) - 1);
            $wanted[$index] = $documents->value();
        }
        foreach ($wanted as $index => $value) {
            $changes[] = [$references[$index], $value];
        }
        try {
            $edits = $this->rewriter->edits($text, $notation, $this->rules, $changes);
        } catch (CannotEncode|EditConflict) {
            // Some values cannot stand in some places; then nothing is written, and that is said.
            return false;
        }
        $after = $edits->applyTo($text);

        // (2) Reading again gives the same references but for the changed values. A candidate list spells spaces and
        // commas its own way.
        $again = $this->reader->read($after, $notation, $this->rules)->references;
        $this->hold(count($again) === count($references), 2, $seed, $after);
        foreach ($again as $i => $reference) {
            $value = $wanted[$i] ?? $references[$i]->value;
            $this->hold(
                $reference->value === $value || rawurldecode($reference->value) === rawurldecode($value),
                2,
                $seed,
                $after,
            );
            $this->hold(
                $reference->role === $references[$i]->role && self::path($reference) === self::path($references[$i]),
                2,
                $seed,
                $after,
            );
        }

        // (3) Every byte outside the changed tokens and the mended lengths is as it was, (4) and the way back restores
        // them all.
        $starts = array_map(static fn (array $change): int => $change[0]->start, $changes);
        foreach ($edits->edits as $edit) {
            $this->hold(
                in_array($edit->start, $starts, true) || preg_match('~^\d+$~D', $edit->before) === 1,
                3,
                $seed,
                $text,
            );
        }
        $kept = $text;
        foreach (array_reverse($edits->edits) as $edit) {
            $kept = substr_replace($kept, $edit->after, $edit->start, strlen($edit->before));
        }
        $this->hold($kept === $after, 3, $seed, $after);
        $this->hold($edits->inverse()->applyTo($after) === $text, 4, $seed, $after);

        // What the site's own code reads must go on being readable to it.
        $this->hold(
            $notation !== Notation::PhpSerialized || @unserialize($after, ['allowed_classes' => false]) !== false,
            3,
            $seed,
            $after,
        );
        $this->hold($notation !== Notation::Json || json_decode(ltrim($after, "\u{FEFF}")) !== null, 3, $seed, $after);

        return true;
    }

    /** (5) No input, however damaged, throws; and what is found in it stands where the reading says. */
    public function damage(int $seed): int
    {
        $documents = new Documents($seed);
        [$piece, $notation] = $documents->document();
        $text = $documents->damage($piece->text());
        $references = $this->reader->read($text, $notation, $this->rules)->references;
        foreach ($references as $reference) {
            $this->hold(
                $reference->start >= 0 && $reference->length >= 0 && $reference->end() <= strlen($text),
                5,
                $seed,
                $text,
            );
            $context = $reference->context();
            $this->hold($context->line === substr_count($text, "\n", 0, $reference->start) + 1, 5, $seed, $text);
        }

        return count($references);
    }

    /** Whether text in an older encoding is decoded depends on whether any of its references needs it. */
    private static function path(Reference $reference): string
    {
        return preg_replace('~(?<=^|>)text>~', '', $reference->layerPath()) ?? '';
    }

    private function hold(bool $true, int $law, int $seed, string $text): void
    {
        if (! $true) {
            throw new RuntimeException("Law $law does not hold for seed $seed:\n$text");
        }
    }
}
