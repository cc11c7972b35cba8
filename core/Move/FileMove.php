<?php

declare(strict_types=1);

namespace Ylema\Move;

use Generator;
use Ylema\Addresses\PageResolver;
use Ylema\Addresses\SiteAddresses;
use Ylema\Change\Rewriter;
use Ylema\Plan\Brought;
use Ylema\Plan\CannotPlan;
use Ylema\Plan\EditTally;
use Ylema\Plan\Facts;
use Ylema\Plan\HeldFile;
use Ylema\Plan\MediaPlaces;
use Ylema\Plan\Outline;
use Ylema\Plan\PlacedUse;
use Ylema\Plan\RecordEditor;
use Ylema\Plan\Refused;
use Ylema\Plan\Step;
use Ylema\Plan\Steps\ChangeMedia;
use Ylema\Plan\Steps\DropRedirect;
use Ylema\Plan\Steps\MoveFile;
use Ylema\Plan\Steps\Redirect;
use Ylema\Plan\Words;
use Ylema\Reading\CannotEncode;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\PathRule;
use Ylema\Reading\Reading;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;
use Ylema\Repair\Writing;
use Ylema\Sites\WrittenPath;

/**
 * A file or folder goes elsewhere inside the site. First the files move and visitors of the old addresses are sent on,
 * so that no page is ever without its pictures; then the site's list of media and all references follow.
 */
