<?php

declare(strict_types=1);

namespace Ylema\Plan;

use Ylema\Addresses\MediaPages;
use Ylema\Addresses\OutcomeKind;
use Ylema\Addresses\RenditionNames;
use Ylema\Addresses\SiteAddresses;
use Ylema\Imaging\UploadRefused;
use Ylema\Sites\FileState;
use Ylema\Sites\SourceRecord;
use Ylema\Sites\SourceUnavailable;

/**
 * What planners ask of a site; every question is put for many things at once, and what may be long comes in batches.
 */
interface Facts
{
    public function addresses(): SiteAddresses;

    public function renditionNames(): RenditionNames;

    public function mediaPages(): ?MediaPages;

    /**
     * @param  list<int>  $items numbers in the index
     * @return array<int, MediaFacts> those that are there
     */
    public function media(array $items): array;

    /**
     * The media rows that a plan may change, in batches.
     *
     * @param  list<int>|null  $items numbers in the index; null for all that have a row
     * @return iterable<list<MediaWords>>
     */
    public function words(?array $items): iterable;

    /**
     * Every record that refers to an item, each with its chosen places, in the order in which a person would list them.
     *
     * @return iterable<list<RecordUses>>
     *
     * @throws SourceUnavailable
     */
    public function uses(int $item, Places $places): iterable;

    /**
     * Every record with findings of some kinds, each with the places that have them.
     *
     * @param  list<OutcomeKind>  $kinds
     * @return iterable<list<RecordUses>>
     *
     * @throws SourceUnavailable
     */
    public function findings(array $kinds): iterable;

    /**
     * The boxes in which chosen places show an item.
     *
     * @return iterable<PlacedBox>
     */
    public function boxes(int $item, Places $places): iterable;

    /**
     * @param  list<string>  $keys
     * @return iterable<SourceRecord> those that exist, as they are now
     *
     * @throws SourceUnavailable
     */
    public function records(string $kind, array $keys): iterable;

    /**
     * The files that lie at some paths; their bytes are kept, so that a step may replace or move them.
     *
     * @param  list<string>  $paths
     * @return array<string, FileState>
     *
     * @throws SourceUnavailable
     */
    public function files(array $paths): array;

    /**
     * @param  list<string>  $paths
     * @return array<string, true> those at which something lies
     */
    public function taken(array $paths): array;

    /** The original of an item, kept for this plan; null where it is missing. */
    public function original(MediaFacts $media): ?KeptFile;

    /** @throws UploadRefused when it is no longer here */
    public function upload(string $token): KeptFile;

    /** @throws UploadRefused when it cannot be drawn */
    public function draw(Drawing $drawing): FileState;

    /**
     * What will move by itself when a record of a kind is written: columns that stamp themselves, triggers.
     *
     * @return list<string> sentences
     */
    public function stamps(string $kind): array;
}
