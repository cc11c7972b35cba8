<?php

declare(strict_types=1);

namespace App\Reading;

use App\Models\MediaFile;
use App\Models\ReadingChunk;
use App\Models\Record;
use App\Sites\FileRow;
use App\Sites\NamesFiles;
use App\Sites\OpenSite;
use App\Support\BulkRows;
use App\Usage\Carrying;
use Illuminate\Support\Facades\DB;
use Ylema\Addresses\Place;
use Ylema\Addresses\Resolver;
use Ylema\Addresses\Url;
use Ylema\Addresses\Whose;
use Ylema\Net\FileNames;
use Ylema\Net\Mention;
use Ylema\Net\Net;
use Ylema\Reading\Encoding\Charset;
use Ylema\Reading\Fetch;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Names;
use Ylema\Reading\Reading as FieldReading;
use Ylema\Reading\Reference;
use Ylema\Sites\FileMissing;
use Ylema\Sites\KeyRange;
use Ylema\Sites\SourceField;
use Ylema\Sites\SourceRecord;

/**
 * Reads one chunk of a site into the staging tables: records that changed with their references,
 * or files that changed with their fingerprints. Reading a chunk twice leaves the same rows as once.
 *
 * @phpstan-type Unread array{kind: string, key: string, title: string, field: string, line?: int, message: string}
 */
final class ChunkReader
{
    private const RECORD_COLUMNS = [
        'reading_id',
        'chunk_id',
        'kind',
        'key',
        'changed',
        'title',
        'address',
        'is_page',
        'everywhere',
        'state',
        'hash',
        'content_hash',
        'facts',
        'problems',
        'also',
    ];

    /** Where a reference or link stands, and what stands there. */
    private const PLACE_COLUMNS = ['reading_id', 'chunk_id', 'kind', 'key', 'field', 'start', 'length', 'value'];

    private const REFERENCE_COLUMNS = [
        ...self::PLACE_COLUMNS,
        'names',
        'role',
        'fetch',
        'layers',
        'line',
        'col',
        'context',
        'target_kind',
        'url',
        'url_hash',
    ];

    private const LINK_COLUMNS = [...self::PLACE_COLUMNS, 'role', 'line', 'url', 'url_hash'];

    /** What the address of a picture begins with that lies in the text itself. */
    public const PASTED = 'pasted:';

    private const SMALLEST_PASTED = 1500;

    /** What a place is to the site: one that names media or records, or one that leads a visitor on. */
    private const REFERENCE = 'a reference';

    private const LINK = 'a link';

    private readonly FieldReader $reader;

    private readonly Resolver $resolver;

    private ShownFiles $shown;

    private StagedMentions $mentions;

    private Net $net;

    /** Of the names that records were not searched for which stay as they are. */
    private Net $newNames;

    private readonly bool $hasTokens;

    /** @var array<string, list<string>>|null kind → expressions of paths */
    private ?array $served = null;

    /** @param  bool  $anew whether every record is read as if it had changed */
    public function __construct(private readonly OpenSite $site, private readonly bool $anew = false)
    {
        $this->reader = new FieldReader();
        $this->hasTokens = $site->map->rules()->haveTokens();
        $this->resolver = new Resolver(
            new DbFileIndex($site->id),
            $site->renditionNames(),
            $site->map->mediaFolders,
            $site->map->mediaPages,
        );
    }

    public function read(ReadingChunk $chunk): void
    {
        if ($chunk->kind === 'files') {
            $this->files($chunk);

            return;
        }
        $this->stage(
            $chunk,
            $this->site->content->records($chunk->kind, new KeyRange($chunk->after_key, $chunk->to_key)),
            true,
        );
    }

