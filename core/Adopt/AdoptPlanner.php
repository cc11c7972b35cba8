<?php

declare(strict_types=1);

namespace Ylema\Adopt;

use Generator;
use Ylema\Addresses\OutcomeKind;
use Ylema\Imaging\MediaType;
use Ylema\Imaging\UploadRefused;
use Ylema\Plan\Brought;
use Ylema\Plan\CannotPlan;
use Ylema\Plan\Drawing;
use Ylema\Plan\EditTally;
use Ylema\Plan\Facts;
use Ylema\Plan\ForeignPicture;
use Ylema\Plan\Outline;
use Ylema\Plan\PlacedUse;
use Ylema\Plan\Planner;
use Ylema\Plan\RecordEditor;
use Ylema\Plan\RecordUses;
use Ylema\Plan\Step;
use Ylema\Plan\Steps\AddMedia;
use Ylema\Plan\Steps\WriteFile;
use Ylema\Plan\Words;
use Ylema\Reading\Reading;
use Ylema\Reading\Reference;
use Ylema\Repair\Writing;
use Ylema\Sites\FileState;
use Ylema\Swap\NewItem;

/** Plans "these pictures come home": each becomes an item of the site, and the places that named it name that. */
final readonly class AdoptPlanner implements Planner
{
    /** Each new row is promised by this and its path. */
    private const PROMISE = 'adopted ';

    /** Reasons that are said one by one. */
    private const REASONS = 6;

    public function __construct(private AdoptRequest $request)
    {
    }

    public static function kind(): string
    {
        return 'adopt';
    }

    public static function of(array $request): self
    {
        return new self(AdoptRequest::fromArray($request));
    }

    public function request(): array
    {
        return $this->request->toArray();
    }

    public function plan(Facts $facts): Generator
    {
        $home = new Home($facts->homeFolder(), $facts->usualWidths());
        foreach ($this->request->hosts === [] ? [] : $facts->foreignPictures($this->request->hosts) as $batch) {
            $here = $facts->sameBytes(array_map(static fn (ForeignPicture $p): string => $p->file->sha256, $batch));
            foreach ($batch as $picture) {
                yield from $this->settle($picture, $here, $home, $facts);
            }
        }
        $writing = new Writing($facts->addresses());
        $editor = new RecordEditor();
        $tally = new EditTally();
        $reasons = [];
        foreach ($facts->foreignUses($this->request->hosts, $this->request->pasted) as $batch) {
            foreach ($batch as $uses) {
                if ($this->request->pasted) {
                    $reasons += yield from $this->unpack($uses, $editor, $home, $facts);
                }
                $own = $uses->with(
                    array_values(
                        array_filter(
                            $uses->uses,
                            static fn (PlacedUse $use): bool => $home->of((string) $use->finding?->asked) !== null,
                        ),
                    ),
                );
                if ($own->uses === []) {
                    continue;
                }
                $step = $editor->edit(
                    $own,
                    static function (
                        Reference $at,
                        PlacedUse $use,
                        Reading $reading,
                        Brought $brought,
                    ) use ($writing, $home, $tally): string {
                        $path = (string) $home->of((string) $use->finding?->asked);
                        $brought->file($path);
                        $brought->row(self::PROMISE.$path);
                        $new = $writing->home($at, $path, $reading);
                        // No page is searched for the bytes of a whole picture.
                        if (strlen($at->value) < 2000) {
                            $tally->note($at->value, $new);
                        }

                        return $new;
                    },
                );
                $tally->took($step, $uses->kind, count($own->uses));
                yield $step;
            }
        }
        if ($tally->isEmpty()) {
            throw new CannotPlan(
                $reasons === []
                    ? 'No picture of these hosts was fetched, or nothing names one any more. Fetch them first.'
                    : 'None of these pictures can be taken: '.implode(' ', array_slice($reasons, 0, self::REASONS)),
            );
        }
        $notes = [];
        if ($tally->left() > 0) {
            $notes[] = Words::many($tally->left(), 'reference').' cannot be edited; the steps say why.';
        }
        if ($reasons !== []) {
            $notes[] = Words::many(count($reasons), 'picture').' in the text cannot be taken: '
                .implode(' ', array_slice($reasons, 0, self::REASONS));
        }
        $whose = array_filter([
            implode(', ', array_slice($this->request->hosts, 0, 3)).(count($this->request->hosts) > 3 ? ' …' : ''),
            $this->request->pasted ? 'the text itself' : '',
        ]);

        return new Outline(
            'Bring home from '.implode(' and ', $whose),
            implode(', ', array_filter([
                $home->added > 0 ? Words::many($home->added, 'new item') : '',
                $home->reused > 0
                    ? Words::many($home->reused, 'picture that is here already', 'pictures that are here already')
                    : '',
                $tally->sentence(),
            ])).'.',
            $tally->expectation(),
            array_values(array_unique([...$notes, ...$tally->stamps($facts)])),
            [],
            'repairs/hosts',
        );
    }

    /**
     * @param  array<string, string>  $here hash → path of a file of the site with these bytes
     * @return Generator<int, Step>
     */
    private function settle(ForeignPicture $picture, array $here, Home $home, Facts $facts): Generator
    {
        $there = $here[$picture->file->sha256] ?? null;
        if ($there !== null) {
            $home->reuse($picture->url, $there);
        } elseif (! $home->again($picture->url, $picture->file->sha256)) {
            $item = NewItem::in($home->folder, $picture->file, $home->widths, $facts, $home->claimed);
            $home->add($picture->url, $picture->file->sha256, $item);
            yield new WriteFile(
                $item->path,
                null,
                new FileState($picture->file->sha256, $picture->file->weight),
                $picture->file->pixels,
            );
            foreach ($item->renditions as $path => $size) {
                yield new WriteFile(
                    (string) $path,
                    null,
                    $facts->draw(new Drawing($picture->file->sha256, $size, MediaType::extension((string) $path))),
                    $size,
                );
            }
            yield new AddMedia(
                $item->media('', $picture->alt, $picture->caption, $picture->credit),
                self::PROMISE.$item->path,
            );
        }
    }

    /**
     * The pictures that lie in a record's own text become files.
     *
     * @return Generator<int, Step, void, array<string, string>> those that cannot, with the reason
     */
    private function unpack(RecordUses $uses, RecordEditor $editor, Home $home, Facts $facts): Generator
    {
        $found = $reasons = [];
        $pasted = $uses->with(
            array_values(
                array_filter(
                    $uses->uses,
                    static fn (PlacedUse $use): bool => $use->finding?->kind === OutcomeKind::Pasted
                        && $home->of((string) $use->finding->asked) === null,
                ),
            ),
        );
        if ($pasted->uses === []) {
            return [];
        }
        $editor->edit($pasted, static function (Reference $at, PlacedUse $use) use (&$found): string {
            $asked = (string) $use->finding?->asked;
            // Of several places, one that has words for it.
            if (($found[$asked][1]->attributes['alt'] ?? '') === '') {
                $found[$asked] = [$at->value, $at->context()];
            }

            return $at->value;
        });
        foreach ($found as $asked => [$value, $context]) {
            $alt = mb_strcut(trim($context->attributes['alt'] ?? ''), 0, 250);
            $data = DataUri::parse($value);
            try {
                $file = $data === null
                    ? throw new UploadRefused('A picture in the text is damaged: it cannot be unpacked.')
                    : $facts->keep($data->bytes, $alt === '' ? 'pasted picture' : $alt);
                yield from $this->settle(
                    new ForeignPicture((string) $asked, $file, $alt, (string) $context->caption),
                    $facts->sameBytes([$file->sha256]),
                    $home,
                    $facts,
                );
            } catch (UploadRefused $e) {
                $reasons[(string) $asked] = $e->getMessage();
            }
        }

        return $reasons;
    }
}
