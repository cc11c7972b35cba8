<?php

declare(strict_types=1);

namespace Ylema\Connect;

use Ylema\Reading\Notation;

/**
 * Works out which columns of a table refer to media, and how they are read.
 *
 * @phpstan-type Rule string|array<string, mixed>
 */
final class Fields
{
    /** @var array{}|array{MediaKeys} asked for when it is needed first */
    private array $keys = [];

    /** @var array<string, true>|null see called() */
    private ?array $called = null;

    /** Names of settings or details that are listed by themselves; more than that are data. */
    private const NAMES = 400;

    /** Different numbers before a list of them is taken for ids, which is the safer mistake. */
    private const LISTED = 3;

    /** Numbers from one on that most likely count something. */
    private const COUNTED = 12;

    /** What numbers measure or count, whatever ids there may be of the same value. */
    private const MEASURE =
        '~(?:width|height|size|sort|order|pos|position|count|year|month|day|time|price|lat|lng|lon|x|y|columns?|'
        .'rows?)$~i';

    /** Rows of a table that may all be looked at. */
    private const FEW = 20_000;

    /** Characters that a column has room for which holds what texts and lists of settings hold. */
    private const LONG = 200;

    /** What the number of a thing is called inside of it. */
    private const NUMBER = '~^(?:id|ids|uid|uuid|ref|key|value|target(?:_?id)?)$~i';

    /** What a map calls the list of media where values say themselves of what they are. */
    public const MEDIA = 'media';

    /** Ids, with any signs between them that no id has. */
    private const LIST_OF_IDS = '~^(?<sign>[\s,;|/\[\](){}"])*+[\w.-]{1,60}+(?:(?&sign)++[\w.-]{1,60}+)*+(?&sign)*+$~D';

    /** Files below a folder, which are no ids, though some sites know files by their names. */
    private const PATHS = '~/[\w-][\w.-]*\.[a-z0-9]{2,5}(?![\w.])~i';

    /** Different ids before a column without a telling name is asked about. */
    private const TELLING = 8;

    /**
     * @param  array<string, TableProfile>  $tables
     * @param  list<Relation>  $ties
     * @param  string  $prefix what the names of most tables begin with
     */
    public function __construct(
        private readonly array $tables,
        private readonly Looker $looker,
        private readonly Relations $relations,
        private readonly array $ties,
        private readonly Samples $samples,
        private readonly ?MediaTable $media,
        private readonly string $prefix,
    ) {
    }

    /**
     * @return array{string, string, 2?: Relation}|null the columns of name and value, where a table keeps one value a
     *     row; and where the name is a row of another table, how it is tied there
     */
    public function pair(TableProfile $table): ?array
    {
        $keyed = $this->keyed($table);
        if ($keyed !== null) {
            return $keyed;
        }

        return $this->said($table) ?? $this->mixed($table) ?? $this->coded($table);
    }

    /** @return array{string, string}|null by what the columns are called */
    private function said(TableProfile $table): ?array
    {
        foreach ($table->columns as $value) {
            if ($value->type !== ColumnType::Text || ! Hints::say(Hints::VALUE, $value->name)) {
                continue;
            }
            foreach ($table->columns as $name) {
                if (
                    $name->name !== $value->name
                    && $name->type === ColumnType::Text
                    && $name->values !== []
                    && Hints::say(Hints::NAME, $name->name)
                    // What is called so is the name of a page in addresses, and its value is the page's text.
                    && ! Hints::say(Hints::SLUG, $name->name)
                    && $name->share('~^[\w][\w.:/-]{0,80}$~') === 1.0
                    && count($name->distinct()) <= self::NAMES
                ) {
                    return [$name->name, $value->name];
                }
            }
        }

        return null;
    }

    /**
     * By what stands in them, whatever they are called: values of one name are this, and those of another one that.
     *
     * @return array{string, string}|null
     */
    private function mixed(TableProfile $table): ?array
    {
        $long = array_filter(
            $table->columns,
            static fn (ColumnProfile $c): bool => $c->type === ColumnType::Text
                && ($c->length === 0 || $c->length >= self::LONG)
                && $c->values !== [],
        );
        // Each row is looked at for it, which takes long where they are many.
        if (count($long) !== 1 || $table->rows > self::FEW) {
            return null;
        }
        $value = (string) array_key_first($long);
        foreach ($table->columns as $name) {
            $count = count($name->distinct());
            $isName =
                $name->type === ColumnType::Text
                && $name->name !== $value
                && $count > 1
                && $count <= self::NAMES
                && ! Hints::say(Hints::LANGUAGE, $name->name)
                && $name->share('~^[a-z]\w[\w.:/-]{0,80}$~i') === 1.0
                && ! $this->isTied($table, $name);
            if (! $isName) {
                continue;
            }
            [$rules] = $this->ofNames($table, $name->name, $value);
            $kinds = array_unique(array_map(
                static fn (string|array $rule): string => is_array($rule) ? (string) json_encode($rule) : $rule,
                $rules,
            ));
            // Where all names that say anything say the same, they are words by which rows are sorted.
            if (count($kinds) > 1) {
                return [$name->name, $value];
            }
        }

        return null;
    }

