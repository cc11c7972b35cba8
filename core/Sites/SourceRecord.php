<?php

declare(strict_types=1);

namespace Ylema\Sites;

use Ylema\Usage\RecordState;

/** One record as its source holds it at this moment. */
final readonly class SourceRecord
{
    /** What the place is called of files that no text of a record names; no column is called so. */
    public const FILES = 'its files';

    /** Of the fields that Ylema reads and writes; what compare-and-set compares. */
    public string $contentHash;

    /** Of everything below; what a re-reading compares. */
    public string $hash;

    /**
     * @param  string|null  $address below the site's root, for a record with a public address
     * @param  list<SourceField>  $fields
     * @param  array<string, string|int|null>  $facts shown to the maintainer: dates, sizes, counts
     * @param  list<string>  $also further addresses below the site's root that lead to the same page
     * @param  list<Owner>  $owners records that show it as a part of themselves
     * @param  list<string>  $shows paths below the site's root of files that the site's own code finds by the record's
     *       values; at the end, `*` is any name in a folder and `.*` any ending
     * @param  string|null  $unread why its text was not read at all, as a sentence
     */
    public function __construct(
        public string $kind,
        public string $key,
        public string $title,
        public ?string $address,
        public RecordState $state,
        public array $fields,
        public array $facts = [],
        public array $also = [],
        public array $owners = [],
        public ?string $unread = null,
        public array $shows = [],
    ) {
        $this->contentHash = self::hashOf(array_column($fields, 'text', 'name'));
        $this->hash = hash(
            'xxh128',
            implode("\0", [
                $this->contentHash,
                $title,
                $address ?? "\1",
                $state->word(),
                json_encode($facts, JSON_THROW_ON_ERROR),
                // What most records have none of leaves their hash as it is.
                ...($also === [] ? [] : ["\1also", ...$also]),
                ...array_map(static fn (Owner $o): string => "\1$o->field\1$o->kind\1$o->key", $owners),
                ...$unread === null ? [] : ["\1unread", $unread],
                ...array_map(static fn (string $pattern): string => "\1shows$pattern", $shows),
            ]),
        );
    }

    /**
     * @param  array<string, string>  $texts field name → text
     */
    public static function hashOf(array $texts): string
    {
        ksort($texts);
        // Against accidents, not enemies: 128 bits tell any two texts apart, and every text is hashed many times.
        $hash = hash_init('xxh128');
        foreach ($texts as $name => $text) {
            // Lengths keep two neighbouring fields from trading bytes unseen.
            hash_update($hash, strlen($name).':'.$name.'='.strlen($text).':');
            hash_update($hash, $text);
        }

        return hash_final($hash);
    }

    public function field(string $name): ?SourceField
    {
        foreach ($this->fields as $field) {
            if ($field->name === $name) {
                return $field;
            }
        }

        return null;
    }
}
