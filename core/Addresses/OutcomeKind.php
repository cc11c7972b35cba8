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
    case NotServed = 'not-served';
    case ForeignGone = 'foreign-gone';
    case MissingItem = 'missing-item';
    case MissingRecord = 'missing-record';
    case MissingRendition = 'missing-rendition';
    case DeadLink = 'dead-link';
    case LetterCase = 'letter-case';
    case UnicodeForm = 'unicode-form';
    case Encoding = 'encoding';
    case SameBytes = 'same-bytes';
    case ChangedExtension = 'changed-extension';
    case Moved = 'moved';
    case Unreadable = 'unreadable';
    case FormerAddress = 'former-address';
    case ByRedirect = 'by-redirect';
    case InsecureScheme = 'insecure-scheme';
    case ChangedAbroad = 'changed-abroad';
    case ForeignHost = 'foreign-host';
    /** The picture itself stands in the text, as a data: address. */
    case Pasted = 'pasted';
    /** Something is wrong with it, and somebody decided that it stays so. */
    case LetStand = 'let-stand';
    /** It comes from another host, and somebody decided that it may. */
    case AllowedHost = 'allowed-host';
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
            [self::LetStand, self::AllowedHost, self::Found, self::Page, self::MediaPage, self::Elsewhere],
            true,
        );
    }

    /** Whether a visitor loses something: a former address serves what it served then, if it serves anything. */
    public function isBroken(): bool
    {
        return $this->isFinding()
            && ! in_array(
                $this,
                [self::ByRedirect, self::InsecureScheme, self::ChangedAbroad, self::ForeignHost, self::Pasted],
                true,
            );
    }

    /** Whether files that come, go or change can make another outcome of it. */
    public function dependsOnFiles(): bool
    {
        return ! in_array(
            $this,
            [self::ForeignHost, self::Pasted, self::Elsewhere, self::Unreadable, self::MissingRecord],
            true,
        );
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
            self::NotServed => 'Not served',
            self::ForeignGone => 'Cannot be had',
            self::MissingItem => 'Missing item',
            self::MissingRecord => 'Missing record',
            self::MissingRendition => 'Missing size',
            self::DeadLink => 'Dead link',
            self::LetterCase => 'Upper and lower case',
            self::UnicodeForm => 'Look-alike characters',
            self::Encoding => 'Other encoding',
            self::SameBytes => 'Renamed file',
            self::ChangedExtension => 'Other extension',
            self::Moved => 'Moved file',
            self::Unreadable => 'Not an address',
            self::FormerAddress => 'Former address',
            self::ByRedirect => 'Link by a redirect',
            self::InsecureScheme => 'Plain http',
            self::ChangedAbroad => 'Changed elsewhere',
            self::ForeignHost => 'Foreign host',
            self::Pasted => 'Pasted into text',
            self::AllowedHost => 'Allowed host',
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
            self::NotServed => 'the file is there, but the public site does not give it out',
            self::ForeignGone => 'another host has it no more, does not answer, or gives out no picture',
            self::MissingItem => 'the id names no item of the site’s media list',
            self::MissingRecord => 'the key names no record of the site',
            self::MissingRendition => 'the size asked for does not exist, though its original does',
            self::DeadLink => 'the link leads to no page that a visitor gets',
            self::LetterCase => 'the file differs only in upper and lower case',
            self::UnicodeForm => 'the name looks the same but is made of other characters',
            self::Encoding => 'the file name is what the address says in another encoding',
            self::SameBytes => 'the file has another name now, known by its bytes',
            self::ChangedExtension => 'the file has another extension now',
            self::Moved => 'the file was moved to another folder',
            self::Unreadable => 'no browser accepts the address',
            self::FormerAddress => 'the address is the one that the site had before its move',
            self::ByRedirect => 'the page is reached only because a redirect sends visitors on',
            self::InsecureScheme => 'the address says plain http',
            self::ChangedAbroad => 'another host gives out other bytes than before',
            self::Pasted => 'the picture lies in the text itself, so every page carries all of it',
            self::AllowedHost => 'it comes from another host, and may',
            self::ForeignHost => 'the picture comes from another host',
            self::LetStand => 'somebody decided that it stays as it is',
            self::Found => 'the file is there',
            self::Page => 'it leads to a page of the site',
            self::MediaPage => 'it leads to the page of a media item',
            self::Elsewhere => 'it leads elsewhere',
        };
    }
}
