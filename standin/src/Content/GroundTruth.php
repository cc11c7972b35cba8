<?php

declare(strict_types=1);

namespace Standin\Content;

/** What the generator planted, written down as it plants it, so that the map can be held against it. */
final class GroundTruth
{
    /**
     * @var list<array{
     *     kind: string, key: string, field: string, value: string,
     *     names: string, media: string|null, file: string|null, outcome: string,
     * }>
     */
    public array $uses = [];

    /**
     * Links that lead visitors nowhere, or not straight; where each should lead, as far as the evidence says it.
     *
     * @var list<array{kind: string, key: string, field: string, value: string, outcome: string, to: string|null}>
     */
    public array $links = [];

    /** @var array<string, list<string>> record → records that it shows, as `kind:key` */
    public array $carries = [];

    /** @var array<string, string> story → path of the item that plays it */
    public array $stories = [];

    /** @var array<string, string> path of an item that no record names → needed, ask or safe, once all was looked at */
    public array $retire = [];

    /** @param  MediaItem|null  $media the item that a person would say is meant */
    public function address(
        string $kind,
        string $key,
        string $field,
        string $value,
        ?MediaItem $media,
        ?string $file,
        string $outcome = 'found',
    ): void {
        $this->uses[] = [
            'kind' => $kind,
            'key' => $key,
            'field' => $field,
            'value' => $value,
            'names' => 'address',
            'media' => $media?->path,
            'file' => $file,
            'outcome' => $outcome,
        ];
    }

    public function id(string $kind, string $key, string $field, MediaItem $media): void
    {
        $this->uses[] = [
            'kind' => $kind,
            'key' => $key,
            'field' => $field,
            'value' => (string) $media->id,
            'names' => 'media-item',
            'media' => $media->path,
            'file' => null,
            'outcome' => 'found',
        ];
    }

    /** @param  string|null  $to path below the root; null where a person must say it */
    public function link(string $kind, string $key, string $field, string $value, string $outcome, ?string $to): void
    {
        $this->links[] = [
            'kind' => $kind,
            'key' => $key,
            'field' => $field,
            'value' => $value,
            'outcome' => $outcome,
            'to' => $to,
        ];
    }

    public function carries(string $kind, string $key, string $shownKind, string $shownKey): void
    {
        $this->carries["$kind:$key"][] = "$shownKind:$shownKey";
    }

    public function json(): string
    {
        return json_encode(
            [
                'uses' => $this->uses,
                'links' => $this->links,
                'carries' => $this->carries,
                'stories' => $this->stories,
                'retire' => $this->retire,
            ],
            JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR,
        );
    }
}
