<?php

declare(strict_types=1);

namespace App\Changes;

use App\Media\Pictures;
use App\Media\Uploads;
use App\Models\MediaFile;
use App\Models\MediaItem;
use App\Models\MediaReference;
use App\Models\Plan;
use App\Models\PlanWrite;
use App\Models\Record;
use App\Models\Site;
use App\Models\User;
use App\Sites\OpenSite;
use App\Sites\SiteOpener;
use App\Usage\UsageIndex;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Ylema\Change\EditConflict;
use Ylema\Change\Edits;
use Ylema\Imaging\Crop;
use Ylema\Imaging\PictureFile;
use Ylema\Imaging\Size;
use Ylema\Imaging\UploadRefused;
use Ylema\Reading\CannotEncode;
use Ylema\Reading\Excerpt;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Reference;
use Ylema\Sites\FileMissing;
use Ylema\Sites\NewMedia;
use Ylema\Sites\SourceRecord;
use Ylema\Swap\FieldUses;
use Ylema\Swap\MediaFacts;
use Ylema\Swap\SwapPlanner;

/**
 * Makes the plan of a swap: every write listed with its before and after, nothing written to the site.
 * The bytes of both sides go into the vault now, so that applying needs nothing but the plan.
 */
final class SwapPlans
{
    public function __construct(
        private readonly SiteOpener $opener,
        private readonly Vault $vault,
        private readonly Uploads $uploads,
        private readonly FieldReader $reader,
    ) {
    }

    /** @throws PlanRefused|UploadRefused */
    public function make(Site $model, SwapRequest $request, ?User $by): Plan
    {
        $site = $this->opener->open($model);
        $from = MediaItem::query()->where('site_id', $site->id)->find($request->from) ?? throw new PlanRefused('The item to be swapped is not on this site.');
        if ($request->to !== null && $request->to === $request->from) {
            throw new PlanRefused('An item cannot be swapped for itself. Choose another one.');
        }
        $to = $request->to === null ? null : (MediaItem::query()->where('site_id', $site->id)->find($request->to) ?? throw new PlanRefused('The item that shall stand in is not on this site.'));
        if ($to === null && $request->upload === null) {
            throw new PlanRefused('Choose another item, or upload a picture, to stand in.');
        }
        [$writes, $title, $summary] = $request->sameAddress ? $this->sameAddress($site, $from, $to, $request) : $this->newReference($site, $from, $to, $request);
        if ($writes === []) {
            throw new PlanRefused('There is nothing to change: no chosen place refers to this item.');
        }

        return DB::transaction(function () use ($model, $request, $by, $writes, $title, $summary): Plan {
            $plan = Plan::query()->create(['site_id' => $model->id, 'kind' => 'swap', 'title' => $title, 'request' => $request->toArray(), 'summary' => $summary, 'made_by' => $by?->id]);
            foreach ($writes as $position => $write) {
                $plan->writes()->create(['position' => $position, ...$write]);
            }

            return $plan;
        });
    }

    /** The same request against the site as it is now. @throws PlanRefused|UploadRefused */
    public function again(Plan $plan, ?User $by): Plan
    {
        $request = SwapRequest::fromArray($plan->request);
        if ($request->places !== null) {
            $request = $request->at($this->placesNow($plan, $request));
        }
        $new = $this->make($plan->site, $request, $by);
        if ($plan->state === 'open') {
            $plan->update(['state' => 'dropped']);
        }

        return $new;
    }

    /**
     * A record that was read again has new numbers for its references, so the chosen places are found by their records.
     *
     * @return list<int>
     */
    private function placesNow(Plan $plan, SwapRequest $request): array
    {
        $records = $plan->writes()->where('target', 'record')->get(['record_kind', 'record_key'])->map(static fn (PlanWrite $w): string => "{$w->record_kind}\0{$w->record_key}")->flip();

        return array_values(MediaReference::query()->where('media_item_id', $request->from)->with('record')->get()
            ->filter(static fn (MediaReference $r): bool => isset($records["{$r->record->kind}\0{$r->record->key}"]))->pluck('id')->all());
    }

