<?php

declare(strict_types=1);

namespace Ylema\Retire;

use Generator;
use Ylema\Imaging\MediaType;
use Ylema\Imaging\UploadRefused;
use Ylema\Plan\CannotPlan;
use Ylema\Plan\Drawing;
use Ylema\Plan\Facts;
use Ylema\Plan\KeptFile;
use Ylema\Plan\LostSize;
use Ylema\Plan\Outline;
use Ylema\Plan\Planner;
use Ylema\Plan\Refused;
use Ylema\Plan\Steps\WriteFile;
use Ylema\Plan\Words;
use Ylema\Sites\FileState;

/** Draws renditions again that a row lists or a reference names, and that are not there. */
final readonly class RedrawPlanner implements Planner
{
    public function __construct(public RedrawRequest $request)
    {
    }

    public static function kind(): string
    {
        return 'redraw';
    }

    public static function of(array $request): self
    {
        return new self(RedrawRequest::fromArray($request));
    }

    public function request(): array
    {
        return $this->request->toArray();
    }

    public function plan(Facts $facts): Generator
    {
        $drawn = $left = $bytes = 0;
        $of = 0;
        $original = null;
        foreach ($facts->lostSizes($this->request->item, $this->request->width) as $batch) {
            foreach ($batch as $lost) {
                if ($this->request->paths !== [] && ! in_array($lost->path, $this->request->paths, true)) {
                    continue;
                }
                if ($of !== $lost->media->item) {
                    [$of, $original] = [$lost->media->item, $facts->original($lost->media)];
                }
                $step = $this->step($lost, $original, $facts);
                $step instanceof Refused ? $left++ : $drawn++;
                $bytes += $step instanceof WriteFile ? $step->after->size : 0;
                yield $step;
            }
        }
        if ($drawn + $left === 0) {
            throw new CannotPlan('No rendition of these is missing, so there is nothing to draw.');
        }
        $notes = ['Each is drawn from its original, and never larger than it.'];
        if ($left > 0) {
            $notes[] = Words::many($left, 'rendition').' cannot be drawn: the list says why.';
        }

        return new Outline(
            'Missing renditions are drawn again',
            Words::many($drawn, 'new file').', '.number_format($bytes / 1000).' kB.',
            notes: $notes,
        );
    }

    private function step(LostSize $lost, ?KeptFile $original, Facts $facts): WriteFile|Refused
    {
        $none = new WriteFile($lost->path, null, new FileState('', 0), $lost->size);
        $why = match (true) {
            $lost->size === null => 'Nothing says which size it had. Upload it, or take its references out.',
            $original === null || ! $lost->media->hasOriginal => 'Its original is missing, too.',
            ! $original->isDrawable || $original->pixels === null => 'Nothing can be drawn from its original.',
            $lost->size->width > $original->pixels->width || $lost->size->height > $original->pixels->height => 'Its '
                ."original has only $original->pixels pixels, and nothing is drawn larger than it is.",
            default => null,
        };
        if ($why !== null || $original === null || $lost->size === null) {
            return new Refused($none, (string) $why);
        }
        try {
            return new WriteFile($lost->path, null, $facts->draw(self::drawing($lost, $original)), $lost->size);
        } catch (UploadRefused $e) {
            return new Refused($none, $e->getMessage());
        }
    }

    private static function drawing(LostSize $lost, KeptFile $original): Drawing
    {
        $media = $lost->media;

        return new Drawing(
            $original->sha256,
            $lost->size ?? throw new CannotPlan('A rendition without a size cannot be drawn.'),
            MediaType::extension($lost->path),
            $media->focusX,
            $media->focusY,
        );
    }
}