    /**
     * @param  iterable<SourceRecord>  $records
     * @param  bool  $whole whether the whole site is being read, with a list of its files as they are now
     */
    public function stage(ReadingChunk $chunk, iterable $records, bool $whole = false): void
    {
        $this->shown = new ShownFiles($this->site->id, $whole ? $chunk->reading_id : null);
        $this->net = Nets::of($this->site->id, $whole ? $chunk->reading_id : null);
        $this->newNames = $whole ? Nets::ofNew($this->site->id, $chunk->reading_id) : new Net(new FileNames([]));
        $this->mentions = new StagedMentions($chunk->reading_id, $chunk->id, Nets::words($this->site->id));
        DB::transaction(function () use ($chunk, $records): void {
            DB::table('staged_records')->where('chunk_id', $chunk->id)->delete();
            DB::table('staged_references')->where('chunk_id', $chunk->id)->delete();
            DB::table('staged_links')->where('chunk_id', $chunk->id)->delete();
            StagedMentions::clear($chunk->id);
            $rows = new BulkRows('staged_records', self::RECORD_COLUMNS);
            $references = new BulkRows('staged_references', self::REFERENCE_COLUMNS);
            $links = new BulkRows('staged_links', self::LINK_COLUMNS);
            $counts = ['records' => 0, 'changed' => 0, 'refs' => 0];
            $problems = [];
            $batch = [];
            foreach ($records as $record) {
                $batch[] = $record;
                if (count($batch) >= 250) {
                    $this->batch($chunk, $batch, $rows, $references, $links, $counts, $problems);
                    $batch = [];
                }
            }
            $this->batch($chunk, $batch, $rows, $references, $links, $counts, $problems);
            $rows->flush();
            $references->flush();
            $links->flush();
            $this->mentions->flush();
            $chunk->update([...$counts, 'problems' => $problems, 'done' => true]);
        });
    }

    /**
     * @param  list<SourceRecord>  $records
     * @param  array{records: int, changed: int, refs: int}  $counts
     * @param  list<Unread>  $problems
     */
    private function batch(
        ReadingChunk $chunk,
        array $records,
        BulkRows $rows,
        BulkRows $references,
        BulkRows $links,
        array &$counts,
        array &$problems,
    ): void {
        if ($records === []) {
            return;
        }
        $known = Record::query()
            ->where('site_id', $this->site->id)
            ->where('kind', $chunk->kind)
            ->whereIn('key', array_map(static fn (SourceRecord $r): string => $r->key, $records))
            ->get(['key', 'hash', 'problems'])
            ->keyBy('key');
        $map = $this->site->map->kind($chunk->kind);
        $shown = $map->shows === [] ? [] : $this->shown->of($records);
        foreach ($records as $n => $record) {
            $files = $shown[$n] ?? [];
            // Files that came or went change what the record shows, though nothing of its own.
            $hash = $files === [] ? $record->hash : hash('xxh128', implode("\0", [$record->hash, ...$files]));
            $counts['records']++;
            $before = $known->get($record->key);
            if (! $this->anew && $before !== null && trim($before->hash) === $hash) {
                $rows->add([
                    $chunk->reading_id,
                    $chunk->id,
                    $record->kind,
                    $record->key,
                    false,
                    null,
                    null,
                    false,
                    false,
                    null,
                    null,
                    null,
                    null,
                    null,
                    null,
                ]);
                $this->searchForNew($record);
                foreach ($before->problems as $problem) {
                    $problems[] = [
                        'kind' => $record->kind,
                        'key' => $record->key,
                        'title' => $record->title,
                        ...$problem,
                    ];
                }

                continue;
            }
            $counts['changed']++;
            $own = [];
            foreach ($record->fields as $field) {
                $reading = $this->reader->read($field->text, $field->notation, $field->rules);
                $covered = [];
                foreach ($this->places($record, $reading) as [$reference, $place, $is]) {
                    if ($is === self::REFERENCE) {
                        $this->reference($chunk, $record, $field->name, $reference, $place, $references);
                        $counts['refs']++;
                    } elseif ($is === self::LINK && $place !== null) {
                        $this->link($chunk, $record, $field->name, $reference, $place, $links);
                    } elseif ($is !== null) {
                        $this->tie(
                            $chunk,
                            $record,
                            $field->name,
                            $reference,
                            Names::Record->value,
                            $is,
                            $place->path ?? '',
                            $references,
                        );
                    }
                    if ($this->isRead($reference, $place, $is)) {
                        $covered[] = self::covered($field->text, $reference);
                    }
                }
                $haul = $this->net->haul($field->text, $covered, $reading->charset);
                $this->mentions->inRecord($record, $field->name, $haul->mentions);
                $this->mentions->inRecord($record, $field->name, $this->tokens($field, $covered));
                if ($haul->left !== null) {
                    $own[] = ['field' => $field->name, 'message' => $haul->left];
                }
                foreach ($reading->problems as $problem) {
                    $own[] = ['field' => $field->name, 'line' => $problem->line, 'message' => $problem->message];
                }
            }
            if ($record->unread !== null) {
                $own[] = ['field' => FileRow::TEXT, 'message' => $record->unread];
            }
            foreach ($files as $place => $path) {
                $this->file($chunk, $record, $place, $path, $references);
                $counts['refs']++;
            }
            foreach ($record->owners as $owner) {
                $this->tie(
                    $chunk,
                    $record,
                    $owner->field,
                    null,
                    Carrying::OWNER,
                    $owner->kind,
                    $owner->key,
                    $references,
                );
            }
            foreach ($own as $problem) {
                $problems[] = ['kind' => $record->kind, 'key' => $record->key, 'title' => $record->title, ...$problem];
            }
            $rows->add([
                $chunk->reading_id,
                $chunk->id,
                $record->kind,
                $record->key,
                true,
                $record->title,
                $record->address,
                $map->isPage,
                $map->everywhere,
                $record->state->value,
                $hash,
                $record->contentHash,
                $record->facts,
                $own,
                $map->isPage && $record->also !== [] ? $record->also : null,
            ]);
        }
    }