    /** @return array{list<array<string, mixed>>, string, array<string, mixed>} writes, title, summary */
    private function sameAddress(OpenSite $site, MediaItem $from, ?MediaItem $to, SwapRequest $request): array
    {
        [$bytes, $name, $extension] = $this->replacementBytes($site, $to, $request);
        $image = $extension === 'svg' ? null : Pictures::decode($bytes, $name);
        $files = $from->files()->orderByDesc('is_original')->orderBy('path')->get();
        if ($files->isEmpty()) {
            throw new PlanRefused('This item has no file whose bytes could be replaced; its original is missing.');
        }
        $writes = [];
        $worst = 0.0;
        foreach ($files as $file) {
            $type = strtolower(pathinfo($file->path, PATHINFO_EXTENSION));
            $after = $bytes;
            if (! $file->is_original || ! self::sameType($type, $extension)) {
                if ($image === null || ! in_array($type, Pictures::WRITABLE, true)) {
                    throw new PlanRefused("\"$name\" is a .$extension file and cannot be drawn as the .$type file {$file->path}. Upload a .$type picture, or swap by new reference.");
                }
                $size = $file->is_original || $file->width === null || $file->height === null ? new Size(imagesx($image), imagesy($image)) : new Size($file->width, $file->height);
                $worst = max($worst, Crop::toFill(new Size(imagesx($image), imagesy($image)), $size)->loss(new Size(imagesx($image), imagesy($image))));
                $after = Pictures::encode(Pictures::fill($image, $size, $from->focus_x ?? 0.5, $from->focus_y ?? 0.5), $type);
            }
            $writes[] = $this->fileWrite($site, $file->path, $after, $file);
        }
        $records = MediaReference::query()->where('media_item_id', $from->id)->distinct()->pluck('record_id')->all();
        $summary = ['manner' => 'same-address', 'references' => $from->uses, 'records' => count($records), 'files' => count($writes), 'cropped' => round($worst, 3), 'from' => $from->id, 'to' => $to?->id, ...$this->reach($site, $records)];

        return [$writes, sprintf('%s: new bytes behind the same address, from %s', $from->title === '' ? $from->path : $from->title, $to === null ? $name : ($to->title === '' ? $to->path : $to->title)), $summary];
    }

    /** @return array{list<array<string, mixed>>, string, array<string, mixed>} */
    private function newReference(OpenSite $site, MediaItem $from, ?MediaItem $to, SwapRequest $request): array
    {
        $writes = [];
        $fromFacts = self::facts($from);
        if ($to !== null) {
            if (! $to->files()->where('is_original', true)->exists()) {
                throw new PlanRefused("\"{$to->path}\" has no file of its own, so nothing may be pointed at it. Choose an item whose file is there.");
            }
            $toFacts = self::facts($to);
            $toName = $to->title === '' ? $to->path : $to->title;
        } else {
            [$writes, $toFacts, $toName] = $this->newItem($site, $from, $request);
        }
        $references = MediaReference::query()->where('media_item_id', $from->id)->when($request->places !== null, fn ($q) => $q->whereIn('id', $request->places ?? []))->with(['record', 'address'])->orderBy('id')->get();
        $files = count($writes);
        $edits = $skipped = 0;
        $planner = new SwapPlanner($site->addresses, pages: $site->map->mediaPages);
        foreach ($references->groupBy(static fn (MediaReference $r): string => $r->record->kind) as $kind => $ofKind) {
            $byRecord = $ofKind->groupBy(static fn (MediaReference $r): string => $r->record->key);
            $seen = [];
            foreach ($site->content->find((string) $kind, array_values(array_map(strval(...), $byRecord->keys()->all()))) as $record) {
                $seen[$record->key] = true;
                /** @var Collection<int, MediaReference> $own */
                $own = $byRecord->get($record->key) ?? new Collection;
                $write = $this->recordWrite($planner, $record, $own, $fromFacts, $toFacts);
                $edits += $write['problem'] === null ? count($own) : 0;
                $skipped += $write['problem'] === null ? 0 : count($own);
                $writes[] = $write;
            }
            foreach ($byRecord as $key => $own) {
                if (! isset($seen[$key])) {
                    $skipped += count($own);
                    $writes[] = ['target' => 'record', 'record_kind' => $kind, 'record_key' => (string) $key, 'title' => $own[0]->record->title, 'before_hash' => null, 'after_hash' => null, 'detail' => ['fields' => []], 'problem' => 'This record no longer exists in the source. Read the site again.'];
                }
            }
        }
        // Files and rows first, in the order in which they must be made; records as a person would list them.
        $made = array_values(array_filter($writes, static fn (array $w): bool => $w['target'] !== 'record'));
        $records = array_values(array_filter($writes, static fn (array $w): bool => $w['target'] === 'record'));
        usort($records, static fn (array $a, array $b): int => strcmp((string) $a['record_kind'], (string) $b['record_kind']) ?: strnatcasecmp((string) $a['title'], (string) $b['title']));
        $writes = [...$made, ...$records];
        if ($edits + $skipped === 0) {
            throw new PlanRefused('There is nothing to change: no chosen place refers to this item.');
        }
        $records = $references->pluck('record_id')->unique()->values()->all();
        $summary = ['manner' => 'new-reference', 'references' => $edits, 'skipped' => $skipped, 'records' => count($records), 'files' => $files, 'from' => $from->id, 'to' => $to?->id, 'chosen' => $request->places !== null, ...$this->reach($site, $records)];

        return [$writes, sprintf('%s: shown as %s', $from->title === '' ? $from->path : $from->title, $toName), $summary];
    }