    /**
     * Where the names of values are rows of their own: a value says the number of its name.
     *
     * @return array{string, string, Relation}|null
     */
    private function coded(TableProfile $table): ?array
    {
        $values = array_filter(
            $table->columns,
            static fn (ColumnProfile $c): bool => $c->type === ColumnType::Text
                && ($c->length === 0 || $c->length >= self::LONG)
                && $c->values !== [],
        );
        if (count($values) !== 1 || $table->rows > self::FEW) {
            return null;
        }
        $value = (string) array_key_first($values);
        $best = null;
        foreach ($this->ties as $tie) {
            $code = $tie->table === $table->name && $tie->by === null && $tie->to !== $this->media?->table->name
                ? $this->codeOf($tie)
                : null;
            if ($code === null) {
                continue;
            }
            [$rules] = $this->ofNames($table, $code, $value, $tie);
            $kinds = count(array_unique(array_map(
                static fn (string|array $rule): string => is_array($rule) && is_string($rule['notation'] ?? null)
                    ? $rule['notation']
                    : (string) json_encode($rule),
                $rules,
            )));
            $hasIds = in_array('media-id', array_column(array_filter($rules, is_array(...)), 'notation'), true);
            if (($kinds > 1 || $hasIds) && $kinds > ($best[0] ?? 0)) {
                $best = [$kinds, [Hints::joinName($tie->to, $this->prefix).'.'.$code, $value, $tie]];
            }
        }

        return $best[1] ?? null;
    }

    /** The column by which the few rows of a table are called in code. */
    private function codeOf(Relation $tie): ?string
    {
        $table = $this->tables[$tie->to];
        if ($table->rows > self::NAMES) {
            return null;
        }
        foreach ($table->columns as $column) {
            if (
                $column->type === ColumnType::Text
                && $column->name !== $tie->key
                && count($column->values) === $table->rows
                && count($column->distinct()) === count($column->values)
                && $column->share('~^[a-z][\w.:/-]{0,60}$~i') === 1.0
            ) {
                return $column->name;
            }
        }

        return null;
    }

    /**
     * A key of an owner (or a group) and a name, and one value beside it, whatever they are called.
     *
     * @return array{string, string}|null
     */
    private function keyed(TableProfile $table): ?array
    {
        $key = $table->key();
        $values = array_filter(
            $table->columns,
            static fn (ColumnProfile $c): bool => $c->type === ColumnType::Text && ! in_array($c->name, $key, true),
        );
        if (count($key) < 2 || count($values) !== 1) {
            return null;
        }
        $name = null;
        foreach ($key as $column) {
            $own = $table->columns[$column];
            $isName =
                $own->type === ColumnType::Text
                && $own->values !== []
                && ! Hints::say(Hints::LANGUAGE, $column)
                && ! $this->isTied($table, $own)
                && $own->share('~^[a-z][\w.:/-]{0,80}$~i') === 1.0
                && count($own->distinct()) <= self::NAMES;
            if ($isName && ($name === null || count($own->distinct()) > count($table->columns[$name]->distinct()))) {
                $name = $column;
            }
        }

        // A word of two letters is most likely a language.
        return $name === null || $table->columns[$name]->share('~^[a-z]{2}(?:[-_]\w+)?$~i') === 1.0
            ? null
            : [$name, (string) array_key_first($values)];
    }