    /**
     * What a field's references are to the site.
     *
     * @return iterable<array{Reference, Place|null, string|null}> with where it leads, and REFERENCE, LINK, the kind of
     *     the record that is fetched there, or null where it is of no concern
     */
    private function places(SourceRecord $record, FieldReading $reading): iterable
    {
        $page = $record->address === null ? null : Url::parse($this->site->addresses->addressOf($record->address));
        $base = $reading->base === null ? $page : Url::parse($reading->base, $page ?? $this->site->addresses->now);
        foreach ($reading->references as $reference) {
            $from = $reading->isBeforeBase($reference) ? $page : $base;
            $place =
                $reference->names === Names::Address
                    ? $this->site->addresses->locate($reference->value, $from)
                    : null;
            $isReference = $reference->names !== Names::Address
                || self::isPasted($reference)
                || self::concerns($this->resolver, $reference, $place);
            $served = $isReference || $place?->path === null ? null : $this->servedAt($place->path);
            yield [$reference, $place, match (true) {
                $isReference => self::REFERENCE,
                $served !== null => $served,
                $place?->path !== null && self::leads($reference) => self::LINK,
                default => null,
            }];
        }
    }

    /**
     * Whether what stands there is understood: an address on another host, or of a file that is not there, may still
     * mean a file of this site.
     */
    private function isRead(Reference $reference, ?Place $place, ?string $is): bool
    {
        return match (true) {
            $is === null => false,
            $reference->names !== Names::Address, self::isPasted($reference) => true,
            $is === self::REFERENCE => $place?->path !== null && $this->net->names->has($place->path),
            default => true,
        };
    }

    /** @return array{int, int} offset and end of what was read; the query of an address was not */
    private static function covered(string $text, Reference $reference): array
    {
        $length = $reference->length;
        if (
            $reference->names === Names::Address
            && ! self::isPasted($reference)
            && preg_match('~\?|(?<!&)#~', substr($text, $reference->start, $length), $m, PREG_OFFSET_CAPTURE) === 1
        ) {
            $length = $m[0][1];
        }

        return [$reference->start, $reference->start + $length];
    }

    /** Names that came since are looked for in a record that stays as it is. */
    private function searchForNew(SourceRecord $record): void
    {
        foreach ($record->fields as $field) {
            $charset = Charset::of($field->text, $field->notation, $field->rules->encoding);
            if ($this->newNames->haul($field->text, [], $charset)->mentions === []) {
                continue;
            }
            $covered = [];
            $reading = $this->reader->read($field->text, $field->notation, $field->rules);
            foreach ($this->places($record, $reading) as [$reference, $place, $is]) {
                if ($this->isRead($reference, $place, $is)) {
                    $covered[] = self::covered($field->text, $reference);
                }
            }
            $haul = $this->newNames->haul($field->text, $covered, $reading->charset);
            $this->mentions->inRecord($record, $field->name, $haul->mentions);
        }
    }

    /**
     * Tokens of the site's own where it does not look for them.
     *
     * @param  list<array{int, int}>  $covered
     * @return list<Mention>
     */
    private function tokens(SourceField $field, array $covered): array
    {
        // Also those of a text that shows how they are written: a use they are not, and yet somebody named the item.
        return $this->hasTokens ? (new NamedItems($field->rules))->in($field->text, $covered) : [];
    }

    /** The kind of the file that a page fetches there and that is a record itself, as a style sheet is. */
    private function servedAt(string $path): ?string
    {
        foreach ($this->served ??= $this->site->map->served() as $kind => $expressions) {
            foreach ($expressions as $expression) {
                if (preg_match($expression, $path) === 1) {
                    return (string) $kind;
                }
            }
        }

        return null;
    }

