<?php

declare(strict_types=1);

namespace Ylema\Sites;

use Ylema\Usage\RecordState;

/** One record as its source holds it at this moment. */
final readonly class SourceRecord
{
    /** Of the fields that Ylema reads and writes; what compare-and-set compares. */
    public string $contentHash;

    /** Of everything below; what a re-reading compares. */
    public string $hash;

    /**
     * @param  string|null  $address below the site's root, for a record with a public address
     * @param  list<SourceField>  $fields
     * @param  array<string, string|int|null>  $facts shown to the maintainer: dates, sizes, counts
     */
    public function __construct(
        public string $kind,
        public string $key,
        public string $title,
        public ?string $address,
        public RecordState $state,
        public array $fields,
        public array $facts = [],
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
