<?php

declare(strict_types=1);

namespace App\Plans;

use App\Media\OpenPicture;
use App\Media\Pictures;
use App\Media\Uploads;
use App\Models\MediaFile;
use App\Models\MediaItem;
use App\Models\MediaReference;
use App\Models\Site;
use App\Reading\DbPageIndex;
use App\Sites\MediaMap;
use App\Sites\OpenSite;
use App\Support\Sql;
use App\Usage\Boxes;
use App\Usage\Mentioned;
use App\Vault\Vault;
use Closure;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Addresses\MediaPages;
use Ylema\Addresses\OutcomeKind;
use Ylema\Addresses\RenditionNames;
use Ylema\Addresses\SiteAddresses;
use Ylema\Imaging\Embedded;
use Ylema\Imaging\MediaType;
use Ylema\Imaging\PictureFile;
use Ylema\Imaging\Size;
use Ylema\Plan\Drawing;
use Ylema\Plan\Facts;
use Ylema\Plan\Finding;
use Ylema\Plan\ForeignPicture;
use Ylema\Plan\HeldFile;
use Ylema\Plan\Idle;
use Ylema\Plan\IdleQuestion;
use Ylema\Plan\KeptFile;
use Ylema\Plan\MediaFacts;
use Ylema\Plan\MediaPlaces;
use Ylema\Plan\MediaWords;
use Ylema\Plan\Place;
use Ylema\Plan\PlacedUse;
use Ylema\Plan\Places;
use Ylema\Plan\RecordUses;
use Ylema\Plan\RestingQuestion;
use Ylema\Plan\Steps\Redirect;
use Ylema\Sites\FileMissing;
use Ylema\Sites\FileState;

/** What planners ask, answered from the index and the ports of one site: one statement for each batch. */
final class SiteFacts implements Facts
{
    /** How many boxes are looked up at once; there is little to each. */
    private const BOXES = 2000;

    private const BATCH = 250;

    /** Renditions that are drawn and compared for one plan; each takes a tenth of a second. */
    private const TRIED = 2000;

    private int $tried = 0;

    private int $expected = 0;

    private int $tables = 0;

    /** The picture that was decoded last: a rendition is drawn from the same one as the rendition before it. */
    private ?string $source = null;

    private ?OpenPicture $picture = null;

    /** @param  Closure(int): void  $expect told about how many steps there will be */
    public function __construct(
        private readonly OpenSite $site,
        private readonly int $plan,
        private readonly Vault $vault,
        private readonly Uploads $uploads,
        private readonly LostFiles $lost,
        private readonly Closure $expect,
    ) {
    }

    /** Lets go of what was set aside in the database while planning. */
    public function close(): void
    {
        for (; $this->tables > 0; $this->tables--) {
            DB::statement("drop table if exists planned_uses_{$this->plan}_{$this->tables}");
        }
    }

    public function addresses(): SiteAddresses
    {
        return $this->site->addresses;
    }

    public function renditionNames(): RenditionNames
    {
        return $this->site->renditionNames();
    }

    public function mediaPages(): ?MediaPages
    {
        return $this->site->map->mediaPages;
    }

    public function media(array $items): array
    {
        $facts = [];
        $files = MediaFile::query()
            ->where('site_id', $this->site->id)
            ->whereRaw('media_item_id = any(cast(? as bigint[]))', [Sql::ids($items)])
            ->orderByDesc('is_original')
            ->orderBy('path')
            ->get()
            ->groupBy('media_item_id');
        $own = MediaItem::query()
            ->where('site_id', $this->site->id)
            ->whereRaw('id = any(cast(? as bigint[]))', [Sql::ids($items)])
            ->get();
        foreach ($own as $item) {
            $own = [];
            $hasOriginal = false;
            foreach ($files->get($item->id) ?? [] as $file) {
                $hasOriginal = $hasOriginal || $file->is_original;
                $own[] = $file->asPictureFile();
            }
            if (! $hasOriginal) {
                array_unshift($own, new PictureFile($item->path, null, true));
            }
            $facts[$item->id] = new MediaFacts(
                (string) $item->source_id,
                $own,
                $item->id,
                $item->title,
                $item->path,
                $hasOriginal,
                $item->focus_x ?? 0.5,
                $item->focus_y ?? 0.5,
                $item->uses,
            );
        }

        return $facts;
    }