    /**
     * @param  array{string, string, 2?: Relation}|null  $pair
     * @return array{array<string, Rule>, array<string, string>, list<Question>} column → rule, what speaks for it, and
     *     what is asked
     */
    public function of(TableProfile $table, ?array $pair): array
    {
        $fields = $evidence = $questions = [];
        if ($pair !== null) {
            [$name, $value, $tie] = [...$pair, null];
            $column = $tie === null ? $name : (string) preg_replace('~^.*\.~', '', $name);
            [$rules, $evidence] = $this->ofNames($table, $column, $value, $tie);
            if ($rules !== []) {
                $fields[$pair[1]] = ['by' => $pair[0], 'of' => $rules];
            }
        }
        foreach ($table->columns as $column) {
            if (
                ($pair !== null && in_array($column->name, $pair, true))
                || (in_array($column->name, $table->key(), true) && $table->id() !== null)
            ) {
                continue;
            }
            $typed = $this->typed($table, $column);
            if ($typed !== null) {
                $fields[$column->name] = ['notation' => 'record-key', 'names' => $typed];
                $evidence[$column->name] = count($column->values).' sampled values say of what they are, ids of media '
                    .'among them';

                continue;
            }
            if ($this->isTied($table, $column)) {
                continue;
            }
            [$rule, $why] = $this->column($column->name, $column, $this->isMediaKey($table, $column));
            if ($rule !== null) {
                $fields[$column->name] = $rule;
                $evidence[$column->name] = $why;
            } elseif ($this->couldBeIds($column)) {
                $yes = ['media-id' => 'Yes, they are ids of media'];
                $no = ['no' => 'No, they are something else'];
                $questions[] = new Question(
                    "$table->name.$column->name",
                    "Do the values in $table->name.$column->name name pictures? They are ids of media, but nothing in ".
                        'the name says so.',
                    $this->areLikelyIds($column) ? $yes + $no : $no + $yes,
                    array_slice($column->distinct(), 0, 5),
                );
            }
        }

        return [$fields, $evidence, $questions];
    }

    /**
     * @param  string  $name the column of the names; of the table that is tied, where they are rows of their own
     * @return array{array<string, Rule>, array<string, string>}
     */
    private function ofNames(TableProfile $table, string $name, string $value, ?Relation $tie = null): array
    {
        $rules = $evidence = $codes = [];
        if ($tie !== null) {
            foreach ($this->samples->rows($tie->to, [$tie->key, $name]) as $row) {
                $codes[(string) $row[$tie->key]] = (string) $row[$name];
            }
        }
        foreach ($this->samples->byName($table->name, $tie->column ?? $name, $value) as $own => $values) {
            $own = $codes[$own] ?? $own;
            [$rule, $why] = $this->column((string) $own, new ColumnProfile((string) $own, ColumnType::Text, $values));
            if ($rule !== null) {
                $rules[(string) $own] = $rule;
                $evidence["$value.$own"] = $why;
            }
        }

        return [$rules, $evidence];
    }

    /** Whether the database itself ties the column to the list of media. */
    private function isMediaKey(TableProfile $table, ColumnProfile $column): bool
    {
        return $this->media !== null
            && ($table->foreign[$column->name] ?? null) === [$this->media->table->name, $this->media->table->id()];
    }

    /**
     * @param  bool  $isDeclared whether the database says that these are ids of media
     * @return array{Rule|null, string}
     */
    private function column(string $name, ColumnProfile $column, bool $isDeclared = false): array
    {
        if (
            $column->values === []
            || in_array($column->type, [ColumnType::Rounded, ColumnType::Moment, ColumnType::Flag], true)
        ) {
            return [null, ''];
        }
        $ids = $this->ids($column->values);
        $isNamed = $isDeclared || ($this->saysMedia($name) && ! $this->saysNumber($name, $ids)
            && ($this->areSome($column) || ! Hints::say(Hints::SET, $name)));
        if ($ids !== [] && ($isNamed || self::areLong($ids)) && $this->areMedia($ids)) {
            return [
                ['notation' => 'media-id', 'role' => self::role($name)],
                count($column->values).
                ' of '.
                count($column->values).
                ' sampled values are ids of media, and so says the name',
            ];
        }
        if ($column->type !== ColumnType::Text) {
            return [null, ''];
        }
        $look = $this->looker->look($column->values);
        if ($look->notation === null) {
            return [null, ''];
        }
        $paths = array_map(
            static fn (array $p): array => ['notation' => $p['notation']->value, 'below' => $p['below'] ?? ''],
            $look->paths,
        );
        foreach ($look->numbers as $path => $numbers) {
            $last = self::named($path) ?? $name;
            $table = $this->relations->keyedBy($last, $numbers);
            if ($table !== null && $table->name !== $this->media?->table->name) {
                $paths[$path] = ['notation' => 'record-key', 'names' => $table->name];

                continue;
            }
            $isList = str_ends_with($path, '[]') && count($numbers) >= self::LISTED;
            // A long id is no other thing's by chance.
            $isNamed = $this->saysMedia($last) || self::areLong($numbers);
            $isListed = $isList && preg_match(self::MEASURE, $last) !== 1 && ! self::areCounted($numbers);
            if (($isNamed || $isListed) && $this->areMedia($numbers)) {
                $paths[$path] = ['notation' => 'media-id', 'role' => self::role($last)];
            }
        }
        $isText = in_array($look->notation, [Notation::Html, Notation::Markdown, Notation::Css, Notation::Url], true);
        if ($look->used === 0 && $paths === [] && ! $isText) {
            return [null, ''];
        }
        $ids = array_keys(array_filter($paths, static fn (array $p): bool => $p['notation'] === 'media-id'));
        $why = $look->sentence().($ids === [] ? '' : ', with ids of media in '.implode(', ', $ids));
        if ($paths === [] && $look->below === null && $look->packed === null) {
            return [$look->notation->value, $why];
        }

        return [
            array_filter(
                [
                    'notation' => $look->notation->value,
                    'packed' => $look->packed,
                    'below' => $look->below,
                    'paths' => $paths,
                ],
                static fn (mixed $v): bool => $v !== null && $v !== [],
            ),
            $why,
        ];
    }