    /**
     * Another record that this one shows, or that shows this one; kept with this one, which says so.
     *
     * @param  Reference|null  $reference where it says so in a text
     */
    private function tie(
        ReadingChunk $chunk,
        SourceRecord $record,
        string $field,
        ?Reference $reference,
        string $names,
        string $kind,
        string $key,
        BulkRows $rows,
    ): void {
        $rows->add([
            ...self::place($chunk, $record, $field, $reference, $key),
            $names,
            $reference->role ?? $field,
            ($reference->fetch ?? Fetch::Never)->value,
            $reference?->layerPath() ?? '',
            $reference?->line() ?? 1,
            1,
            ['element' => null],
            $kind,
            null,
            null,
        ]);
    }

    /** A file that the site finds by the record's values: it has a place in the list of them, and none in any text. */
    private function file(ReadingChunk $chunk, SourceRecord $record, int $place, string $path, BulkRows $rows): void
    {
        $url = $this->site->addresses->addressOf($path);
        $rows->add([
            $chunk->reading_id,
            $chunk->id,
            $record->kind,
            $record->key,
            SourceRecord::FILES,
            $place,
            0,
            $path,
            Names::Address->value,
            'found by the site',
            Fetch::BySite->value,
            '',
            1,
            1,
            ['element' => null],
            null,
            $url,
            hash('xxh128', $url),
        ]);
    }

    /** @return list<int|string> what PLACE_COLUMNS are given */
    private static function place(
        ReadingChunk $chunk,
        SourceRecord $record,
        string $field,
        ?Reference $reference,
        string $value,
    ): array {
        return [
            $chunk->reading_id,
            $chunk->id,
            $record->kind,
            $record->key,
            $field,
            $reference->start ?? 0,
            $reference->length ?? 0,
            $value,
        ];
    }

    private function reference(
        ReadingChunk $chunk,
        SourceRecord $record,
        string $field,
        Reference $reference,
        ?Place $place,
        BulkRows $rows,
    ): void {
        $url = null;
        if ($reference->names === Names::Address) {
            $url = match (true) {
                self::isPasted($reference) => self::PASTED.hash('xxh128', $reference->value),
                $place === null => self::unreadable($reference->value),
                default => self::key($place->url),
            };
        }
        $context = $reference->context();
        // A picture in the text is as long as the picture, and found again by where it stands.
        $value = self::isPasted($reference) ? mb_strcut(mb_scrub($reference->value), 0, 120) : $reference->value;
        $rows->add([
            ...self::place($chunk, $record, $field, $reference, $this->fileNamed($record, $reference) ?? $value),
            $reference->names->value,
            $reference->role,
            $reference->fetch->value,
            $reference->layerPath(),
            $context->line,
            $context->column,
            array_filter(
                [
                    'element' => $context->element,
                    'attributes' => self::kept($context->attributes),
                    'link' => $context->link,
                    'caption' => $context->caption,
                    'heading' => $context->heading,
                    'path' => $context->path,
                    'within' => $context->within,
                    'descriptor' => $context->descriptor,
                ],
                static fn (mixed $value): bool => $value !== null && $value !== [],
            ) ?: ['element' => null],
            $reference->target,
            $url,
            $url === null ? null : hash('xxh128', $url),
        ]);
    }

    /** Another file that it includes, as it is seen from where this one lies. */
    private function fileNamed(SourceRecord $record, Reference $reference): ?string
    {
        $content = $this->site->content;
        $kind = $reference->target === null ? null : $this->site->map->kinds[$reference->target] ?? null;

        return $reference->names === Names::Record && $kind?->isOfFiles() === true && $content instanceof NamesFiles
            ? $content->named($record->key, $reference->value)
            : null;
    }

    /** A link to a page of the site; of which, the landing finds out for all of them at once. */
    private function link(
        ReadingChunk $chunk,
        SourceRecord $record,
        string $field,
        Reference $reference,
        Place $place,
        BulkRows $rows,
    ): void {
        $url = self::key($place->url);
        $rows->add([
            ...self::place($chunk, $record, $field, $reference, $reference->value),
            $reference->role,
            $reference->line(),
            $url,
            hash('xxh128', $url),
        ]);
    }

    /**
     * Whether the place leads a visitor to what it names: a link of the markup, or a field that is an address and
     * nothing else. What only machines follow leads nobody, such as the address that a page says it has; a script, a
     * style sheet and the like are fetched by the page, and no page themselves.
     */
    private static function leads(Reference $reference): bool
    {
        if (preg_match('~^(?:link\[|meta\[content|json-ld)|\[cite\]$~', $reference->role) === 1) {
            return false;
        }

        return $reference->fetch === Fetch::WhenFollowed
            || ($reference->fetch === Fetch::OnCondition
                && preg_match('~[\[\]]|^(?:css|srcset|script|image)\b~', $reference->role) !== 1);
    }