    public function words(?array $items): iterable
    {
        $after = 0;
        do {
            $batch = MediaItem::query()
                ->where('site_id', $this->site->id)
                ->whereNotNull('source_id')
                ->where('id', '>', $after)
                ->when(
                    $items !== null,
                    fn ($q) => $q->whereRaw('id = any(cast(? as bigint[]))', [Sql::ids($items ?? [])]),
                )
                ->orderBy('id')
                ->limit(self::BATCH)
                ->get(['id', 'source_id', 'path']);
            $numbers = $batch->pluck('id', 'source_id')->all();
            $words = [];
            foreach ($this->site->content->findMedia(array_map(strval(...), array_keys($numbers))) as $media) {
                $own = array_filter(
                    [
                        'title' => $media->title,
                        'alt' => $media->alt,
                        'caption' => $media->caption,
                        'credit' => $media->credit,
                    ],
                    fn (string $word): bool => $this->site->map->media?->written($word) !== null,
                    ARRAY_FILTER_USE_KEY,
                );
                $words[] = new MediaWords($numbers[$media->id], $media->id, $media->path, $own);
            }
            usort($words, static fn (MediaWords $a, MediaWords $b): int => $a->item <=> $b->item);
            $after = $batch->last()->id ?? 0;
            if ($words !== []) {
                yield $words;
            }
        } while ($batch->count() === self::BATCH);
    }

    public function uses(int $item, Places $places): iterable
    {
        [$condition, $bind] = $this->chosen($places);

        return $this->placed(
            <<<SQL
            select record_id, jsonb_agg(jsonb_build_array(field, start, length, path) order by field, start) as places
            from (
                select m.record_id, m.field, m.start, m.length, a.path,
                    row_number() over (partition by m.record_id, m.field order by m.start) as nth
                from media_references m left join addresses a on a.id = m.address_id where m.site_id = ?
                    and m.media_item_id = ?
            ) as numbered join records p on p.id = numbered.record_id where $condition group by record_id
            SQL
            ,
            [$this->site->id, $item, ...$bind],
        );
    }

    public function usesOf(array $items): iterable
    {
        return $this->placed(
            <<<'SQL'
            select m.record_id, jsonb_agg(jsonb_build_array(m.field, m.start, m.length, a.path)
                order by m.field, m.start) as places
            from media_references m left join addresses a on a.id = m.address_id
            where m.site_id = ? and m.media_item_id = any(cast(? as bigint[])) group by m.record_id
            SQL
            ,
            [$this->site->id, Sql::ids($items)],
        );
    }

    public function findings(array $kinds): iterable
    {
        return $this->placed(
            <<<'SQL'
            select m.record_id, jsonb_agg(jsonb_build_array(m.field, m.start, m.length, m.path, m.outcome, m.asked,
                m.candidates, m.item, m.by_address, m.leads) order by m.field, m.start) as places
            from findings m where m.site_id = ? and m.outcome = any(cast(? as text[])) group by m.record_id
            SQL
            ,
            [$this->site->id, Sql::texts(array_column($kinds, 'value'))],
        );
    }

