<?php

declare(strict_types=1);

namespace App\Usage;

use App\Models\Address;
use App\Models\Link;
use App\Models\Record;
use Illuminate\Support\Collection;

/** What links say of one record: who links to it, and which of its own links lead to no page that is known. */
final readonly class Links
{
    private const EACH = 50;

    public function __construct(private Record $record)
    {
    }

    /** @return array{int, Collection<int, Record>} how many links lead here, and the first records that hold one */
    public function to(): array
    {
        $links = Link::query()->whereIn(
            'address_id',
            Address::query()->where('page_id', $this->record->id)->select('id'),
        );

        return [
            (clone $links)->count(),
            Record::query()
                ->whereIn('id', $links->select('record_id'))
                ->orderBy('kind')
                ->orderBy('title')
                ->orderBy('id')
                ->limit(self::EACH)
                ->get(),
        ];
    }

    /** @return array{int, Collection<int, Link>} how many of its links lead to no page of the map, and the first */
    public function nowhere(): array
    {
        $links = Link::query()
            ->where('record_id', $this->record->id)
            ->whereHas('address', fn ($address) => $address->whereNull('page_id'));

        return [(clone $links)->count(), $links->orderBy('field')->orderBy('start')->limit(self::EACH)->get()];
    }
}
