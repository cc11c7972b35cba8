<?php

declare(strict_types=1);

namespace App\Usage;

use App\Models\Record;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Addresses\OutcomeKind;
use Ylema\Usage\RecordState;

/** The marks by which records are chosen in a list; each facet counts under all of them but its own. */
final readonly class RecordFilter
{
    /** @use Marks<Record> */
    use Marks;

    private const FLAGS = ['trouble', 'unread'];

    /**
     * @param  string|null  $except a mark that does not count
     * @return Builder<Record>
     */
    public function query(?string $except = null): Builder
    {
        $query = Record::query()->where('records.site_id', $this->site->id);

        return $this->narrowed($query, $except);
    }

    /** @return array<string, mixed> facet → values with their counts */
    public function facets(): array
    {
        $flag = fn (string $name): int => (new self($this->site, [...$this->marks, $name => '1']))->query()->count();

        return [
            'kind' => self::counts($this->query('kind'), 'records.kind'),
            'state' => array_map(
                static fn (array $row): array => [
                    ...$row,
                    'value' => RecordState::from((int) $row['value'])->word(),
                ],
                self::counts($this->query('state'), 'records.state'),
            ),
            'trouble' => $flag('trouble'),
            'unread' => $flag('unread'),
        ];
    }

    /** @param  Builder<Record>  $query */
    private function narrow(Builder $query, string $name, string $value): void
    {
        match ($name) {
            'q' => Find::records($query, Asked::of($this->site, $value)),
            'kind' => $query->where('records.kind', $value),
            'state' => $query->where('records.state', RecordState::ofWord($value)->value),
            'cause' => $this->withOutcome($query, [$value]),
            'trouble' => $this->withOutcome($query, array_column(OutcomeKind::broken(), 'value')),
            'unread' => $query->whereRaw('jsonb_array_length(records.problems) > 0'),
            default => null,
        };
    }

    /**
     * @param  Builder<Record>  $query
     * @param  array<string>  $outcomes
     */
    private function withOutcome(Builder $query, array $outcomes): void
    {
        $query->whereIn(
            'records.id',
            DB::table('findings')
                ->where('site_id', $this->site->id)
                ->whereIn('outcome', $outcomes)
                ->select('record_id'),
        );
    }

    /**
     * @param  Builder<Record>  $query
     * @return list<array{value: string, count: int}> most first
     */
    private static function counts(Builder $query, string $column): array
    {
        $rows = DB::query()
            ->fromSub($query->select("$column as value"), 'chosen')
            ->selectRaw('value, count(*) as count')
            ->groupBy('value')
            ->orderByRaw('count(*) desc, value')
            ->get()
            ->all();

        return array_values(
            array_map(
                static fn (stdClass $row): array => ['value' => (string) $row->value, 'count' => (int) $row->count],
                $rows,
            ),
        );
    }
}
