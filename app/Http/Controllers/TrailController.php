<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\MediaItem;
use App\Models\MediaReference;
use App\Models\Site;
use App\Sites\SiteOpener;
use App\Usage\Trail;
use Illuminate\Http\JsonResponse;
use Ylema\Reading\Excerpt;
use Ylema\Sites\SourceRecord;

final class TrailController
{
    public function show(Site $site, MediaItem $mediaItem, Trail $trail): JsonResponse
    {
        return new JsonResponse($trail->of($site, $mediaItem));
    }

    /** The raw text of the record around the reference, read from the source at this moment. */
    public function excerpt(Site $site, MediaReference $reference, SiteOpener $opener): JsonResponse
    {
        abort_unless($reference->site_id === $site->id, 404);
        $reference->load(['record', 'address']);
        $open = $opener->open($site);
        $text = null;
        foreach ($open->content->find($reference->record->kind, [$reference->record->key]) as $record) {
            if ($record->contentHash === trim($reference->record->content_hash)) {
                $text = $record->field($reference->field)?->text;
            }
        }
        // What no text names is shown by its path.
        if ($reference->field === SourceRecord::FILES) {
            $text = $reference->value;
        }
        $excerpt = match (true) {
            $text === null => null,
            $reference->field === SourceRecord::FILES => Excerpt::of($text, 0, strlen($text), 0),
            default => Excerpt::of($text, $reference->start, $reference->length, 360),
        };

        return new JsonResponse([
            'id' => $reference->id,
            'field' => $reference->field,
            'value' => $reference->value,
            'role' => $reference->role,
            'fetch' => $reference->fetch,
            'layers' => $reference->layers,
            'line' => $reference->line,
            'column' => $reference->col,
            'start' => $reference->start,
            'length' => $reference->length,
            'context' => (object) $reference->context,
            'outcome' => $reference->outcome,
            'sentence' => $reference->sentence(),
            'record' => [
                'id' => $reference->record->id,
                'kind' => $reference->record->kind,
                'key' => $reference->record->key,
                'title' => $reference->record->title,
            ],
            'changed' => $text === null,
            'lead' => $excerpt === null ? '' : $excerpt->lead,
            'marked' => $excerpt === null ? '' : $excerpt->marked,
            'tail' => $excerpt === null ? '' : $excerpt->tail,
            'cut_before' => $excerpt !== null && $excerpt->cutBefore,
            'cut_after' => $excerpt !== null && $excerpt->cutAfter,
        ]);
    }
}
