<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** Works out from names and values of columns when a row is out. */
final readonly class States
{
    /** Tables whose rows begin and end to be shown at their dates; elsewhere a start is that of the thing itself. */
    private const SHOWN_IN_TIME =
        '~(?:^|_)(?:banner|ad|ads|advert|promo|promotion|campaign|notice|popup|announcement|slot|placement|sponsor|'
        .'offer|coupon|alert|teaser|spot|werbung|anzeige|hinweis|publicite|annonce|anuncio|aviso|annuncio|advertentie)'
        .'(?:_|$)~';

    /** Spellings of moments, each with what the field map calls it. */
    private const FORMS = [
        'unix' => '~^[1-9]\d{8,9}$~',
        // Of a minute of this century, digits alone are as many as milliseconds were until 2001.
        'compact' => '~^(?:19|20)\d\d(?:0[1-9]|1[0-2])(?:0[1-9]|[12]\d|3[01])'
            .'(?:T?(?:[01]\d|2[0-3])[0-5]\d(?:[0-5]\d)?)?$~',
        'unix-ms' => '~^[1-9]\d{11,12}$~',
        'date' => '~^\d{4}-\d\d-\d\d(?:[ T]\d\d:\d\d.*)?$~',
        'd.m.Y' => '~^\d\d\.\d\d\.\d{4}$~',
        'd.m.Y H:i' => '~^\d\d\.\d\d\.\d{4} \d\d:\d\d$~',
        'd/m/Y' => '~^\d\d/\d\d/\d{4}$~',
    ];

    /** When something came out: without a day it has not yet, and before that day neither. */
    private const CAME_OUT = '~(?:^|_)(?:published|released)(?:_?(?:at|on|date|time))?$~';

    private const NOTHING = '~^[0\s:.TZ/+-]*$~';

    /**
     * @param  string  $stem of the table's name
     * @param  string  $join the name of the join through which its columns are named; empty for the kind's own table
     * @return array{list<array<string, mixed>>, list<Question>} rules as the field map says them, and what is asked
     */
    public function of(TableProfile $table, string $stem, string $join = ''): array
    {
        $rules = $questions = $dates = [];
        foreach ($table->columns as $column) {
            $name = ($join === '' ? '' : "$join.").$column->name;
            $cameOut = preg_match(self::CAME_OUT, Hints::apart($column->name)) === 1 ? self::form($column) : null;
            if ($cameOut !== null) {
                $rules[] = ['column' => $name, 'empty' => 'waiting'];
                $dates['from'] ??= $cameOut === 'date' ? $name : ['column' => $name, 'as' => $cameOut];

                continue;
            }
            if (Hints::say(Hints::GONE, $column->name)) {
                $rules[] = ['column' => $name, 'set' => 'fading'];
            } elseif (Hints::say(Hints::HIDDEN, $column->name) && $this->isFlag($column)) {
                $rules[] = [
                    'column' => $name,
                    'set' => preg_match('~cancel|closed~i', $column->name) === 1 ? 'fading' : 'waiting',
                ];
            } elseif (Hints::say(Hints::STATUS, $column->name) && count($column->distinct()) <= 12) {
                [$rule, $question] = $this->words($table, $column, $name);
                if ($rule !== null) {
                    $rules[] = $rule;
                }
                if ($question !== null) {
                    $questions[] = $question;
                }
            }
            foreach (['from' => Hints::FROM, 'until' => Hints::UNTIL] as $end => $hint) {
                $isShown =
                    preg_match('~publish|valid|visible|show|live|online|embargo|expir~i', $column->name) === 1
                    || preg_match(self::SHOWN_IN_TIME, $stem) === 1;
                $form = Hints::say($hint, $column->name) && $isShown ? self::form($column) : null;
                if ($form !== null && ! isset($dates[$end])) {
                    $dates[$end] = $form === 'date' ? $name : ['column' => $name, 'as' => $form];
                }
            }
        }

        return [$dates === [] ? $rules : [...$rules, $dates], $questions];
    }

    /** How the moments of a column are written, or null where it holds none. */
    public static function form(ColumnProfile $column): ?string
    {
        if ($column->type === ColumnType::Moment) {
            return 'date';
        }
        $values = array_values(preg_grep(self::NOTHING, $column->values, PREG_GREP_INVERT) ?: []);
        if ($values === []) {
            return null;
        }
        foreach (self::FORMS as $form => $pattern) {
            if (count(preg_grep($pattern, $values) ?: []) >= 0.9 * count($values)) {
                return $form;
            }
        }

        return null;
    }

    private function isFlag(ColumnProfile $column): bool
    {
        return $column->type === ColumnType::Flag
            || $column->share('~^(?:0|1|y|n|t|f|j|o|s|true|false|yes|no|ja|nein|nee|oui|non|si|sí|tak|nie)$~iu') === 1.0
            || $column->type === ColumnType::Moment;
    }

    /** @return array{array<string, mixed>|null, Question|null} */
    private function words(TableProfile $table, ColumnProfile $column, string $name): array
    {
        if ($column->type === ColumnType::Moment || $column->values === [] || count($column->distinct()) > 12) {
            return $column->type === ColumnType::Moment && $column->values !== []
                ? [['column' => $name, 'empty' => 'waiting'], null]
                : [null, null];
        }
        if ($this->isFlag($column)) {
            return [['column' => $name, 'empty' => 'waiting', ...$this->letters($column)], null];
        }
        $words = ['live' => [], 'fading' => []];
        $open = [];
        foreach ($column->distinct() as $word) {
            $state = Hints::state($word);
            if ($state === null) {
                $open[] = $word;
            } elseif ($state !== 'waiting') {
                $words[$state][] = $word;
            }
        }
        if ($words['live'] === [] && $open === []) {
            return [null, null];
        }
        $question = null;
        if ($open !== []) {
            // Of numbers, 1 is what most sites mean by "out", or what most of the rows have.
            $counts = array_count_values($column->values);
            $most = array_filter(
                $open,
                static fn (string $w): bool => $w !== '0' && count($column->values) < $counts[$w] * 2,
            );
            $live = array_values(array_unique([...in_array('1', $open, true) ? ['1'] : [], ...$most]));
            $words['live'] = [...$words['live'], ...$live];
            $others = array_values(array_diff($open, ['0', ...$live]));
            if ($others !== []) {
                $question = new Question(
                    "$table->name.$column->name",
                    "Which of these numbers in $table->name.$column->name mean that something is out on the site?",
                    [
                        '' => $live === [] ? 'None of them' : 'Only '.implode(' and ', $live),
                        implode(',', $others) => 'These as well: '.implode(', ', $others),
                    ],
                    $column->distinct(),
                );
            }
        }

        return [
            [
                'column' => $name,
                ...array_filter(array_map(self::values(...), $words), static fn (array $w): bool => $w !== []),
            ],
            $question,
        ];
    }

    /** @return array<string, mixed> what letters mean, where a flag is one */
    private function letters(ColumnProfile $column): array
    {
        $no = array_values(preg_grep('~^(?:n|no|off|nein|nee|non|nie)$~i', $column->distinct()) ?: []);

        return $no === [] ? [] : ['waiting' => $no, 'otherwise' => 'live'];
    }

    /**
     * @param  list<string>  $words
     * @return list<int|string>
     */
    private static function values(array $words): array
    {
        return array_map(
            static fn (string $w): int|string => preg_match('~^-?\d{1,9}$~', $w) === 1 ? (int) $w : $w,
            $words,
        );
    }
}