    /**
     * Records with some of their places, in the order in which a person would list them.
     *
     * @param  string  $places a query for record_id and places
     * @param  list<scalar>  $bind its values
     * @return iterable<list<RecordUses>>
     */
    private function placed(string $places, array $bind): iterable
    {
        $table = "planned_uses_{$this->plan}_".++$this->tables;
        DB::statement("drop table if exists $table");
        // Numbered once in the order of the plan, so that no page of it has to be sorted again.
        DB::statement(
            <<<SQL
            create temporary table $table as select row_number() over (order by r.kind, r.title, r.id) as n, r.id,
                r.kind, r.key, r.title, trim(r.content_hash) as content_hash, q.places
            from ($places) as q join records r on r.id = q.record_id
            SQL
            ,
            $bind,
        );
        DB::statement("create index on $table (n)");
        $count = (int) DB::table($table)->count();
        ($this->expect)($this->expected += $count);
        for ($from = 0; $from < $count; $from += self::BATCH) {
            yield $this->batch(
                DB::select("select * from $table where n > ? and n <= ? order by n", [$from, $from + self::BATCH]),
            );
        }
    }

    public function boxes(int $item, Places $places): iterable
    {
        $boxes = new Boxes();
        [$condition, $bind] = $this->chosen($places);
        // Places are numbered only where some were chosen by their number.
        $nth = $places->areAll() ? '0' : 'row_number() over (partition by m.record_id, m.field order by m.start)';
        $after = 0;
        do {
            $batch = MediaReference::hydrate(
                DB::select(
                    <<<SQL
                    select numbered.id, numbered.record_id, numbered.context from (
                        select m.*, $nth as nth from media_references m where m.site_id = ? and m.media_item_id = ?
                    ) as numbered join records p on p.id = numbered.record_id
                    where $condition and numbered.id > ? order by numbered.id limit ?
                    SQL
                    ,
                    [$this->site->id, $item, ...$bind, $after, self::BOXES],
                ),
            );
            yield from $boxes->of(array_values($batch->all()));
            $after = $batch->last()->id ?? 0;
        } while ($batch->count() === self::BOXES);
    }

    public function records(string $kind, array $keys): iterable
    {
        return $this->site->content->find($kind, $keys);
    }

    public function files(array $paths): array
    {
        $states = [];
        foreach ($paths as $path) {
            try {
                $state = $this->site->files->state($path);
                if ($state !== null && ! $this->vault->has($state->sha256)) {
                    $bytes = $this->site->files->read($path);
                    $state = $this->vault->put($bytes) === $state->sha256 ? $state : $this->site->files->state($path);
                }
            } catch (FileMissing) {
                $state = null;
            }
            if ($state !== null) {
                $states[$path] = $state;
            }
        }

        return $states;
    }

    public function taken(array $paths): array
    {
        $taken = [];
        foreach ($paths as $path) {
            if ($this->site->files->exists($path)) {
                $taken[$path] = true;
            }
        }
        // A row that names a path has it, whether its file is there or not.
        $named = MediaItem::query()
            ->where('site_id', $this->site->id)
            ->whereRaw('path = any(cast(? as text[]))', [Sql::texts($paths)])
            ->pluck('path');
        foreach ($named as $path) {
            $taken[$path] = true;
        }

        return $taken;
    }

    public function original(MediaFacts $media): ?KeptFile
    {
        $state = $this->files([$media->path])[$media->path] ?? null;
        $extension = MediaType::extension($media->path);

        return $state === null
            ? null
            : new KeptFile(
                $state->sha256,
                $state->size,
                basename($media->path),
                $extension,
                $media->original()->size,
                in_array($extension, Pictures::WRITABLE, true),
                in_array($extension, ['gif', 'webp', 'png', 'avif'], true)
                    && Embedded::in($this->vault->get($state->sha256))->isAnimated,
            );
    }

    public function upload(string $token): KeptFile
    {
        $upload = $this->uploads->open($token, $this->site->id);
        $extension = $upload['picture']->extension;

        return new KeptFile(
            $this->vault->put($upload['bytes']),
            strlen($upload['bytes']),
            $upload['name'],
            $extension,
            $upload['picture']->size,
            in_array($extension, Pictures::WRITABLE, true),
            $upload['picture']->embedded->isAnimated,
        );
    }

