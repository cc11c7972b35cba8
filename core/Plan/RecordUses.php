<?php

declare(strict_types=1);

namespace Ylema\Plan;

use Ylema\Sites\SourceRecord;

/** A record that refers to an item, as the index knows it and as its source holds it now. */
final readonly class RecordUses
{
    /**
     * @param  string  $contentHash that the index was made from
     * @param  list<PlacedUse>  $uses in the order of their places
     * @param  SourceRecord|null  $record as it is now; null where it is gone
     */
    public function __construct(
        public string $kind,
        public string $key,
        public string $title,
        public string $contentHash,
        public array $uses,
        public ?SourceRecord $record,
    ) {
    }

    /** @param  list<PlacedUse>  $uses */
    public function with(array $uses): self
    {
        return new self($this->kind, $this->key, $this->title, $this->contentHash, $uses, $this->record);
    }

    /** @return string|null why it cannot be edited by what the index knows, with what to do */
    public function problem(): ?string
    {
        return match (true) {
            $this->record === null => 'This record no longer exists in the source. Read the site again.',
            $this->record->contentHash !== $this->contentHash => 'This record was changed since the site was last '
                .'read. Read the site again, then plan again.',
            default => null,
        };
    }
}
