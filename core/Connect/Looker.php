<?php

declare(strict_types=1);

namespace Ylema\Connect;

use Ylema\Addresses\MediaPages;
use Ylema\Addresses\Resolver;
use Ylema\Addresses\SiteAddresses;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Readers\Addresses;
use Ylema\Reading\Rules;

/** Tells by the values of a column which notation they are in, and whether they name files of the site. */
final readonly class Looker
{
    /** Of the values that say something, so many must agree before a notation is proposed by them. */
    private const ENOUGH = 0.3;

    private FieldReader $reader;

    private Rules $rules;

    /** @param  MediaPages|null  $pages addresses at which the site's own code gives its media out by their ids */
    public function __construct(
        private SiteAddresses $addresses,
        private FileLookup $files,
        private OwnAddresses $own,
        private ?MediaPages $pages = null,
    ) {
        $this->reader = new FieldReader();
        $rules = $own->rules();
        $this->rules = $pages === null ? $rules : $rules->with(mediaFolders: [
            ...$rules->mediaFolders,
            ...array_map(static fn (string $begin): string => "/$begin", $pages->folders()),
        ]);
    }

    /** @param  list<string>  $values */
    public function look(array $values): Look
    {
        foreach (Unpacking::cases() as $packing) {
            $unpacked = $packing->texts($values);
            if ($unpacked !== null) {
                return $this->plainly($unpacked, $packing->value);
            }
        }

        return $this->plainly($values, null);
    }

    /** @param  list<string>  $values */
    private function plainly(array $values, ?string $packed): Look
    {
        $found = $used = $folders = [];
        foreach ($values as $value) {
            [$notation, $uses, $below] = $this->one($value);
            if ($notation === null) {
                continue;
            }
            $name = $notation->value;
            $found[$name] = ($found[$name] ?? 0) + 1;
            $used[$name] = ($used[$name] ?? 0) + ($uses > 0 ? 1 : 0);
            foreach ($below as $folder) {
                $folders[$folder] = ($folders[$folder] ?? 0) + 1;
            }
        }
        if ($found === []) {
            return new Look(null, count($values));
        }
        $notation = $this->chosen($found);
        [$fit, $met] = $notation === null ? [0, 0] : [$found[$notation->value] ?? 0, $used[$notation->value] ?? 0];
        if ($notation === null || ($fit < self::ENOUGH * count($values) && $met === 0)) {
            return new Look(null, count($values));
        }
        arsort($folders);
        $bare =
            in_array($notation, [Notation::Url, Notation::Addresses], true) && $folders !== []
                ? (string) array_key_first($folders)
                : null;
        [$paths, $numbers] = in_array($notation, [Notation::Json, Notation::PhpSerialized], true)
            ? $this->inside($values, $notation)
            : [[], []];

        return new Look(
            $notation, count($values), $fit, $met, $bare === '' ? null : $bare, $paths, $numbers, $packed,
        );
    }

    /** @return list<string> the texts inside of a structured value; else the value itself */
    public function leaves(string $value): array
    {
        $text = ltrim($value);
        $data = match (true) {
            preg_match('~^[\[{]~', $text) === 1 => json_decode($text, true),
            preg_match('~^(?:a:\d+:\{|O:\d+:")~', $text) === 1 => @unserialize($text, ['allowed_classes' => false]),
            default => null,
        };
        if (! is_array($data)) {
            return [$value];
        }
        $leaves = [];
        array_walk_recursive($data, static function (mixed $leaf) use (&$leaves): void {
            if (is_string($leaf)) {
                $leaves[] = $leaf;
            }
        });

        return $leaves;
    }

    /**
     * Where some values are of one notation and some of another, what holds the others is the safer one.
     *
     * @param  array<string, int>  $found
     */
    private function chosen(array $found): ?Notation
    {
        foreach ([Notation::PhpSerialized, Notation::Json] as $structured) {
            if (($found[$structured->value] ?? 0) * 2 >= array_sum($found)) {
                return $structured;
            }
        }
        foreach ([Notation::Html, Notation::Markdown, Notation::Css] as $text) {
            if (isset($found[$text->value])) {
                return $text;
            }
        }
        if (isset($found[Notation::Addresses->value])) {
            // What reads several reads one as well.
            return Notation::Addresses;
        }
        arsort($found);

        return Notation::tryFrom((string) array_key_first($found));
    }

    /** @return array{Notation|null, int, list<string>} notation, files that exist in it, folders before a bare path */
    private function one(string $value): array
    {
        $text = trim($value);
        // An array of PostgreSQL's: `{/a.jpg,/b.jpg}`.
        if (preg_match('~^\{[^{}:]+\}$~', $text) === 1) {
            return $this->array($text);
        }
        $notation = match (true) {
            preg_match('~^(?:a:\d+:\{|O:\d+:"|s:\d+:")~', $text) === 1 => Notation::PhpSerialized,
            preg_match('~^[\[{]~', $text) === 1 && is_array(json_decode($text, true)) => Notation::Json,
            preg_match('~<[a-z][a-z0-9-]*(?:\s[^<>]*)?/?>|<!--~i', $text) === 1 => Notation::Html,
            preg_match('~!\[[^\]]*\]\(|\]\((?:/|https?:)~', $text) === 1 => Notation::Markdown,
            preg_match('~\{[^{}]*url\(~i', $text) === 1 => Notation::Css,
            default => null,
        };
        if ($notation !== null) {
            return [$notation, $this->existing($text, $notation), []];
        }
        if (str_contains($text, "\n")) {
            return $this->lines($text);
        }
        if (strlen($text) > 2000) {
            return $this->plain($text);
        }
        if ($this->exists($text)) {
            return [Notation::Url, 1, []];
        }
        $list = Addresses::notation($text);
        if ($list === Notation::Srcset || $list === Notation::Addresses) {
            $folders = $list === Notation::Addresses ? $this->folders($text) : [];

            return [$list, $this->existing($text, $list) + count($folders), $folders];
        }
        $folders = Resolver::hasMediaType($text) ? $this->files->foldersFor(rawurldecode($text)) : [];
        if ($folders !== []) {
            return [Notation::Url, 1, array_values(array_filter($folders, static fn (string $f): bool => $f !== ''))];
        }

        // An address that leads somewhere is one as well, though to no file.
        return preg_match('~^(?:https?:)?//[^\s/]+|^/[^\s]*$~i', $text) === 1
            ? [Notation::Url, 0, []]
            : $this->plain($text);
    }

    /** @return array{Notation|null, int, list<string>} */
    private function array(string $text): array
    {
        $uses = 0;
        $folders = [];
        foreach (preg_split('~"?\s*,\s*"?~', trim($text, '{}" ')) ?: [] as $one) {
            [$notation, $own, $below] = $this->one($one);
            if ($notation !== Notation::Url) {
                return [null, 0, []];
            }
            $uses += $own;
            array_push($folders, ...$below);
        }

        return [Notation::Addresses, $uses, array_values(array_unique($folders))];
    }

    /** @return array{Notation|null, int, list<string>} */
    private function lines(string $text): array
    {
        $uses = 0;
        $folders = [];
        foreach (preg_split('~\s*\n\s*~', $text, -1, PREG_SPLIT_NO_EMPTY) ?: [] as $line) {
            // One line that is no address makes it a text.
            if (strlen($line) > 500 || preg_match('~\s~', $line) === 1 || ! Resolver::hasMediaType($line)) {
                return $this->plain($text);
            }
            [$notation, $own, $below] = $this->one($line);
            if ($notation !== Notation::Url) {
                return $this->plain($text);
            }
            $uses += $own;
            array_push($folders, ...$below);
        }

        return [Notation::Url, $uses, array_values(array_unique($folders))];
    }

    /**
     * Plain words among which addresses of files stand.
     *
     * @return array{Notation|null, int, list<string>}
     */
    private function plain(string $text): array
    {
        $uses = preg_match('~[/.]\w+\.\w{2,5}~', $text) === 1 ? $this->existing($text, Notation::Text) : 0;

        return $uses > 0 ? [Notation::Text, $uses, []] : [null, 0, []];
    }

    /** @return list<string> */
    private function folders(string $list): array
    {
        $folders = [];
        foreach ($this->reader->read($list, Notation::Addresses, $this->rules)->references as $one) {
            if (! $this->exists($one->value)) {
                array_push($folders, ...array_filter(
                    $this->files->foldersFor(rawurldecode($one->value)),
                    static fn (string $folder): bool => $folder !== '',
                ));
            }
        }

        return array_values(array_unique($folders));
    }

    private function existing(string $text, Notation $notation): int
    {
        $count = 0;
        foreach ($this->reader->read($text, $notation, $this->rules)->references as $reference) {
            $count += $this->exists($reference->value) ? 1 : 0;
        }

        return $count;
    }

    private function exists(string $value): bool
    {
        // A bare word is a name, and no address that somebody meant.
        if (preg_match('~[/.]~', $value) !== 1) {
            return false;
        }
        $place = $this->addresses->locate($value);
        $path = $this->own->pathOf($value) ?? $place?->path;

        return $path !== null && ($this->files->has($path) || $this->files->has(rawurldecode($path))
            || ($place !== null && $this->pages?->idOf($place) !== null));
    }

    /**
     * @param  list<string>  $values
     * @return array{array<string, array{notation: Notation, below?: string}>, array<string, list<string>>}
     */
    private function inside(array $values, Notation $notation): array
    {
        $leaves = [];
        foreach ($values as $value) {
            $data =
                $notation === Notation::Json
                    ? json_decode($value, true)
                    : @unserialize($value, ['allowed_classes' => false]);
            if (is_array($data)) {
                self::inner($data, '', $notation === Notation::PhpSerialized, $leaves);
            }
        }
        $paths = $numbers = [];
        foreach ($leaves as $path => $texts) {
            $whole = preg_grep('~^(?:[1-9]\d{0,17}|[0-9a-f-]{16,36}|[\w-]{20,40})$~i', $texts) ?: [];
            if (count($whole) === count($texts)) {
                $numbers[$path] = array_values(array_unique($texts));

                continue;
            }
            $look = $this->look($texts);
            // What is an address from the root or markup is seen without being told.
            if ($look->below !== null && $look->used > 0 && $look->notation !== null) {
                $paths[$path] = ['notation' => $look->notation, 'below' => $look->below];
            }
        }

        return [$paths, $numbers];
    }

    /**
     * @param  array<mixed>  $data
     * @param  bool  $numbered whether numbers are positions even where some are missing
     * @param  array<string, list<string>>  $leaves path → texts, added to
     */
    private static function inner(array $data, string $path, bool $numbered, array &$leaves): void
    {
        $isList = array_is_list($data);
        foreach ($data as $key => $value) {
            $own = $isList || ($numbered && is_int($key)) ? "{$path}[]" : ($path === '' ? (string) $key : "$path.$key");
            if (is_array($value)) {
                self::inner($value, $own, $numbered, $leaves);
            } elseif (
                is_scalar($value)
                && ! is_bool($value)
                && (string) $value !== ''
                && count($leaves[$own] ?? []) < 200
            ) {
                $leaves[$own][] = (string) $value;
            }
        }
    }
}
