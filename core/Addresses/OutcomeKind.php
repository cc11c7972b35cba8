<?php

declare(strict_types=1);

namespace Ylema\Addresses;

/**
 * What came of following a reference: to a file of the site by its address, to a media item by its id, to a record by
 * its key. The only catalogue of causes: their order, their words, whether a visitor loses something.
 *
 * The cases stand in the order in which they hurt visitors, worst first; those that are no findings come last.
 */
enum OutcomeKind: string
{
    case MissingFile = 'missing-file';
    case EmptyFile = 'empty-file';
    case MissingItem = 'missing-item';
    case MissingRecord = 'missing-record';
    case MissingRendition = 'missing-rendition';
    case LetterCase = 'letter-case';
    case UnicodeForm = 'unicode-form';
    case Encoding = 'encoding';
    case SameBytes = 'same-bytes';
    case ChangedExtension = 'changed-extension';
    case Moved = 'moved';
    case Unreadable = 'unreadable';
    case FormerAddress = 'former-address';
    case InsecureScheme = 'insecure-scheme';
    case ForeignHost = 'foreign-host';
    /** Something is wrong with it, and somebody decided that it stays so. */
    case LetStand = 'let-stand';
    case Found = 'found';
    case Page = 'page';
    case MediaPage = 'media-page';
    case Elsewhere = 'elsewhere';

    /**
     * Whether something is wrong with the reference: a visitor does not get what it names, or in a way that will stop
     * working.
     */
    public function isFinding(): bool
    {
        return ! in_array(
            $this,
            [self::LetStand, self::Found, self::Page, self::MediaPage, self::Elsewhere],
            true,
        );
    }

    /** Whether a visitor loses something: a former address serves what it served then, if it serves anything. */
    public function isBroken(): bool
    {
        return $this->isFinding() && $this !== self::InsecureScheme && $this !== self::ForeignHost;
    }

    /** Whether files that come, go or change can make another outcome of it. */
    public function dependsOnFiles(): bool
    {
        return ! in_array($this, [self::ForeignHost, self::Elsewhere, self::Unreadable, self::MissingRecord], true);
    }

    /** @return list<self> worst for visitors first */
    public static function findings(): array
    {
        return array_values(array_filter(self::cases(), static fn (self $kind): bool => $kind->isFinding()));
    }

    /** @return list<self> */
    public static function broken(): array
    {
        return array_values(array_filter(self::cases(), static fn (self $kind): bool => $kind->isBroken()));
    }

    /** The name of the family that its findings make. */
    public function title(): string
    {
        return match ($this) {
            self::MissingFile => 'Missing file',
            self::EmptyFile => 'Empty file',
            self::MissingItem => 'Missing item',
            self::MissingRecord => 'Missing record',
            self::MissingRendition => 'Missing size',
            self::LetterCase => 'Upper and lower case',
            self::UnicodeForm => 'Look-alike characters',
            self::Encoding => 'Other encoding',
            self::SameBytes => 'Renamed file',
            self::ChangedExtension => 'Other extension',
            self::Moved => 'Moved file',
            self::Unreadable => 'Not an address',
            self::FormerAddress => 'Former address',
            self::InsecureScheme => 'Plain http',
            self::ForeignHost => 'Foreign host',
            self::LetStand => 'Let stand',
            self::Found => 'Found',
            self::Page => 'Page',
            self::MediaPage => 'Page of an item',
            self::Elsewhere => 'Elsewhere',
        };
    }

    /** The cause as a clause, for a sentence that begins with what is met. */
    public function cause(): string
    {
        return match ($this) {
            self::MissingFile => 'the file is nowhere on the site',
            self::EmptyFile => 'the file is there but has no bytes in it',
            self::MissingItem => 'the id names no item of the site’s media list',
            self::MissingRecord => 'the key names no record of the site',
            self::MissingRendition => 'the size asked for does not exist, though its original does',
            self::LetterCase => 'the file differs only in upper and lower case',
            self::UnicodeForm => 'the name looks the same but is made of other characters',
            self::Encoding => 'the file name is what the address says in another encoding',
            self::SameBytes => 'the file has another name now, known by its bytes',
            self::ChangedExtension => 'the file has another extension now',
            self::Moved => 'the file was moved to another folder',
            self::Unreadable => 'no browser accepts the address',
            self::FormerAddress => 'the address is the one that the site had before its move',
            self::InsecureScheme => 'the address says plain http',
            self::ForeignHost => 'the picture comes from another host',
            self::LetStand => 'somebody decided that it stays as it is',
            self::Found => 'the file is there',
            self::Page => 'it leads to a page of the site',
            self::MediaPage => 'it leads to the page of a media item',
            self::Elsewhere => 'it leads elsewhere',
        };
    }
}