    /** Whether a name means a picture or a file, in words that many use or in those of the site's own list. */
    private function saysMedia(string $name): bool
    {
        if (Hints::say(Hints::MEDIA, $name)) {
            return true;
        }
        $own = $this->media === null ? '' : Hints::stem($this->media->table->name, $this->prefix);
        $word = preg_replace('~_?\d+$~', '', Hints::keyOf($name)) ?? '';
        // Some hands write no sign between words: `idfile`.
        $joined = preg_replace('~^(?:id|fk)(?=[a-z]{3,}$)~', '', $word) ?? '';

        return $own !== '' && $word !== '' && ($word === $own || str_ends_with($word, "_$own")
            || Hints::alike($word, $own) || $joined === $own || Hints::alike($joined, $own));
    }

    /**
     * Whether a name of two things means a number: `image_count`, `attachment_position`. Where its values are 1, 2, 3
     * and so on, it need not say so in a word that is known.
     *
     * @param  list<string>  $ids
     */
    private function saysNumber(string $name, array $ids): bool
    {
        $isKey = preg_match(Hints::MARKS, Hints::apart($name)) === 1 || preg_match('~\d$~', $name) === 1;

        return Hints::say(Hints::NUMBER, $name)
            || (! $isKey && str_contains(Hints::apart($name), '_') && $ids !== []
                && preg_grep('~^\d+$~', $ids) === $ids && self::areCounted($ids) && count($ids) < 4);
    }

    /** Whether a value holds more than one id: a single number in what is called a gallery is the gallery's own. */
    private function areSome(ColumnProfile $column): bool
    {
        return $column->share('~[\w-][\s,;|/\[\](){}"]++[\w-]~') > 0;
    }

    /**
     * @param  list<string>  $values
     * @return list<string> the ids in them, if they are nothing but ids
     */
    private function ids(array $values): array
    {
        $ids = [];
        foreach ($values as $value) {
            // Whatever stands between them, and around: `3, 4`, `|3|4|`, an array of PostgreSQL's `{3,4}`, one of json.
            if (preg_match(self::LIST_OF_IDS, trim($value)) !== 1 || preg_match(self::PATHS, $value) === 1) {
                return [];
            }
            array_push($ids, ...preg_split('~[^\w.-]++~', $value, -1, PREG_SPLIT_NO_EMPTY) ?: []);
        }

        $ids = array_values(array_unique(array_diff($ids, ['', '0'])));
        $numbers = preg_grep('~^\d{1,18}$~', $ids) ?: [];

        // Words with a number here and there are words.
        return $numbers === [] || count($numbers) === count($ids) || self::areLong($ids) ? $ids : [];
    }

    /** @param  list<string>  $ids */
    private function areMedia(array $ids): bool
    {
        return $this->media !== null && $this->relations->areKeys($ids, $this->media->table);
    }

    /** Whether a column names rows of another table than the media. */
    private function isTied(TableProfile $table, ColumnProfile $column): bool
    {
        foreach ($this->ties as $tie) {
            if (
                $tie->table === $table->name
                && $tie->column === $column->name
                && $tie->to !== $this->media?->table->name
            ) {
                return true;
            }
        }

        return false;
    }

    /**
     * Of values that say themselves of what they are, as `picture/7`, what each word means.
     *
     * @return array<string, string>|null what stands between, and word → table or `media`; null where none are media
     */
    private function typed(TableProfile $table, ColumnProfile $column): ?array
    {
        $named = [];
        foreach ($this->ties as $tie) {
            if ($tie->table === $table->name && $tie->column === $column->name && $tie->between !== null) {
                $named['between'] = $tie->between;
                $named[(string) $tie->word] = $tie->to === $this->media?->table->name ? self::MEDIA : $tie->to;
            }
        }

        return in_array(self::MEDIA, $named, true) ? $named : null;
    }

