<?php

declare(strict_types=1);

namespace App\Connect;

use App\Models\Site;
use App\Reading\ChunkReader;
use App\Reading\DbFileIndex;
use App\Reading\ShownFiles;
use App\Sites\Checkable;
use App\Sites\FieldMapError;
use App\Sites\OpenSite;
use App\Sites\SiteOpener;
use Ylema\Addresses\Outcome;
use Ylema\Addresses\OutcomeKind;
use Ylema\Addresses\Place;
use Ylema\Addresses\Resolver;
use Ylema\Addresses\Url;
use Ylema\Failure;
use Ylema\Reading\Excerpt;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Names;
use Ylema\Reading\Reading;
use Ylema\Reading\Reference;
use Ylema\Sites\SourceField;
use Ylema\Sites\SourceRecord;

/**
 * Tries a field map before anybody takes it: held against the source, and a few records of one kind read by it, with
 * what they refer to. Nothing is kept and nothing is written.
 *
 * @phpstan-type Mark array{role: string, lead: string, marked: string, tail: string, good: bool, says: string}
 * @phpstan-type Sample array{key: string, title: string, address: string|null, state: string,
 *     fields: list<array{name: string, notation: string, references: list<Mark>, more: int, problems: list<string>}>}
 */
final readonly class MapTrial
{
    /** How many records are looked at, to show those that say most. */
    private const LOOKED_AT = 40;

    /** Records are counted so far at each pause in typing. */
    public const COUNTED = 10_000;

    private const SHOWN = 3;

    private const REFERENCES = 8;

    /** Bytes on either side of a reference. */
    private const AROUND = 60;

    public function __construct(private SiteOpener $opener)
    {
    }

    /**
     * @return array{problem: array{line: int|null, words: string}|null, kinds: list<string>, kind: string|null,
     *     count: int|null, samples: list<Sample>}
     */
    public function of(Site $site, string $yaml, ?string $kind): array
    {
        $tried = $site->replicate();
        $tried->field_map = $yaml;
        $said = ['problem' => null, 'kinds' => [], 'kind' => null, 'count' => null, 'samples' => []];
        try {
            $open = $this->opener->open($tried);
            $said['kinds'] = $open->content->kinds();
            if ($open->content instanceof Checkable) {
                $open->content->check();
            }
            $kind = in_array($kind, $said['kinds'], true) ? $kind : $said['kinds'][0] ?? null;
            if ($kind === null) {
                return $said;
            }

            return [
                ...$said,
                'kind' => $kind,
                'count' => $open->content->count($kind, self::COUNTED),
                'samples' => $this->samples($open, $kind, $site->exists ? $site->id : null),
            ];
        } catch (FieldMapError $e) {
            return [...$said, 'problem' => ['line' => $e->mapLine, 'words' => $e->getMessage()]];
        } catch (Failure $e) {
            return [...$said, 'problem' => ['line' => null, 'words' => $e->getMessage()]];
        }
    }

    /**
     * @param  int|null  $read the site whose index of files answers; null where nothing was read yet
     * @return list<Sample>
     */
    private function samples(OpenSite $site, string $kind, ?int $read): array
    {
        $reader = new FieldReader();
        $seen = [];
        foreach ($site->content->first($kind, self::LOOKED_AT) as $record) {
            $fields = [];
            foreach ($record->fields as $field) {
                $fields[] = [$field, $reader->read($field->text, $field->notation, $field->rules)];
            }
            $count = array_sum(array_map(static fn (array $f): int => count($f[1]->references), $fields));
            $seen[] = [$count, $record, $fields];
        }
        usort($seen, static fn (array $a, array $b): int => $b[0] <=> $a[0]);
        $resolver = new Resolver(
            $read === null ? new StoreIndex($site->files) : new DbFileIndex($read),
            $site->renditionNames(),
            $site->map->mediaFolders,
            $site->map->mediaPages,
        );
        $seen = array_slice($seen, 0, self::SHOWN);
        $found = $read === null ? [] : (new ShownFiles($read, null))->of(array_column($seen, 1));
        $samples = [];
        foreach ($seen as $n => [, $record, $fields]) {
            $shown = [];
            foreach ($fields as [$field, $reading]) {
                $bases = [$this->base($site, $record, $reading->base), $this->base($site, $record, null)];
                $shown[] = [
                    'name' => $field->name,
                    'notation' => $field->notation->value,
                    ...$this->marks($site, $resolver, $field, $reading, $bases),
                    'problems' => array_map(
                        static fn ($problem): string => "line $problem->line: $problem->message",
                        array_slice($reading->problems, 0, 3),
                    ),
                ];
            }
            if ($record->shows !== []) {
                $shown[] = self::files($record, $found[$n] ?? [], $read !== null);
            }
            $samples[] = [
                'key' => $record->key,
                'title' => mb_strcut(mb_scrub($record->title), 0, 200),
                'address' => $record->address,
                'state' => $record->state->word(),
                'fields' => $shown,
            ];
        }

        return $samples;
    }

    /**
     * What the site finds by the record's values, as a field of its own.
     *
     * @param  list<string>  $paths
     * @return array{name: string, notation: string, references: list<Mark>, more: int, problems: list<string>}
     */
    private static function files(SourceRecord $record, array $paths, bool $isRead): array
    {
        $marks = array_map(
            static fn (string $path): array => [
                'role' => 'found by the site',
                'lead' => '',
                'marked' => $path,
                'tail' => '',
                'good' => true,
                'says' => 'It lies there, and is called so.',
            ],
            array_slice($paths, 0, self::REFERENCES),
        );

        return [
            'name' => SourceRecord::FILES,
            'notation' => implode(', ', $record->shows),
            'references' => $marks,
            'more' => count($paths) - count($marks),
            'problems' => $isRead ? [] : ['Which of these files are there is said once the site was read.'],
        ];
    }

    private function base(OpenSite $site, SourceRecord $record, ?string $said): ?Url
    {
        $page = $record->address === null ? null : Url::parse($site->addresses->addressOf($record->address));

        return $said === null ? $page : Url::parse($said, $page ?? $site->addresses->now);
    }

    /**
     * @param  array{Url|null, Url|null}  $bases of what stands behind a base element, and before it
     * @return array{references: list<Mark>, more: int}
     */
    private function marks(
        OpenSite $site,
        Resolver $resolver,
        SourceField $field,
        Reading $reading,
        array $bases,
    ): array {
        $references = $reading->references;
        $places = array_map(
            static fn (Reference $r): ?Place => $r->names === Names::Address
                ? $site->addresses->locate($r->value, $bases[$reading->isBeforeBase($r) ? 1 : 0])
                : null,
            $references,
        );
        // What shows something comes first; a link to a page says little of a map.
        $concerns = array_filter(
            $references,
            static fn (Reference $r, int $i): bool => $r->names !== Names::Address
                || ChunkReader::concerns($resolver, $r, $places[$i]),
            ARRAY_FILTER_USE_BOTH,
        );
        $shown = array_slice($concerns, 0, self::REFERENCES, true);
        $outcomes = $resolver->resolve(array_filter(
            array_intersect_key($places, $shown),
            static fn (?Place $place): bool => $place !== null,
        ));
        $marks = [];
        foreach ($shown as $i => $reference) {
            $excerpt = Excerpt::of($field->text, $reference->start, min($reference->length, 300), self::AROUND);
            $outcome = $outcomes[$i] ?? null;
            $marks[] = [
                'role' => $reference->role,
                'lead' => $excerpt->lead,
                'marked' => $excerpt->marked,
                'tail' => $excerpt->tail,
                'good' => $outcome === null || ! $outcome->kind->isBroken(),
                'says' => self::says($reference, $outcome),
            ];
        }

        return ['references' => $marks, 'more' => count($concerns) - count($shown)];
    }

    private static function says(Reference $reference, ?Outcome $outcome): string
    {
        return match (true) {
            $reference->names === Names::MediaItem => "The item $reference->value of the site’s list.",
            $reference->names !== Names::Address => trim("The record $reference->value $reference->target").'.',
            $outcome === null || $outcome->kind === OutcomeKind::Unreadable => 'No browser accepts this address.',
            default => $outcome->sentence(),
        };
    }
}
