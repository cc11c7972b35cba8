<?php

declare(strict_types=1);

namespace Ylema\Retire;

use Generator;
use Ylema\Addresses\PageResolver;
use Ylema\Plan\CannotPlan;
use Ylema\Plan\Facts;
use Ylema\Plan\Idle;
use Ylema\Plan\IdleFile;
use Ylema\Plan\Outline;
use Ylema\Plan\Planner;
use Ylema\Plan\Refused;
use Ylema\Plan\Steps\Belongings;
use Ylema\Plan\Steps\Redirect;
use Ylema\Plan\Steps\RemoveMedia;
use Ylema\Plan\Steps\RestFile;
use Ylema\Plan\Words;

/**
 * Lays files to rest that nothing needs: first the files, then the rows of the site's own list, so that a plan that
 * ends in its middle leaves rows without files rather than files that no row knows.
 */
final readonly class RestPlanner implements Planner
{
    public function __construct(public RestRequest $request)
    {
    }

    public static function kind(): string
    {
        return 'rest';
    }

    public static function of(array $request): self
    {
        return new self(RestRequest::fromArray($request));
    }

    public function request(): array
    {
        return $this->request->toArray();
    }

    public function plan(Facts $facts): Generator
    {
        $items = $files = $bytes = $rows = $asked = $left = 0;
        $redraws = ['alike' => 0, 'not' => 0, 'untried' => 0];
        $sizes = $this->request->which->isOfRenditions();
        $until = $facts->restsUntil();
        foreach ($facts->idle($this->request->which) as $batch) {
            $resting = $paths = [];
            foreach ($batch as $idle) {
                $why = $this->mustStay($idle);
                $left += $why === null ? 0 : 1;
                $asked += $why === null && $idle->why !== null ? 1 : 0;
                if ($sizes && $why === null) {
                    $idle = self::tried($idle, $facts->canRedraw($idle), $redraws);
                }
                if ($idle->files === [] && $idle->row !== null && $why !== null) {
                    yield new Refused(new RemoveMedia($idle->path, $idle->row), $why);
                }
                foreach ($idle->files as $file) {
                    $step = new RestFile($file->path, $file->state, $until, self::belongings($idle, $file));
                    yield $why === null ? $step : new Refused($step, $why);
                    if ($why !== null) {
                        // One line for the item says it all.
                        break;
                    }
                    $files++;
                    $bytes += $file->state->size;
                    $paths[] = $file->path;
                }
                if ($why === null) {
                    $items++;
                    $resting[] = $idle;
                }
            }
            foreach ($sizes ? [] : $resting as $idle) {
                if ($idle->row !== null) {
                    $rows++;
                    yield new RemoveMedia($idle->path, $idle->row, files: $idle->paths());
                }
            }
            yield from $this->redirects($paths, $facts);
        }
        if ($files + $rows + $left === 0) {
            throw new CannotPlan(
                $sizes
                    ? 'There is no such rendition, or something needs each of them.'
                    : 'Nothing of what was chosen is there to be laid to rest. Read the site again, or choose '
                        .'otherwise.',
            );
        }

        return $this->outline($until, [$items, $files, $bytes, $rows, $asked, $left], $redraws);
    }

    /**
     * Whether it can be drawn again goes with it, for whoever wonders later.
     *
     * @param  array{alike: int, not: int, untried: int}  $redraws
     */
    private static function tried(Idle $idle, ?bool $isAlike, array &$redraws): Idle
    {
        $redraws[$isAlike === null ? 'untried' : ($isAlike ? 'alike' : 'not')]++;
        $line = [
            'source' => 'redraw',
            'says' => ($isAlike === null ? Says::NotKnown : ($isAlike ? Says::For : Says::Against))->value,
            'sentence' => match ($isAlike) {
                null => 'Whether it can be drawn again was not tried.',
                true => 'It can be drawn again from its original, and looks the same.',
                false => 'It cannot be drawn again from its original so that it looks the same.',
            },
            'at' => null,
        ];

        return $idle->with([...$idle->proof, $line]);
    }

    private function mustStay(Idle $idle): ?string
    {
        return match (true) {
            $idle->why === null => null,
            $idle->isNeeded => "It is needed. $idle->why",
            $this->request->asks => null,
            default => "Ask first. $idle->why",
        };
    }

    private static function belongings(Idle $idle, IdleFile $file): Belongings
    {
        return new Belongings(
            $idle->path,
            $idle->title,
            $file->mime,
            $file->pixels,
            $file->isOriginal ? $idle->row : null,
            $file->isOriginal || ($idle->files[0] ?? null) === $file ? $idle->proof : [],
        );
    }

    /**
     * @param  list<string>  $paths
     * @return Generator<int, Redirect>
     */
    private function redirects(array $paths, Facts $facts): Generator
    {
        if ($this->request->to === null || $paths === []) {
            return;
        }
        $there = $facts->redirects(array_map(PageResolver::key(...), $paths));
        foreach ($paths as $path) {
            $key = PageResolver::key($path);
            if (! isset($there[$key])) {
                yield new Redirect($key, $this->request->to);
            }
        }
    }

    /**
     * @param  array{int, int, int, int, int, int}  $counts
     * @param  array{alike: int, not: int, untried: int}  $redraws
     */
    private function outline(string $until, array $counts, array $redraws): Outline
    {
        [$items, $files, $bytes, $rows, $asked, $left] = $counts;
        $sizes = $this->request->which->isOfRenditions();
        $notes = [
            'Each file leaves the public tree and is kept whole, with its mode, owner and time, until '
            .$until.
            ' at least. Restoring one, some or all of them gives back every byte.',
            $this->request->to === null
                ? 'Whoever asks for one of the old addresses gets the site’s own "not found".'
                : "Whoever asks for one of the old addresses is sent on to {$this->request->to}.",
        ];
        if ($sizes) {
            array_push($notes, ...self::redrawn($redraws));
        }
        if ($rows > 0) {
            $notes[] =
                Words::many($rows, 'row')
                .' of the site’s own list of media '
                .($rows === 1 ? 'goes' : 'go')
                .' along, with every column, and '
                .($rows === 1 ? 'comes' : 'come')
                .' back with the same id.';
        } elseif (! $sizes && $files > 0) {
            $notes[] = 'The site’s own list of media is left as it is.';
        }
        if ($asked > 0) {
            $notes[] =
                Words::many($asked, 'item')
                .' should be asked about first; you chose to lay '
                .($asked === 1 ? 'it' : 'them')
                .' to rest as well.';
        }
        if ($left > 0) {
            $notes[] =
                Words::many($left, $sizes ? 'rendition' : 'item')
                .' '
                .($left === 1 ? 'stays' : 'stay')
                .': the list says why.';
        }

        return new Outline(
            $sizes
                ? 'Renditions that nothing names are laid to rest'
                : ($items === 1
                    ? 'An idle item is laid to rest'
                    : 'Idle items are laid to rest'),
            ($sizes ? '' : Words::many($items, 'item').', ').
                Words::many($files, 'file')
                .', '
                .self::weight($bytes)
                .' leave the public tree'
                .($rows > 0 ? '; '.Words::many($rows, 'media row') : '')
                .'.',
            notes: $notes,
        );
    }

    /**
     * @param  array{alike: int, not: int, untried: int}  $redraws
     * @return list<string>
     */
    private static function redrawn(array $redraws): array
    {
        return array_values(
            array_filter([
                $redraws['alike'] > 0
                    ? Words::many($redraws['alike'], 'rendition').' can be drawn again from '
                        .($redraws['alike'] === 1 ? 'its original' : 'their originals').'; that was tried and compared.'
                    : '',
                $redraws['not'] > 0
                    ? Words::many($redraws['not'], 'rendition').' could not be drawn again so that '
                        .($redraws['not'] === 1 ? 'it looks' : 'they look').' the same: somebody may have made '
                        .($redraws['not'] === 1 ? 'it' : 'them').' by hand.'
                    : '',
                $redraws['untried'] > 0
                    ? Words::many($redraws['untried'], 'rendition').' '
                        .($redraws['untried'] === 1 ? 'was' : 'were').' not tried.'
                    : '',
                'Sizes that the site’s own code picks by an item’s number cannot be known from content; the survey and '
                    .'the access log were asked for them.',
            ]),
        );
    }

    private static function weight(int $bytes): string
    {
        return $bytes < 1_000_000
            ? number_format($bytes / 1000).' kB'
            : number_format($bytes / 1_000_000, $bytes < 10_000_000 ? 1 : 0).' MB';
    }
}