    private function couldBeIds(ColumnProfile $column): bool
    {
        $isCalledSo = preg_match('~(?:^|_)(?:id|ids|ref|no|fk)$|^(?:id|fk|ref)_~', Hints::apart($column->name)) === 1;

        return in_array($column->type, [ColumnType::Number, ColumnType::Text], true)
            && (($isCalledSo && $column->type === ColumnType::Number && count($column->distinct()) >= self::TELLING
                && $this->areMedia($column->distinct()))
                || $this->held($column)?->areWorthAsking([$column->name]) === true);
    }

    /** By themselves, or since other columns that are called so hold ids, too. */
    private function areLikelyIds(ColumnProfile $column): bool
    {
        return $this->held($column)?->areLikelyKeys([$column->name]) === true
            || isset($this->called()[self::bare($column->name)]);
    }

    /**
     * What columns with ids of media are called on this site, besides what many sites call them: `lead` of `lead_id`,
     * or of `lead_1`, `lead_2` and `lead_3`.
     *
     * @return array<string, true>
     */
    private function called(): array
    {
        if ($this->called !== null) {
            return $this->called;
        }
        $this->called = [];
        foreach ($this->tables as $table) {
            $numbered = [];
            foreach ($table->columns as $column) {
                if ($column->type !== ColumnType::Number || $this->isTied($table, $column)) {
                    continue;
                }
                [$held, $bare] = [$this->held($column), self::bare($column->name)];
                $couldBe = $held?->areWorthAsking([$column->name]) === true;
                if ($held?->areLikelyKeys([$column->name]) === true) {
                    $this->called[$bare] = true;
                } elseif ($couldBe && preg_match('~\d$~', $column->name) === 1) {
                    $numbered[$bare] = ($numbered[$bare] ?? 0) + 1;
                }
            }
            // What has a row of places for the same thing, and ids in each, has ids there.
            $this->called += array_fill_keys(array_keys(array_filter(
                $numbered,
                static fn (int $places): bool => $places > 1,
            )), true);
        }

        return $this->called;
    }

    private static function bare(string $name): string
    {
        return preg_replace('~_?\d+$~', '', Hints::keyOf($name)) ?? $name;
    }

    /** The values of a column against all ids of media; null where they are too few, or are none for the most part. */
    private function held(ColumnProfile $column): ?KeyColumn
    {
        $ids = $this->ids($column->values);
        if ($this->media === null || count($ids) < self::TELLING || ! $this->areMedia($ids)) {
            return null;
        }
        // All of its keys, once for all columns that may hold some.
        $keys = $this->keys[0] ?? $this->keys[0] = new MediaKeys(
            $this->samples->keys($this->media->table->name, (string) $this->media->table->id()),
        );
        $held = new KeyColumn($keys);
        foreach ($column->values as $n => $value) {
            $held->add(KeyColumn::parts($value, $keys), (string) $n);
        }

        return $held;
    }

    /**
     * Whether numbers are no more than 1, 2, 3 and so on, which count something.
     *
     * @param  list<string>  $numbers
     */
    private static function areCounted(array $numbers): bool
    {
        $sorted = array_map(intval(...), $numbers);
        sort($sorted);

        return count($sorted) <= self::COUNTED && $sorted[0] <= 1 && end($sorted) - $sorted[0] === count($sorted) - 1;
    }

    /** What a place inside of a structured value is called: `pic` of `blocks[].pic.id`, `images` of `images[]`. */
    private static function named(string $path): ?string
    {
        $words = preg_split('~\.~', strtr($path, ['[]' => '']), -1, PREG_SPLIT_NO_EMPTY) ?: [];
        $last = array_pop($words);
        // A number by itself is that of what it stands in.
        if (preg_match(self::NUMBER, (string) $last) === 1) {
            $last = array_pop($words);
        }

        return $last;
    }

    /** @param  list<string>  $ids */
    private static function areLong(array $ids): bool
    {
        return $ids !== [] && preg_grep('~^[\w-]{16,}$~', $ids, PREG_GREP_INVERT) === [];
    }

    private static function role(string $name): string
    {
        $words = trim(strtr(preg_replace('~_?ids?$~i', '', $name) ?? $name, ['_' => ' ', '-' => ' ']));

        return strtolower($words === '' ? 'picture' : substr($words, 0, 40));
    }
}
