<?php

declare(strict_types=1);

namespace Ylema\Addresses;

/**
 * The result of resolving one address: which file it serves, or which it most likely means and why it does not serve
 * it.
 */
final readonly class Outcome
{
    /**
     * @param  string|null  $path the file served, or the one meant where `kind` says that it is not served
     * @param  list<string>  $candidates other files it may mean
     * @param  string|null  $asked the path asked for, or the whole address where it is none of the site's
     * @param  string|null  $item the media item's id in the site's own list, where the address leads to its page
     */
    public function __construct(
        public OutcomeKind $kind,
        public ?string $path = null,
        public array $candidates = [],
        public ?string $asked = null,
        public ?string $item = null,
    ) {
    }

    public function sentence(): string
    {
        return match ($this->kind) {
            OutcomeKind::Found => "Serves {$this->path}.",
            OutcomeKind::FormerAddress => "Points at the site's former address; it is {$this->path} now.",
            OutcomeKind::LetterCase => "No file is spelt {$this->asked}; {$this->path} differs only in upper and "
                .'lower case.',
            OutcomeKind::UnicodeForm => "No file is spelt {$this->asked}; {$this->path} looks the same but is "
                .'composed of other characters.',
            OutcomeKind::Encoding => "No file is spelt {$this->asked}; {$this->path} is what it says in another "
                .'encoding.',
            OutcomeKind::ChangedExtension => "There is no {$this->asked}; the same name lies there as {$this->path}.",
            OutcomeKind::SameBytes => "There is no {$this->asked} any more; {$this->path} holds the same bytes.",
            OutcomeKind::Moved => "There is no {$this->asked}; a file of the same name lies at {$this->path}.",
            OutcomeKind::MissingRendition => "The size {$this->asked} does not exist; its original {$this->path} does.",
            OutcomeKind::DeadLink => match (true) {
                $this->path !== null => "There is no page at /{$this->asked} any more; it is at /{$this->path} now.",
                $this->candidates !== [] => "There is no page at /{$this->asked}; others have like words in their "
                    .'address.',
                default => "There is no page at /{$this->asked}.",
            },
            OutcomeKind::ByRedirect => "A redirect leads from /{$this->asked} to "
                .(preg_match('~^https?://~', (string) $this->path) === 1 ? $this->path : "/{$this->path}").'.',
            OutcomeKind::MissingFile => $this->candidates === []
                ? "There is no file {$this->asked}."
                : "There is no file {$this->asked}; ".count($this->candidates).' files elsewhere have its name.',
            OutcomeKind::NotServed => "The file {$this->asked} is there, but the public site did not give it out when it "
                .'was last asked.',
            OutcomeKind::ForeignGone => 'Another host does not give it out any more.',
            OutcomeKind::Pasted => 'Lies in the text itself; every page that shows it carries all of it.',
            OutcomeKind::ChangedAbroad => 'Another host gives out other bytes than when it was first seen.',
            OutcomeKind::AllowedHost => 'Is fetched from another host, which was allowed.',
            OutcomeKind::ForeignHost => 'Is fetched from another host.',
            OutcomeKind::InsecureScheme => "Asks for {$this->path} over plain http.",
            OutcomeKind::EmptyFile => "The file {$this->asked} is there but empty (0 bytes).",
            OutcomeKind::MissingItem => $this->asked === null
                ? 'Names no item of the media list.'
                : "The media list has no item {$this->asked}.",
            OutcomeKind::MissingRecord => $this->asked === null
                ? 'Names no record of the site.'
                : "There is no record {$this->asked}.",
            OutcomeKind::MediaPage => $this->item === null
                ? 'Leads to the page of a media item.'
                : "Leads to the page of the media item {$this->item}.",
            OutcomeKind::LetStand => 'Somebody decided that it stays as it is.',
            OutcomeKind::Page => 'Leads to a page of the site.',
            OutcomeKind::Elsewhere => 'Leads elsewhere.',
            OutcomeKind::Unreadable => 'Is not an address that a browser accepts.',
        };
    }
}
