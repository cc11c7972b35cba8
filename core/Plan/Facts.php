<?php

declare(strict_types=1);

namespace Ylema\Plan;

use Ylema\Addresses\MediaPages;
use Ylema\Addresses\OutcomeKind;
use Ylema\Addresses\RenditionNames;
use Ylema\Addresses\SiteAddresses;
use Ylema\Imaging\UploadRefused;
use Ylema\Plan\Steps\Redirect;
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
     * Every record that refers to any of some items.
     *
     * @param  list<int>  $items numbers in the index
     * @return iterable<list<RecordUses>>
     *
     * @throws SourceUnavailable
     */
    public function usesOf(array $items): iterable;

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

    /**
     * Redirects that are there now.
     *
     * @param  list<string>  $addresses see PageResolver::key()
     * @return array<string, Redirect>
     *
     * @throws SourceUnavailable
     */
    public function redirects(array $addresses): array;

    /**
     * @param  list<string>  $addresses see PageResolver::key()
     * @return array<string, true> those at which visitors find a page
     */
    public function pages(array $addresses): array;

    /** Whether the site has a table of redirects of its own. */
    public function keepsRedirects(): bool;

    /**
     * Redirects that lead to some addresses of the site.
     *
     * @param  list<string>  $addresses see PageResolver::key()
     * @return list<array{string, Redirect}> the address, and what leads there
     *
     * @throws SourceUnavailable
     */
    public function redirectsTo(array $addresses): array;

    /** @return list<string> below the root, each ending in `/` */
    public function mediaFolders(): array;

    /**
     * The files of a folder, or a file with its renditions.
     *
     * @param  string  $path a folder ends in `/`
     * @return iterable<list<HeldFile>>
     */
    public function filesAt(string $path): iterable;

    /**
     * Who names the files of a folder, or a file with its renditions, in a way that is not read, or in the site's own
     * code: nothing of it follows a move.
     *
     * @param  string  $path a folder ends in `/`
     * @return array{items: int, places: int, example: string} how many items, in how many places, and one of these
     */
    public function unreadNames(string $path): array;

    /**
     * What the rows of some items say of where their files lie.
     *
     * @param  list<int>  $items numbers in the index
     * @return iterable<MediaPlaces>
     *
     * @throws SourceUnavailable
     */
    public function mediaPlaces(array $items): iterable;

    /**
     * Every record that names files of a folder by their address, or a file or one of its renditions.
     *
     * @param  string  $path a folder ends in `/`
     * @return iterable<list<RecordUses>>
     *
     * @throws SourceUnavailable
     */
    public function usesAt(string $path): iterable;

    /**
     * Every record that names something below an address, whatever it is: files and pages, there or not.
     *
     * @param  string  $address whole, ending in `/`; over either scheme, with and without `www.`
     * @return iterable<list<RecordUses>> with what is wrong with each place, where something is
     *
     * @throws SourceUnavailable
     */
    public function usesBelow(string $address): iterable;

    /**
     * What was fetched of some hosts, and is named on this site.
     *
     * @param  list<string>  $hosts
     * @return iterable<list<ForeignPicture>>
     */
    public function foreignPictures(array $hosts): iterable;

    /**
     * Every record that names files of some hosts; `asked` of each place is the whole address.
     *
     * @param  list<string>  $hosts
     * @param  bool  $pasted whether pictures that lie in the text itself are meant, too
     * @return iterable<list<RecordUses>>
     *
     * @throws SourceUnavailable
     */
    public function foreignUses(array $hosts, bool $pasted): iterable;

    /**
     * @param  list<string>  $hashes SHA-256 of bytes
     * @return array<string, string> hash → path of an original of the site with these bytes
     */
    public function sameBytes(array $hashes): array;

    /**
     * Keeps bytes for the plan, if they are what the site takes.
     *
     * @throws UploadRefused with a sentence that says why
     */
    public function keep(string $bytes, string $name): KeptFile;

    /** @return string where the site puts new files, below the root, ending in `/` */
    public function homeFolder(): string;

    /** @return list<int> widths in which the site usually makes renditions, rising */
    public function usualWidths(): array;

    /**
     * @param  list<string>  $paths of files, or of pages (see PageResolver::key())
     * @return array<string, true> those that are there
     */
    public function known(array $paths): array;

    /**
     * Files that are there no more, whose bytes are kept here or still given out at a former address of the site; kept
     * for the plan.
     *
     * @param  list<string>  $paths
     * @return array<string, FileState> those that can be had
     */
    public function recover(array $paths): array;

    /**
     * @param  list<string>  $paths of originals
     * @return array<string, string> path → id of its row in the site's own list of media, where it has one
     */
    public function idsOf(array $paths): array;

    /**
     * Items, or some of their files, that somebody wants to lay to rest.
     *
     * @return iterable<list<Idle>>
     *
     * @throws SourceUnavailable
     */
    public function idle(IdleQuestion $question): iterable;

    /**
     * Renditions that a row lists or a reference names, that are not there and do not rest.
     *
     * @param  int|null  $item number in the index; null for all
     * @param  int|null  $width in pixels; null for all
     * @return iterable<list<LostSize>> those of one item together
     */
    public function lostSizes(?int $item, ?int $width): iterable;

    /**
     * Whether a rendition can be drawn again from its original, tried and compared.
     *
     * @return bool|null null where it was not tried
     */
    public function canRedraw(Idle $rendition): ?bool;

    /** @return list<int>|null widths that the site's owner wants new pictures in, rising; null where nobody said */
    public function chosenWidths(): ?array;

    /** @return string name of a bag that is not there yet */
    public function newBag(): string;

    /** @return string the day until which a file rests that is laid to rest today (ISO 8601) */
    public function restsUntil(): string;

    /**
     * Files at rest or in the archive, those of one item together, its original first.
     *
     * @return iterable<list<Resting>>
     */
    public function resting(RestingQuestion $question): iterable;
}
