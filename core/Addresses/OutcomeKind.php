<?php

declare(strict_types=1);

namespace Ylema\Addresses;

/** What came of resolving an address to a file of the site. */
enum OutcomeKind: string
{
    case Found = 'found';
    case FormerAddress = 'former-address';
    case LetterCase = 'letter-case';
    case UnicodeForm = 'unicode-form';
    case Encoding = 'encoding';
    case ChangedExtension = 'changed-extension';
    case SameBytes = 'same-bytes';
    case Moved = 'moved';
    case MissingRendition = 'missing-rendition';
    case MissingFile = 'missing-file';
    case ForeignHost = 'foreign-host';
    case InsecureScheme = 'insecure-scheme';
    case Page = 'page';
    case MediaPage = 'media-page';
    case Elsewhere = 'elsewhere';
    case Unreadable = 'unreadable';

    /** Whether a visitor does not get the file at this address, or gets it in a way that will stop working. */
    public function isFinding(): bool
    {
        return ! in_array($this, [self::Found, self::Page, self::MediaPage, self::Elsewhere], true);
    }

    /** Whether a browser finds nothing there. */
    public function isBroken(): bool
    {
        return in_array($this, [
            self::LetterCase, self::UnicodeForm, self::Encoding, self::ChangedExtension, self::SameBytes, self::Moved, self::MissingRendition,
            self::MissingFile, self::Unreadable,
        ], true);
    }
}
