<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Support\Carbon;
use Ylema\Addresses\SiteAddresses;

/**
 * @property int $id
 * @property string $slug
 * @property string $name
 * @property string $address
 * @property list<string> $former
 * @property list<string> $aliases other addresses that serve the same
 * @property string $field_map
 * @property array{dsn: string, user: string, password: string, folder: string, disk?: string, code?: string,
 *     content?: string, remote?: array<string, string>,
 *     roots?: list<array{at: string, folder: string, remote?: array<string, string>}>} $connection encrypted at rest;
 *     roots are folders that are served at addresses of their own, remote is what RemoteFiles opens
 * @property array<string, string> $reach_at host → origin on which this machine reaches it
 * @property Carbon|null $read_at
 * @property string|null $read_with what the index was made with
 * @property bool $ask_public whether verification may ask the site's own public address
 * @property int $at_once questions that a survey has open at a time
 * @property int $pause milliseconds before each of them
 * @property array{figures: array<string, int>, sentence: string}|null $surveyed what surveys showed
 * @property array{files: int, left: list<array{place: string, why: string}>}|null $code what of its own code was read,
 *     and what was not; null where no map says where it is
 * @property array{tables: int, files: int, left: list<array{place: string, why: string}>, more: int}|null $beside what
 *     was searched beside the field map, and what was not
 * @property array<string, mixed> $keeping how it keeps what is retired
 * @property bool $writes whether plans may be carried out; a site that was just connected is only read
 * @property string|null $nightly `HH:MM` in UTC, from when on it is read and surveyed each night
 * @property string|null $nightly_read_on the day on which that was begun last
 * @property string|null $nightly_surveyed_on
 * @property array<string, string> $hosts host → allow or adopt, as a maintainer decided
 */
final class Site extends Model
{
    protected $guarded = [];

    protected $hidden = ['connection', 'field_map'];

    /** @var array<string, mixed> */
    protected $attributes = [
        'former' => '[]',
        'aliases' => '[]',
        'reach_at' => '{}',
        'hosts' => '{}',
        'at_once' => 4,
        'pause' => 0,
        'surveyed' => null,
        'code' => null,
        'beside' => null,
        'keeping' => '{}',
        'writes' => true,
        'nightly' => null,
        'nightly_read_on' => null,
        'nightly_surveyed_on' => null,
    ];

    /** @var array<string, string> */
    protected $casts = [
        'former' => 'array',
        'aliases' => 'array',
        'connection' => 'encrypted:array',
        'reach_at' => 'array',
        'read_at' => 'datetime',
        'ask_public' => 'boolean',
        'writes' => 'boolean',
        'hosts' => 'array',
        'surveyed' => 'array',
        'code' => 'array',
        'beside' => 'array',
        'keeping' => 'array',
    ];

    public function addresses(): SiteAddresses
    {
        return new SiteAddresses($this->address, $this->former, $this->aliases);
    }

    /** Where a person at this machine opens the public site: a page's address below the root comes behind it. */
    public function publicAt(): string
    {
        $now = $this->addresses()->now;
        $origin = $this->reach_at[$now->host] ?? null;

        return $origin === null ? (string) $now->withoutQuery() : rtrim($origin, '/').$now->path;
    }

    /** Routes name a site by its short name. */
    public function getRouteKeyName(): string
    {
        return 'slug';
    }

    /** @return HasMany<MediaItem, $this> */
    public function mediaItems(): HasMany
    {
        return $this->hasMany(MediaItem::class);
    }

    /** @return HasMany<Record, $this> */
    public function records(): HasMany
    {
        return $this->hasMany(Record::class);
    }

    /** @return HasMany<Reading, $this> */
    public function readings(): HasMany
    {
        return $this->hasMany(Reading::class);
    }

    /** @return HasMany<Bag, $this> */
    public function bags(): HasMany
    {
        return $this->hasMany(Bag::class);
    }

    /** @return HasMany<Change, $this> */
    public function changes(): HasMany
    {
        return $this->hasMany(Change::class);
    }

    /** @return HasMany<Plan, $this> */
    public function plans(): HasMany
    {
        return $this->hasMany(Plan::class);
    }

    /** @return HasMany<MediaFile, $this> */
    public function files(): HasMany
    {
        return $this->hasMany(MediaFile::class);
    }

    /** @return HasMany<MediaReference, $this> */
    public function references(): HasMany
    {
        return $this->hasMany(MediaReference::class);
    }
}