    /**
     * Whether it names a media file, here or elsewhere, that a visitor should get. What leads to another host is meant
     * to, as a sponsor's address is; only a field that is the address of a file there may show it.
     */
    public static function concerns(Resolver $resolver, Reference $reference, ?Place $place): bool
    {
        return $place?->whose === Whose::Foreign && self::leads($reference)
            ? $reference->fetch !== Fetch::WhenFollowed && Resolver::hasMediaType($place->url->path)
            : $resolver->concerns($place, self::shows($reference));
    }

    /** Whether the place shows what it names. Links, frames and scripts may lead to anything; words show nothing. */
    private static function shows(Reference $reference): bool
    {
        return ! in_array($reference->fetch, [Fetch::WhenFollowed, Fetch::Never], true)
            && preg_match('~^(?:iframe|script|embed|object|link)\[~', $reference->role) !== 1;
    }

    /** Whether the picture itself stands there; a stand-in of a few bytes is none that anybody would miss. */
    private static function isPasted(Reference $reference): bool
    {
        return strlen($reference->value) >= self::SMALLEST_PASTED
            && preg_match('~^\s*data:image/~i', substr($reference->value, 0, 100)) === 1
            && self::shows($reference);
    }

    /** References to the same file share one address row; a fragment makes no difference to a server. */
    public static function key(Url $url): string
    {
        return (string) new Url($url->scheme, $url->host, $url->port, $url->path, $url->query);
    }

    public static function unreadable(string $value): string
    {
        return 'unreadable:'.mb_strcut(mb_scrub($value), 0, 500);
    }

    /**
     * The attributes that say how a picture is shown and what it says; the rest would only swell the index.
     *
     * @param  array<string, string>  $attributes
     * @return array<string, string>
     */
    private static function kept(array $attributes): array
    {
        return array_map(
            static fn (string $v): string => mb_strcut(mb_scrub($v), 0, 300),
            array_intersect_key(
                $attributes,
                array_flip([
                    'width',
                    'height',
                    'class',
                    'style',
                    'alt',
                    'title',
                    'loading',
                    'align',
                    'border',
                    'sizes',
                    'media',
                    'rel',
                    'type',
                ]),
            ),
        );
    }

    private function files(ReadingChunk $chunk): void
    {
        $staged = DB::table('staged_files')
            ->where('reading_id', $chunk->reading_id)
            ->when($chunk->after_key !== null, fn ($q) => $q->where('path', '>', $chunk->after_key))
            ->when($chunk->to_key !== null, fn ($q) => $q->where('path', '<=', $chunk->to_key))
            ->get(['path', 'size', 'modified', 'sha256']);
        $paths = $staged->pluck('path')->all();
        $known = MediaFile::query()->where('site_id', $this->site->id)->whereIn('path', $paths)->get()->keyBy('path');
        $changed = 0;
        $problems = [];
        $updates = [];
        foreach ($staged as $file) {
            $before = $known->get($file->path);
            if (
                $before !== null
                && $before->size === (int) $file->size
                && $before->modified === (int) $file->modified
            ) {
                continue;
            }
            $changed++;
            try {
                $probe = FileProbe::of($file->path, $this->site->files->read($file->path));
            } catch (FileMissing $e) {
                // It went away between the listing and now; the next reading will say so.
                $problems[] = [
                    'kind' => 'file',
                    'key' => $file->path,
                    'title' => $file->path,
                    'field' => '',
                    'message' => $e->getMessage(),
                ];

                continue;
            }
            $updates[] = [$file->path, $probe->sha256, $probe->width, $probe->height, $probe->mime];
        }
        DB::transaction(function () use ($chunk, $updates, $paths, $changed, $problems): void {
            foreach (array_chunk($updates, 200) as $part) {
                $marks = implode(
                    ', ',
                    array_fill(0, count($part), '(?, ?, cast(? as integer), cast(? as integer), ?)'),
                );
                DB::update(
                    'update staged_files s set sha256 = v.sha, width = v.w, height = v.h, mime = v.mime from (values '
                        ."$marks) as v(path, sha, w, h, mime) where s.reading_id = ? and s.path = v.path",
                    [...array_merge(...$part), $chunk->reading_id],
                );
            }
            $chunk->update([
                'records' => count($paths),
                'changed' => $changed,
                'problems' => $problems,
                'done' => true,
            ]);
        });
    }
}
