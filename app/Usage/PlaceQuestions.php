<?php

declare(strict_types=1);

namespace App\Usage;

use App\Models\Site;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Plan\Words;

/**
 * What only somebody who knows the site can tell of places that the field map leaves out: whether the numbers in a
 * column are keys of media, and whether a list of nearly all items says that they are used. Until it is answered, what
 * such a place names counts as named.
 */
final readonly class PlaceQuestions
{
    private const LISTED = 200;

    /** SQL: those that the last reading met. */
    private const MET = 'reading_id >= coalesce((select max(id) from readings where site_id = place_questions.site_id '
        ."and prepared and state = 'done'), 0)";

    public function __construct(private Site $site)
    {
    }

    /**
     * Unanswered ones first.
     *
     * @return list<array{id: int, kind: string, place: string, names: int, of: int, asks: string, answer: bool|null}>
     */
    public function all(): array
    {
        $rows = DB::table('place_questions')
            ->where('site_id', $this->site->id)
            ->whereRaw(self::MET)
            ->orderByRaw('answer is not null, names desc, place')
            ->limit(self::LISTED)
            ->get();

        return array_values($rows->map(static fn (stdClass $row): array => [
            'id' => (int) $row->id,
            'kind' => (string) $row->kind,
            'place' => (string) $row->place,
            'names' => (int) $row->names,
            'of' => (int) $row->of,
            'asks' => self::asks($row),
            'answer' => $row->answer,
        ])->all());
    }

    public function open(): int
    {
        return DB::table('place_questions')
            ->where('site_id', $this->site->id)
            ->whereNull('answer')
            ->whereRaw(self::MET)
            ->count();
    }

    /** @return bool whether there is such a question; what is known of files has to be settled anew after it */
    public function answer(int $question, bool $names): bool
    {
        return DB::table('place_questions')
            ->where('site_id', $this->site->id)
            ->where('id', $question)
            ->update(['answer' => $names, 'answered_at' => now()]) > 0;
    }

    private static function asks(stdClass $row): string
    {
        $of = Words::many((int) $row->of, 'value');

        return $row->kind === 'keys'
            ? ((int) $row->names === (int) $row->of ? "Its $of" : "$row->names of its $of").' could be ids of media.'
            : 'It names '.((int) $row->names === (int) $row->of ? 'all' : "$row->names of $row->of")
                .' items, as a list of uploads would.';
    }
}