final readonly class FileMove
{
    public function __construct(private MoveRequest $request)
    {
    }

    /** @return Generator<int, Step|Refused, void, Outline> */
    public function plan(Facts $facts): Generator
    {
        $relocation = $this->relocation($facts);
        $files = $redirects = 0;
        $items = $originals = [];
        foreach ($facts->filesAt($this->request->from) as $batch) {
            $targets = $this->targets($batch, $relocation, $facts);
            foreach ($batch as $file) {
                $to = $targets[$file->path] ?? null;
                if ($to !== null) {
                    $files++;
                    $items += $file->item === null ? [] : [$file->item => true];
                    yield new MoveFile($file->path, $to, $file->state);
                }
            }
            if ($this->request->keepsOld) {
                $redirects += yield from $this->redirects($targets, $facts);
            }
        }
        if ($files === 0) {
            throw new CannotPlan("There is nothing at {$this->request->from}. Look up the path on the stage Media.");
        }
        $rows = yield from $this->rows(array_keys($items), $relocation, $facts);
        $tally = yield from $this->edits($relocation, $facts);

        return $this->outline($facts, [$files, $redirects, $rows], $tally);
    }

    private function relocation(Facts $facts): Relocation
    {
        $from = $this->request->from;
        $to = $this->request->to;
        if (! str_ends_with($from, '/')) {
            $to = str_ends_with($to, '/') ? $to.basename($from) : $to;
            if (strcasecmp(pathinfo($from, PATHINFO_EXTENSION), pathinfo($to, PATHINFO_EXTENSION)) !== 0) {
                throw new CannotPlan(
                    'A file keeps its extension when it moves, since that says what is in it. To make another type of '
                        .'it, swap it.',
                );
            }
        }
        if ($from === $to || $to === '' || $from === '' || $from === '/') {
            throw new CannotPlan('Say what moves, and where it goes: two paths below the root of the site.');
        }
        if (str_ends_with($from, '/') && (! str_ends_with($to, '/') || str_starts_with($to, $from))) {
            throw new CannotPlan(
                str_starts_with($to, $from)
                    ? 'A folder cannot go into itself. Name another place for it.'
                    : 'A folder goes to a folder: end both paths with a slash.',
            );
        }
        foreach ([$from, $to] as $path) {
            $isInside = array_filter(
                $facts->mediaFolders(),
                static fn (string $folder): bool => str_starts_with($path, $folder),
            );
            if ($isInside === [] || preg_match('~(?:^|/)\.{1,2}(?:/|$)|//|[\x00-\x1F\\\\]~', $path) === 1) {
                throw new CannotPlan(
                    "$path lies outside of the folders of files that the field map names ("
                        .implode(', ', $facts->mediaFolders()).'), so its files would be lost from sight.',
                );
            }
        }
        if (str_ends_with($from, '/')) {
            return Relocation::ofFolder($from, $to);
        }
        $renditions = [];
        foreach ($facts->filesAt($from) as $batch) {
            foreach ($batch as $file) {
                if ($file->path !== $from) {
                    $renditions[] = $file->path;
                }
            }
        }

        return Relocation::ofFile($from, $to, $renditions);
    }

    /**
     * @param  list<HeldFile>  $batch
     * @return array<string, string> path → new path
     */
    private function targets(array $batch, Relocation $relocation, Facts $facts): array
    {
        $targets = [];
        foreach ($batch as $file) {
            $to = $relocation->of($file->path);
            if ($to !== null && $to !== $file->path) {
                $targets[$file->path] = $to;
            }
        }
        $taken = $facts->taken(array_values($targets));
        foreach ($targets as $to) {
            if (isset($taken[$to])) {
                throw new CannotPlan("There is $to already, and nothing may be written over. Name another place.");
            }
        }

        return $targets;
    }

    /**
     * @param  array<string, string>  $targets
     * @return Generator<int, Redirect|DropRedirect, void, int>
     */
    private function redirects(array $targets, Facts $facts): Generator
    {
        $count = 0;
        $root = rtrim($facts->addresses()->now->path, '/');
        $address = static fn (string $path): string => "$root/".SiteAddresses::encodePath($path);
        $keys = $byKey = [];
        foreach ($targets as $path => $to) {
            $keys[$path] = PageResolver::key((string) $path);
            $byKey[$keys[$path]] = $to;
        }
        $comes = array_fill_keys(array_map(PageResolver::key(...), $targets), true);
        // What led to the old place would lead on twice; and nobody is sent on from where a file lies.
        foreach ($facts->redirectsTo(array_values($keys)) as [$key, $there]) {
            $count++;
            yield new DropRedirect($there->from, $there->to, $there->status, $byKey[$key]);
            if (! isset($comes[$there->from])) {
                yield new Redirect($there->from, $address($byKey[$key]), $there->status, $byKey[$key]);
            }
        }
        $there = $facts->redirects(array_map(strval(...), [...array_values($keys), ...array_keys($comes)]));
        foreach ($targets as $from => $to) {
            $in = $there[PageResolver::key($to)] ?? null;
            if ($in !== null && ! isset($targets[$to])) {
                yield new DropRedirect($in->from, $in->to, $in->status, $to);
            }
            if (! isset($there[$keys[$from]])) {
                $count++;
                yield new Redirect($keys[$from], $address($to), file: $to);
            }
        }

        return $count;
    }

    /**
     * @param  list<int>  $items
     * @return Generator<int, ChangeMedia, void, int>
     */
    private function rows(array $items, Relocation $relocation, Facts $facts): Generator
    {
        $count = 0;
        foreach (array_chunk($items, 250) as $batch) {
            foreach ($facts->mediaPlaces($batch) as $places) {
                $before = array_filter(
                    [
                        'path' => $places->path,
                        'folder' => $places->folder,
                        'renditions' => $places->renditions,
                        ...$places->sizes,
                    ],
                    is_string(...),
                );
                $after = $this->after($places, $relocation);
                $changed = array_diff_assoc($after, $before);
                if ($changed !== []) {
                    $count++;
                    yield new ChangeMedia(
                        $places->id,
                        WrittenPath::of($after['path'] ?? '', $places->schemes)->path,
                        array_intersect_key($before, $changed),
                        $changed,
                        $this->brought($places, $relocation),
                    );
                }
            }
        }

        return $count;
    }

    /** @return array<string, string> path, folder, renditions and sizes by their words */
    private function after(MediaPlaces $places, Relocation $relocation): array
    {
        $path = WrittenPath::of($places->path, $places->schemes)->path;
        $to = $relocation->of($path) ?? $path;
        $after = ['path' => self::moved($places->path, $relocation, $places)];
        foreach ($places->sizes as $word => $size) {
            $after[$word] = self::moved($size, $relocation, $places);
        }
        if ($places->folder !== null) {
            $after['folder'] = trim($places->folder, '/') === dirname($path)
                ? str_replace(dirname($path), dirname($to), $places->folder)
                : $places->folder;
        }
        if ($places->renditions !== null) {
            $after['renditions'] = $this->listed($places->renditions, $relocation, $places);
        }

        return $after;
    }

    /** @return list<string> paths that the row will say, of files that move */
    private function brought(MediaPlaces $places, Relocation $relocation): array
    {
        $written = [$places->path, ...array_values($places->sizes)];
        if ($places->renditions !== null) {
            foreach ($this->inList($places->renditions)->references as $reference) {
                $written[] = $reference->value;
            }
        }

        return array_values(array_filter(array_map(
            static fn (string $one): ?string => $relocation->of(WrittenPath::of($one, $places->schemes)->path),
            $written,
        ), is_string(...)));
    }

    /** A path in the row's own way of writing; as it is where that file stays. */
    private static function moved(string $written, Relocation $relocation, MediaPlaces $places): string
    {
        $path = WrittenPath::of($written, $places->schemes);
        $to = $relocation->of($path->path);
        try {
            return $to === null ? $written : $path->to($to);
        } catch (CannotEncode $e) {
            throw new CannotPlan("The site's list of media cannot follow: {$e->getMessage()}");
        }
    }

    /** The list of renditions, in which nothing but the paths changes. */
    private function listed(string $json, Relocation $relocation, MediaPlaces $places): string
    {
        $reading = $this->inList($json);
        $changes = [];
        foreach ($reading->references as $reference) {
            $changes[] = [$reference, self::moved($reference->value, $relocation, $places)];
        }

        return (new Rewriter())
            ->edits($json, Notation::Json, self::listRules(), $changes, $reading)
            ->applyTo($json);
    }

    private function inList(string $json): Reading
    {
        return (new FieldReader())->read($json, Notation::Json, self::listRules());
    }

    private static function listRules(): Rules
    {
        return new Rules(paths: [new PathRule('[]', Notation::Url), new PathRule('[].path', Notation::Url)]);
    }

    /** @return Generator<int, Step|Refused, void, EditTally> */
    private function edits(Relocation $relocation, Facts $facts): Generator
    {
        $writing = new Writing($facts->addresses());
        $editor = new RecordEditor();
        $tally = new EditTally();
        foreach ($facts->usesAt($this->request->from) as $batch) {
            foreach ($batch as $uses) {
                $own = $uses->with(
                    array_values(
                        array_filter(
                            $uses->uses,
                            static fn (PlacedUse $use): bool => $relocation->of((string) $use->path) !== null,
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
                    ) use ($writing, $relocation, $tally): string {
                        $to = (string) $relocation->of((string) $use->path);
                        $brought->file($to);
                        $new = $writing->value($at, $to, $reading);
                        $tally->note($at->value, $new);

                        return $new;
                    },
                );
                $tally->took($step, $uses->kind, count($own->uses));
                yield $step;
            }
        }

        return $tally;
    }

    /** @param  array{int, int, int}  $counts files, redirects, rows */
    private function outline(Facts $facts, array $counts, EditTally $tally): Outline
    {
        [$files, $redirects, $rows] = $counts;
        $notes = [];
        if ($tally->left() > 0) {
            $notes[] = Words::many($tally->left(), 'reference').' cannot be edited; the steps say why. '
                .($this->request->keepsOld
                    ? 'Visitors are sent on from there.'
                    : 'They will lead nowhere once the files have moved.');
        }
        $names = $facts->unreadNames($this->request->from);
        if ($names['places'] > 0) {
            $notes[] = Words::many($names['places'], 'place').' '.($names['places'] === 1 ? 'names' : 'name').' '
                .Words::many($names['items'], 'item').' of these in a way that is not read, and '
                .($names['places'] === 1 ? 'stays as it is' : 'stay as they are').": {$names['example']}"
                .($names['places'] === 1 ? '.' : ', for one.');
        }
        if ($this->request->keepsOld && ! $facts->keepsRedirects()) {
            $notes[] = 'The site has no table of redirects, so hand the list to its web server (Repairs, Redirects) '
                .'before anybody asks for the old addresses.';
        }

        return new Outline(
            "Move {$this->request->from} to {$this->request->to}",
            implode(', ', array_filter([
                Words::many($files, 'file').' moved',
                $tally->references() > 0 ? $tally->sentence() : '',
                $rows > 0 ? Words::many($rows, 'row').' of the media list' : '',
                $redirects > 0 ? Words::many($redirects, 'old address', 'old addresses').' kept as redirects' : '',
            ])).'.',
            $tally->expectation(),
            array_values(array_unique([...$notes, ...$tally->stamps($facts)])),
            [],
            'repairs/move',
        );
    }
}
