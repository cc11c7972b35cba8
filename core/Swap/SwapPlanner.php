<?php

declare(strict_types=1);

namespace Ylema\Swap;

use Ylema\Addresses\MediaPages;
use Ylema\Addresses\SiteAddresses;
use Ylema\Change\EditConflict;
use Ylema\Change\Edits;
use Ylema\Change\Rewriter;
use Ylema\Imaging\PictureFile;
use Ylema\Imaging\RenditionChoice;
use Ylema\Reading\CannotEncode;
use Ylema\Reading\Names;

/** Plans "every chosen place that shows this item shall show that one": facts in, edits out, nothing written. */
final readonly class SwapPlanner
{
    public function __construct(
        private SiteAddresses $addresses,
        private Rewriter $rewriter = new Rewriter,
        private ?MediaPages $pages = null,
    ) {
    }

    /**
     * @return Edits for the field's text
     *
     * @throws CannotEncode|EditConflict when the field cannot be edited safely; the message says why
     */
    public function field(FieldUses $uses, MediaFacts $from, MediaFacts $to): Edits
    {
        $changes = [];
        foreach ($uses->uses as [$reference, $path]) {
            $changes[] = [$reference, match (true) {
                $reference->names === Names::MediaItem => $to->id,
                // A link to the item's page goes on leading to a page.
                $path === null && $to->id !== '' => $this->pages?->withId($reference->value, $to->id) ?? $this->address($reference->value, $to->original()->path),
                default => $this->address($reference->value, $this->replacement($path, $from, $to)->path),
            }];
        }

        return $this->rewriter->edits($uses->field->text, $uses->field->notation, $uses->field->rules, $changes);
    }

    /** The file that stands in for the one at $path; a path that is no file of the item (a missing size) gets the original. */
    public function replacement(?string $path, MediaFacts $from, MediaFacts $to): PictureFile
    {
        $old = $path === null ? null : $from->file($path);

        return $old === null ? $to->original() : RenditionChoice::for($old, $to->files);
    }

    private function address(string $old, string $path): string
    {
        return $this->addresses->writeLike($old, $path);
    }
}