    /**
     * @param  Collection<int, MediaReference>  $known the references of this record in the index
     * @return array<string, mixed>
     */
    private function recordWrite(SwapPlanner $planner, SourceRecord $record, Collection $known, MediaFacts $from, MediaFacts $to): array
    {
        $write = ['target' => 'record', 'record_kind' => $record->kind, 'record_key' => $record->key, 'title' => $record->title, 'before_hash' => $record->contentHash, 'after_hash' => null, 'detail' => ['fields' => []], 'problem' => null];
        $row = $known->first();
        if ($row !== null && trim($row->record->content_hash) !== $record->contentHash) {
            return [...$write, 'problem' => 'This record was changed since the site was last read. Read the site again, then plan again.'];
        }
        $texts = [];
        $fields = [];
        try {
            foreach ($record->fields as $field) {
                $texts[$field->name] = $field->text;
                $wanted = $known->where('field', $field->name)->keyBy(static fn (MediaReference $r): string => $r->start.':'.$r->length);
                if ($wanted->isEmpty()) {
                    continue;
                }
                $uses = [];
                foreach ($this->reader->read($field->text, $field->notation, $field->rules)->references as $reference) {
                    $use = $wanted->get($reference->start.':'.$reference->length);
                    if ($use !== null) {
                        $uses[] = [$reference, $use->address?->path];
                    }
                }
                $edits = $planner->field(new FieldUses($field, $uses), $from, $to);
                $after = $edits->applyTo($field->text);
                $texts[$field->name] = $after;
                $fields[$field->name] = ['before' => $this->vault->put($field->text), 'after' => $this->vault->put($after), 'edits' => self::shown($field->text, $edits, $uses)];
            }
        } catch (CannotEncode|EditConflict $e) {
            return [...$write, 'problem' => $e->getMessage()];
        }

        return [...$write, 'after_hash' => SourceRecord::hashOf($texts), 'detail' => ['fields' => $fields]];
    }

    /**
     * The edits as a person reads them: what stands there now and after, with a little of the text around.
     *
     * @param  list<array{Reference, string|null}>  $uses
     * @return list<array<string, mixed>>
     */
    private static function shown(string $before, Edits $edits, array $uses): array
    {
        $roles = [];
        foreach ($uses as [$reference]) {
            $roles[$reference->start] = [$reference->role, $reference->context()->line];
        }
        $shown = [];
        foreach ($edits->edits as $edit) {
            $excerpt = Excerpt::of($before, $edit->start, strlen($edit->before), 70);
            $shown[] = [
                'start' => $edit->start, 'before' => $excerpt->marked, 'after' => mb_scrub($edit->after, 'UTF-8'),
                'role' => $roles[$edit->start][0] ?? 'length', 'line' => $roles[$edit->start][1] ?? null,
                'lead' => $excerpt->lead, 'tail' => $excerpt->tail,
            ];
        }

        return $shown;
    }

