<?php

declare(strict_types=1);

namespace Ylema\Addresses;

/**
 * The result of resolving one address: which file it serves, or which it most likely means and why it does not serve it.
 */
final readonly class Outcome
{
    /**
     * @param  string|null  $path the file served, or the one meant where `kind` says that it is not served
     * @param  list<string>  $candidates other files it may mean
     */
    public function __construct(
        public OutcomeKind $kind,
        public ?string $path = null,
        public array $candidates = [],
        public ?string $asked = null,
    ) {
    }

    public function sentence(): string
    {
        return match ($this->kind) {
            OutcomeKind::Found => "Serves {$this->path}.",
            OutcomeKind::FormerAddress => "Points at the site's former address; the file is {$this->path} now.",
            OutcomeKind::LetterCase => "No file is spelt {$this->asked}; {$this->path} differs only in upper and lower case.",
            OutcomeKind::UnicodeForm => "No file is spelt {$this->asked}; {$this->path} looks the same but is composed of other characters.",
            OutcomeKind::Moved => "There is no {$this->asked}; a file of the same name lies at {$this->path}.",
            OutcomeKind::MissingRendition => "The size {$this->asked} does not exist; its original {$this->path} does.",
            OutcomeKind::MissingFile => "There is no file {$this->asked}.",
            OutcomeKind::ForeignHost => 'Is fetched from another host.',
            OutcomeKind::InsecureScheme => "Asks for {$this->path} over plain http.",
            OutcomeKind::Page => 'Leads to a page of the site.',
            OutcomeKind::Elsewhere => 'Leads elsewhere.',
            OutcomeKind::Unreadable => 'Is not an address that a browser accepts.',
        };
    }
}