    public function draw(Drawing $drawing): FileState
    {
        if ($this->source !== $drawing->source || $this->picture === null) {
            $this->picture = (new Pictures())->open($this->vault->get($drawing->source), 'The picture');
            $this->source = $drawing->source;
        }
        $bytes = $this->picture->fill($drawing->size, $drawing->type, $drawing->focusX, $drawing->focusY);

        return new FileState($this->vault->put($bytes), strlen($bytes));
    }

    public function stamps(string $kind): array
    {
        return $this->site->content->stamps($kind);
    }

    public function redirects(array $addresses): array
    {
        $redirects = [];
        $rows = DB::select(
            'select from_path, to_address, status from redirects where site_id = ? and from_path = '
                .'any(cast(? as text[]))',
            [$this->site->id, Sql::texts($addresses)],
        );
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $redirects[(string) $row->from_path] = new Redirect($row->from_path, $row->to_address, (int) $row->status);
        }

        return $redirects;
    }

    public function pages(array $addresses): array
    {
        $pages = [];
        foreach ((new DbPageIndex($this->site))->pages($addresses) as $address => [, $isLive]) {
            if ($isLive) {
                $pages[$address] = true;
            }
        }

        return $pages;
    }

    public function keepsRedirects(): bool
    {
        return $this->site->content->keepsRedirects();
    }

    public function redirectsTo(array $addresses): array
    {
        $redirects = [];
        $rows = DB::select(
            'select from_path, to_address, to_path, status from redirects where site_id = ? and to_path = '
                .'any(cast(? as text[])) order by from_path',
            [$this->site->id, Sql::texts($addresses)],
        );
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $redirects[] = [
                (string) $row->to_path,
                new Redirect($row->from_path, $row->to_address, (int) $row->status),
            ];
        }

        return $redirects;
    }

    public function mediaFolders(): array
    {
        return $this->site->map->mediaFolders;
    }

    public function unreadNames(string $path): array
    {
        return (new Mentioned(Site::query()->findOrFail($this->site->id)))->at($path);
    }

    public function filesAt(string $path): iterable
    {
        $query = MediaFile::query()->where('site_id', $this->site->id);
        if (str_ends_with($path, '/')) {
            $query->where('path', 'like', addcslashes($path, '%_\\').'%');
        } else {
            $item = MediaFile::query()
                ->where('site_id', $this->site->id)
                ->where('path', $path)
                ->where('is_original', true)
                ->value('media_item_id');
            $query->where(
                fn ($either) => $either
                    ->where('path', $path)
                    ->when($item !== null, fn ($q) => $q->orWhere('media_item_id', $item)),
            );
        }
        ($this->expect)($this->expected += (clone $query)->count());
        $after = '';
        do {
            $files = (clone $query)->where('path', '>', $after)->orderBy('path')->limit(self::BATCH)->get();
            $batch = [];
            foreach ($files as $file) {
                $after = $file->path;
                $batch[] = new HeldFile(
                    $file->path,
                    new FileState(trim($file->sha256), $file->size),
                    $file->media_item_id,
                    $file->is_original,
                );
            }
            if ($batch !== []) {
                yield $batch;
            }
        } while ($files->count() === self::BATCH);
    }

    public function mediaPlaces(array $items): iterable
    {
        $ids = MediaItem::query()
            ->where('site_id', $this->site->id)
            ->whereNotNull('source_id')
            ->whereRaw('id = any(cast(? as bigint[]))', [Sql::ids($items)])
            ->orderBy('id')
            ->pluck('source_id')
            ->map(static fn (mixed $id): string => is_scalar($id) ? (string) $id : '')
            ->all();
        $media = $this->site->map->media;
        foreach ($this->site->content->mediaRows(array_values($ids)) as $row) {
            $words = $media?->wordsOf($row->columns) ?? [];
            yield new MediaPlaces(
                $row->id,
                $words['path'] ?? '',
                $words['folder'] ?? null,
                $words['renditions'] ?? null,
                array_filter(
                    $words,
                    static fn (string $word): bool => str_starts_with($word, MediaMap::SIZE),
                    ARRAY_FILTER_USE_KEY,
                ),
                $this->site->map->schemes,
            );
        }
    }

    public function usesAt(string $path): iterable
    {
        $isFolder = str_ends_with($path, '/');

        return $this->placed(
            <<<SQL
            select m.record_id, jsonb_agg(jsonb_build_array(m.field, m.start, m.length, a.path)
                order by m.field, m.start) as places
            from media_references m join addresses a on a.id = m.address_id
            where m.site_id = ? and m.names = 'address' and a.file_id in (select f.id from files f
                where f.site_id = ? and {$this->lies($isFolder)}) group by m.record_id
            SQL
            ,
            [
                $this->site->id,
                $this->site->id,
                ...$isFolder ? [addcslashes($path, '%_\\').'%'] : [$path, $this->site->id, $path],
            ],
        );
    }

    public function foreignPictures(array $hosts): iterable
    {
        $after = 0;
        do {
            $rows = DB::select(
                <<<'SQL'
                select a.id, a.url, f.sha256, f.weight, f.extension, f.width, f.height, f.animated, f.credit, p.context
                from addresses a join foreign_files f on f.site_id = a.site_id and f.url_hash = a.url_hash
                join lateral (select m.context from media_references m where m.address_id = a.id
                    order by m.context->'attributes'->>'alt' is null, m.id limit 1) as p on true
                where a.site_id = ? and a.outcome = 'foreign-host' and f.sha256 is not null
                    and substring(a.url from '^[a-z]+://([^/:?#]+)') = any(cast(? as text[])) and a.id > ?
                order by a.id limit ?
                SQL
                ,
                [$this->site->id, Sql::texts($hosts), $after, self::BATCH],
            );
            $batch = [];
            /** @var stdClass $row */
            foreach ($rows as $row) {
                $after = (int) $row->id;
                $batch[] = self::foreign($row);
            }
            if ($batch !== []) {
                yield $batch;
            }
        } while (count($rows) === self::BATCH);
    }

    private static function foreign(stdClass $row): ForeignPicture
    {
        $context = json_decode((string) $row->context, true);
        $context = is_array($context) ? $context : [];
        $attributes = is_array($context['attributes'] ?? null) ? $context['attributes'] : [];
        $word = static fn (mixed $said): string => is_string($said) ? $said : '';
        $from = 'From '.(string) $row->url;

        return new ForeignPicture(
            (string) $row->url,
            new KeptFile(
                trim((string) $row->sha256),
                (int) $row->weight,
                ForeignPicture::nameIn((string) $row->url),
                (string) $row->extension,
                $row->width === null ? null : new Size((int) $row->width, (int) $row->height),
                in_array($row->extension, Pictures::WRITABLE, true),
                $row->animated === true,
            ),
            $word($attributes['alt'] ?? null),
            $word($context['caption'] ?? null),
            $row->credit === '' ? $from : "$row->credit. $from",
        );
    }

    public function foreignUses(array $hosts, bool $pasted): iterable
    {
        return $this->placed(
            <<<'SQL'
            select m.record_id, jsonb_agg(jsonb_build_array(m.field, m.start, m.length, null, a.outcome, a.asked,
                '[]'::jsonb, null, true, false) order by m.field, m.start) as places
            from addresses a join media_references m on m.address_id = a.id
            where a.site_id = ? and (a.outcome = 'foreign-host'
                and substring(a.url from '^[a-z]+://([^/:?#]+)') = any(cast(? as text[]))
                or ? and a.outcome = 'pasted') group by m.record_id
            SQL
            ,
            [$this->site->id, Sql::texts($hosts), $pasted ? 'true' : 'false'],
        );
    }

    public function sameBytes(array $hashes): array
    {
        return DB::table('files')
            ->where('site_id', $this->site->id)
            ->where('is_original', true)
            ->whereRaw('sha256 = any(cast(? as text[]))', [Sql::texts($hashes)])
            ->orderByDesc('path')
            ->pluck('path', 'sha256')
            ->mapWithKeys(
                static fn (mixed $path, mixed $hash): array => [
                    trim((string) $hash) => is_string($path) ? $path : '',
                ],
            )
            ->all();
    }

    public function keep(string $bytes, string $name): KeptFile
    {
        $pictures = new Pictures();
        $checked = $pictures->check()->judge($bytes, $name);
        $isDrawable = in_array($checked->extension, Pictures::WRITABLE, true);
        if ($isDrawable) {
            $pictures->open($bytes, $name);
        }

        return new KeptFile(
            $this->vault->put($bytes),
            strlen($bytes),
            $name,
            $checked->extension,
            $checked->size,
            $isDrawable,
            $checked->embedded->isAnimated,
        );
    }

    public function known(array $paths): array
    {
        $files = MediaFile::query()
            ->where('site_id', $this->site->id)
            ->whereRaw('path = any(cast(? as text[]))', [Sql::texts($paths)])
            ->pluck('path')
            ->all();

        return array_fill_keys(array_filter($files, is_string(...)), true) + $this->pages($paths);
    }

    public function recover(array $paths): array
    {
        return $this->lost->recover($this->site, $paths);
    }

    public function idsOf(array $paths): array
    {
        $ids = [];
        $items = MediaItem::query()
            ->where('site_id', $this->site->id)
            ->whereNotNull('source_id')
            ->whereRaw('path = any(cast(? as text[]))', [Sql::texts($paths)])
            ->get(['path', 'source_id']);
        foreach ($items as $item) {
            $ids[$item->path] = (string) $item->source_id;
        }

        return $ids;
    }

    public function homeFolder(): string
    {
        $first = $this->site->map->mediaFolders[0] ?? '';
        $row = DB::selectOne(
            <<<'SQL'
            select coalesce(substring(path from '^(.*/)(?:19|20)[0-9]{2}/'), '') as above,
                substring(path from '/((?:19|20)[0-9]{2}(?:/[0-9]{2})?)/[^/]+$') as dated, count(*) as n
            from files where site_id = ? and is_original and path ~ '/(19|20)[0-9]{2}(/[0-9]{2})?/[^/]+$'
            group by 1, 2 order by 2 desc, 3 desc limit 1
            SQL
            ,
            [$this->site->id],
        );
        if (! $row instanceof stdClass) {
            return $first.'adopted/';
        }

        // Where files lie by year, or by year and month, so do new ones.
        return $row->above.
            (str_contains((string) $row->dated, '/') ? now()->format('Y/m') : now()->format('Y'))
            .'/';
    }

    public function usualWidths(): array
    {
        $chosen = $this->chosenWidths();
        if ($chosen !== null) {
            return $chosen;
        }
        $rows = DB::select(
            <<<'SQL'
            select width from files where site_id = ? and not is_original and width is not null and width <> height
            group by width having count(*) * 5 >= (select count(*) from files where site_id = ? and is_original
                and width is not null) order by count(*) desc, width limit 6
            SQL
            ,
            [$this->site->id, $this->site->id],
        );
        $widths = array_map(static fn (mixed $row): int => $row instanceof stdClass ? (int) $row->width : 0, $rows);
        sort($widths);

        return $widths;
    }

    private function lies(bool $isFolder): string
    {
        return $isFolder
            ? 'f.path like ?'
            : '(f.path = ? or f.media_item_id = (select o.media_item_id from files o where o.site_id = ? and o.path = '
                    .'? and o.is_original))';
    }

    public function usesBelow(string $address): iterable
    {
        $rest = preg_replace('~^https?://(?:www\.)?~i', '', $address) ?? '';
        $likes = [];
        foreach (['http://', 'https://', 'http://www.', 'https://www.'] as $scheme) {
            $likes[] = addcslashes($scheme.$rest, '%_\\').'%';
        }

        return $this->placed(
            <<<'SQL'
            select m.record_id, jsonb_agg(jsonb_build_array(m.field, m.start, m.length, m.path, m.outcome, m.asked,
                m.candidates, m.item, m.by_address, m.leads) order by m.field, m.start) as places
            from findings m where m.site_id = ? and m.url like any(cast(? as text[])) group by m.record_id
            SQL
            ,
            [$this->site->id, Sql::texts($likes)],
        );
    }

    /** @return array{string, list<string>} a condition on numbered places, and its values */
    private function chosen(Places $places): array
    {
        if ($places->areAll()) {
            return ['true', []];
        }
        $list = json_encode(
            array_map(
                static fn (Place $p): array => ['k' => $p->kind, 'r' => $p->key, 'f' => $p->field, 'n' => $p->nth],
                $places->places,
            ),
            JSON_THROW_ON_ERROR,
        );

        return [
            ($places->listed ? '' : 'not ')
            .'exists (select 1 from jsonb_to_recordset(cast(? as jsonb)) as c(k text, r text, f text, n integer) '
            .'where c.k = p.kind and c.r = p.key and c.f = numbered.field and c.n = numbered.nth)',
            [$list],
        ];
    }

    /**
     * @param  array<mixed>  $rows
     * @return list<RecordUses>
     */
    private function batch(array $rows): array
    {
        $keys = $records = [];
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $keys[$row->kind][] = (string) $row->key;
        }
        foreach ($keys as $kind => $own) {
            foreach ($this->site->content->find((string) $kind, $own) as $record) {
                $records[$kind][$record->key] = $record;
            }
        }

        return array_values(
            array_map(static function (stdClass $row) use ($records): RecordUses {
                $uses = [];
                foreach (json_decode((string) $row->places, true, 8, JSON_THROW_ON_ERROR) as $place) {
                    $uses[] = self::use($place);
                }

                return new RecordUses(
                    $row->kind,
                    (string) $row->key,
                    $row->title,
                    $row->content_hash,
                    $uses,
                    $records[$row->kind][(string) $row->key] ?? null,
                );
            }, $rows),
        );
    }

    /** @param  array<int, mixed>  $place field, start, length, path; of a finding, what it is, asks for and may mean */
    private static function use(array $place): PlacedUse
    {
        [$field, $start, $length, $path] = $place;
        $finding = ! isset($place[4])
            ? null
            : new Finding(
                OutcomeKind::from((string) $place[4]),
                $place[5],
                $path,
                array_values(array_filter(is_array($place[6]) ? $place[6] : [], is_string(...))),
                $place[7],
                $place[8] === true,
                $place[9] === true,
            );

        return new PlacedUse((string) $field, (int) $start, (int) $length, $path, $finding);
    }

    public function idle(IdleQuestion $question): iterable
    {
        return (new RestFacts($this->site))->idle($question);
    }

    public function lostSizes(?int $item, ?int $width): iterable
    {
        return (new LostSizes($this->site, $this->media(...)))->of($item, $width);
    }

    public function canRedraw(Idle $rendition): ?bool
    {
        if ($this->tried++ >= self::TRIED) {
            return null;
        }

        return (new Redrawing(
            $this->site,
            $this->media(...),
            $this->original(...),
            $this->draw(...),
            $this->vault,
        ))->isAlike($rendition);
    }

    public function chosenWidths(): ?array
    {
        return (new RestFacts($this->site))->widths();
    }

    public function newBag(): string
    {
        return (new RestFacts($this->site))->newBag();
    }

    public function restsUntil(): string
    {
        return (new RestFacts($this->site))->restsUntil();
    }

    public function resting(RestingQuestion $question): iterable
    {
        return (new RestFacts($this->site))->resting($question);
    }
}