    /**
     * The files and the media row of an uploaded picture, with the renditions that the old item has.
     *
     * @return array{list<array<string, mixed>>, MediaFacts, string}
     */
    private function newItem(OpenSite $site, MediaItem $from, SwapRequest $request): array
    {
        [$bytes, $name, $extension, $size] = $this->replacementBytes($site, null, $request);
        $stem = Str::slug(pathinfo($name, PATHINFO_FILENAME)) ?: 'picture';
        $folder = dirname($from->path);
        for ($n = 1; $n === 1 || $site->files->exists($path); $n++) {
            $path = $folder.'/'.$stem.($n === 1 ? '' : "-$n").'.'.$extension;
        }
        $writes = [$this->fileWrite($site, $path, $bytes, null)];
        $files = [new PictureFile($path, $size, true)];
        $renditions = [];
        if ($size !== null && $extension !== 'svg') {
            $image = Pictures::decode($bytes, $name);
            foreach ($this->sizesLike($from, $size) as $wanted) {
                $rendition = $site->renditionNames()->renditionOf($path, $wanted->width, $wanted->height);
                $writes[] = $this->fileWrite($site, $rendition, Pictures::encode(Pictures::fill($image, $wanted), $extension), null);
                $files[] = new PictureFile($rendition, $wanted);
                $renditions[] = ['path' => $rendition, 'width' => $wanted->width, 'height' => $wanted->height];
            }
        }
        $title = $request->title !== '' ? $request->title : Str::headline(pathinfo($name, PATHINFO_FILENAME));
        $media = new NewMedia($site->content->newMediaId(), $path, $title, $request->alt, $size?->width, $size?->height, $renditions);
        $writes[] = ['target' => 'media-row', 'title' => $path, 'before_hash' => null, 'after_hash' => null, 'detail' => ['media' => get_object_vars($media)], 'problem' => null];

        return [$writes, new MediaFacts($media->id, $files), $title];
    }

    /**
     * The sizes that the old item was made in, in the new picture's own shape; a square cut stays square. Never enlarged.
     *
     * @return list<Size>
     */
    private function sizesLike(MediaItem $from, Size $size): array
    {
        $sizes = [];
        foreach ($from->files()->where('is_original', false)->whereNotNull('width')->get() as $file) {
            $width = (int) $file->width;
            $wanted = $file->width === $file->height ? new Size($width, $width) : new Size($width, max(1, (int) round($width / $size->ratio())));
            if ($wanted->width < $size->width && $wanted->height <= $size->height) {
                $sizes[(string) $wanted] = $wanted;
            }
        }

        return array_values($sizes);
    }

    /** @return array{string, string, string, Size|null} bytes, name, extension, size */
    private function replacementBytes(OpenSite $site, ?MediaItem $to, SwapRequest $request): array
    {
        if ($to === null) {
            $upload = $this->uploads->open((string) $request->upload);

            return [$upload['bytes'], $upload['name'], $upload['picture']->extension, $upload['picture']->size];
        }
        try {
            $bytes = $site->files->read($to->path);
        } catch (FileMissing) {
            throw new PlanRefused("The original of \"{$to->path}\" is missing, so its bytes cannot stand in. Choose another item.");
        }
        $file = $to->files()->where('is_original', true)->first();

        return [$bytes, basename($to->path), strtolower(pathinfo($to->path, PATHINFO_EXTENSION)), $file?->asPictureFile()->size];
    }

    /** @return array<string, mixed> */
    private function fileWrite(OpenSite $site, string $path, string $after, ?MediaFile $file): array
    {
        $before = null;
        try {
            $before = $this->vault->put($site->files->read($path));
        } catch (FileMissing) {
            // Nothing to keep: the write makes a new file.
        }
        $sha = $this->vault->put($after);
        $size = @getimagesizefromstring($after);

        return ['target' => 'file', 'title' => $path, 'before_hash' => $before, 'after_hash' => $sha, 'problem' => null,
            'detail' => ['path' => $path, 'weight_before' => $file?->size, 'weight_after' => strlen($after), 'width' => $size === false ? null : $size[0], 'height' => $size === false ? null : $size[1]]];
    }

    /**
     * @param  array<mixed>  $records ids
     * @return array{pages: int, page_list: list<array{id: int, title: string, address: string}>}
     */
    private function reach(OpenSite $site, array $records): array
    {
        /** @var list<int> $records */
        $index = new UsageIndex($site->id);
        $pages = $index->graph($records)->pagesOf($records);
        $list = Record::query()->whereIn('id', array_slice($pages, 0, 200))->get(['id', 'title', 'address'])->sort(static fn (Record $a, Record $b): int => strnatcasecmp((string) $a->address, (string) $b->address));

        return ['pages' => count($pages), 'page_list' => array_values($list->map(static fn (Record $r): array => ['id' => $r->id, 'title' => $r->title, 'address' => (string) $r->address])->all())];
    }

    private static function facts(MediaItem $item): MediaFacts
    {
        $files = array_values($item->files()->orderByDesc('is_original')->get()->map(static fn (MediaFile $f): PictureFile => $f->asPictureFile())->all());

        return new MediaFacts((string) $item->source_id, $files === [] ? [new PictureFile($item->path, null, true)] : $files);
    }

    private static function sameType(string $a, string $b): bool
    {
        $plain = static fn (string $type): string => $type === 'jpeg' ? 'jpg' : $type;

        return $plain($a) === $plain($b);
    }
}
