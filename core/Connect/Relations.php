<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** Finds which columns hold keys of which tables: as the database says, or by name and by what they hold. */
final class Relations
{
    /** Values that are asked about; more would tell nothing new. */
    private const ASKED = 100;

    /** Links of an old site may lead nowhere; so many must not. */
    private const ENOUGH = 0.8;

    /** A word and a key in one value, with a sign between. */
    private const TYPED = '~^([a-z][a-z_-]*)([/:#@|.])([\w-]{1,64})$~i';

    /** What columns with addresses are called. */
    private const LINK = '~(?:^|_)(?:ur[il]|href|links?|path|address|route|goes_to|permalink|src|slug)(?:_|$)~';

    /** Kinds of things that one column can name. */
    private const WORDS = 20;

    /** Names of keys that every table may have. */
    private const OWN = ['id', 'name', 'key', 'code', 'uid', 'uuid', 'nr', 'no', 'slug'];

    /** Columns that name who did something. */
    private const PEOPLE = ['author', 'owner', 'creator', 'editor'];

    /**
     * What a column is called that says in which order rows stand. Its small numbers are keys of any small table, so
     * only the database's own word makes a relation of it.
     */
    private const ORDER = '~^(?:sort_?)?(?:position|pos|ord|order(?:ing)?|order_?no|sort|rank|seq(?:uence)?|weight'
        .'|priority|level|depth|count|number|nr|no|num|reihenfolge|sortierung|rang|ordre|orden|ordine|volgorde'
        .'|positi[eo]n?|posizione|posicion|posicao|ordem|ordning|kolejnosc|pozycja)$~';

    /** @var array<string, list<TableProfile>> by what they are called, in the singular */
    private readonly array $called;

    /** @var array<string, list<TableProfile>> by the last parts of what they are called */
    private readonly array $ends;

    /** @var array<string, list<TableProfile>> by the first parts of what they are called */
    private readonly array $begins;

    /** @var array<string, list<TableProfile>> by the name of their key */
    private readonly array $keyed;

    /** @var array<string, list<TableProfile>> by a word that was asked for: in a thousand tables are few words */
    private array $alike = [];

    /** @param  array<string, TableProfile>  $tables */
    public function __construct(
        private readonly array $tables,
        private readonly string $prefix,
        private readonly Samples $samples,
    ) {
        $called = $ends = $begins = $keyed = [];
        foreach ($tables as $table) {
            $stem = Hints::stem($table->name, $prefix);
            $called[$stem][] = $table;
            for ($at = strpos($stem, '_'); $at !== false; $at = strpos($stem, '_', $at + 1)) {
                $ends[substr($stem, $at + 1)][] = $table;
                $begins[substr($stem, 0, $at)][] = $table;
            }
            if ($table->id() !== null) {
                $keyed[$table->id()][] = $table;
            }
        }
        [$this->called, $this->ends, $this->begins, $this->keyed] = [$called, $ends, $begins, $keyed];
    }

    /** @return list<Relation> */
    public function all(): array
    {
        $relations = [];
        foreach ($this->tables as $table) {
            foreach ($table->columns as $column) {
                $own = $this->typed($table, $column) ?: $this->decided($table, $column);
                $own = $own === [] ? array_filter([$this->of($table, $column)]) : $own;
                array_push($relations, ...array_values($own));
            }
        }

        return $relations;
    }

    /**
     * Whether these values are keys of a table.
     *
     * @param  list<string>  $values
     */
    public function areKeys(array $values, TableProfile $table): bool
    {
        $id = $table->id();
        $asked = array_slice(array_values(array_unique(array_diff($values, ['', '0']))), 0, self::ASKED);

        return $id !== null
            && $asked !== []
            && $this->samples->known($table->name, $id, $asked) >= self::ENOUGH * count($asked);
    }

    /**
     * Another column than the key in which these values stand, each in one row.
     *
     * @param  list<string>  $values
     */
    public function uniqueFor(array $values, TableProfile $table): ?string
    {
        $asked = array_slice(array_values(array_unique($values)), 0, self::ASKED);
        foreach ($table->uniques as $unique) {
            if (
                count($unique) === 1
                && $unique[0] !== $table->id()
                && $asked !== []
                && $this->samples->known($table->name, $unique[0], $asked) >= self::ENOUGH * count($asked)
            ) {
                return $unique[0];
            }
        }

        return null;
    }

    private function of(TableProfile $table, ColumnProfile $column): ?Relation
    {
        if (isset($table->foreign[$column->name])) {
            [$to, $key] = $table->foreign[$column->name];

            return isset($this->tables[$to])
                ? new Relation($table->name, $column->name, $to, $key, 'the database ties it there')
                : null;
        }
        if (
            $column->values === []
            || ($table->id() === $column->name && in_array(Hints::apart($column->name), self::OWN, true))
            || ! in_array($column->type, [ColumnType::Number, ColumnType::Text, ColumnType::Bytes], true)
            || self::isOrder($column)
        ) {
            return null;
        }
        [$keys, $isJson] = self::keys($column);
        foreach ($keys === [] ? [] : $this->named($table, $column) as $to) {
            $id = $to->id();
            // Lists of numbers are text, and mean numbers.
            $isAlike =
                $id !== null
                && ($to->columns[$id]->type === $column->type
                    || ($column->type === ColumnType::Text && self::areList($column)));
            // Of two tables with one key, the one that has a row for each of the other's is what that one adds to.
            $isBelow =
                $table->id() !== $column->name
                || $to->rows > $table->rows
                || ($to->rows === $table->rows && strlen($to->name) < strlen($table->name));
            if ($isAlike && $isBelow && $this->areKeys($keys, $to)) {
                return new Relation(
                    $table->name,
                    $column->name,
                    $to->name,
                    $id,
                    "its name says $to->name, and so do its values",
                    isJson: $isJson,
                );
            }
        }

        return null;
    }

    /**
     * Of a pair such as `owner_type` and `owner_id`, one relation for each word.
     *
     * @return list<Relation>
     */
    private function decided(TableProfile $table, ColumnProfile $column): array
    {
        if (preg_match('~^(?:(?:id|fk|ref)_)?(.+?)(?:_?(?:id|key|ref))?$~', Hints::apart($column->name), $found) !== 1
            || $found[1] === Hints::apart($column->name)) {
            return [];
        }
        foreach ($table->columns as $by) {
            $isPair =
                preg_match(
                    '~^(?:(?:type|kind|table)_)?'.preg_quote($found[1], '~')
                        .'(?:_?(?:type|kind|table|class|model|entity|module|typ|art))?$~',
                    Hints::apart($by->name),
                ) === 1;
            if (! $isPair || $by->type !== ColumnType::Text || count($by->distinct()) > 20) {
                continue;
            }
            $relations = [];
            foreach ($by->distinct() as $word) {
                $to = $this->called($word);
                if ($to?->id() !== null) {
                    $relations[] = new Relation(
                        $table->name,
                        $column->name,
                        $to->name,
                        (string) $to->id(),
                        "$by->name says that it is one of $to->name",
                        $by->name,
                        $word,
                    );
                }
            }

            return $relations;
        }

        return [];
    }

    /**
     * Of values that say the word and the key in one, as `page/12`, one relation for each word.
     *
     * @return list<Relation>
     */
    private function typed(TableProfile $table, ColumnProfile $column): array
    {
        // A link to a page looks the same, and leads there only.
        $isLink = preg_match(self::LINK, Hints::apart($column->name)) === 1;
        if ($isLink || $column->type !== ColumnType::Text || $column->share(self::TYPED) !== 1.0) {
            return [];
        }
        $keys = $betweens = [];
        foreach ($column->values as $value) {
            preg_match(self::TYPED, trim($value), $m);
            $keys[$m[1] ?? ''][] = $m[3] ?? '';
            $betweens[$m[2] ?? ''] = true;
        }
        if (count($betweens) > 1 || count($keys) > self::WORDS) {
            return [];
        }
        $relations = [];
        foreach ($keys as $word => $own) {
            $to = $this->called((string) $word);
            if ($to?->id() !== null && $this->areKeys($own, $to)) {
                $relations[] = new Relation(
                    $table->name,
                    $column->name,
                    $to->name,
                    (string) $to->id(),
                    "its values say that they are of $to->name, and their keys are there",
                    null,
                    (string) $word,
                    between: (string) array_key_first($betweens),
                );
            }
        }

        return $relations;
    }

    /**
     * A table that a word names and whose keys these are.
     *
     * @param  list<string>  $keys
     */
    public function keyedBy(string $word, array $keys): ?TableProfile
    {
        $to = $this->called(preg_replace(Hints::MARKS, '', Hints::apart($word)) ?? $word);

        return $to?->id() !== null && $this->areKeys($keys, $to) ? $to : null;
    }

    /** The table that a word names: by its own name, in whatever plural, or by the last part of it. */
    private function called(string $word): ?TableProfile
    {
        $stem = Hints::singular(Hints::apart(preg_replace('~^.*[\\\\:./]~', '', $word) ?? $word));

        return $this->called[$stem][0] ?? $this->alike($stem)[0] ?? $this->ends[$stem][0] ?? null;
    }

    /** @return list<TableProfile> tables whose names mean the same, in a language with another plural */
    private function alike(string $stem): array
    {
        if (isset($this->alike[$stem])) {
            return $this->alike[$stem];
        }
        $alike = [];
        foreach ($this->called as $name => $tables) {
            if (Hints::alike($stem, (string) $name)) {
                array_push($alike, ...$tables);
            }
        }

        return $this->alike[$stem] = $alike;
    }

    private static function areList(ColumnProfile $column): bool
    {
        return $column->share('~[\s,;|\[]~') > 0 || preg_match('~s$|list~i', $column->name) === 1;
    }

    /** Whether a column of small numbers is called by an order, and begins where no key does. */
    private static function isOrder(ColumnProfile $column): bool
    {
        return $column->type === ColumnType::Number
            && preg_match(self::ORDER, Hints::apart($column->name)) === 1
            && (in_array('0', $column->values, true) || max([0, ...array_map(intval(...), $column->values)]) <= 20);
    }

    /** @return array{list<string>, bool} the keys in a column that holds nothing else, and whether they are json */
    private static function keys(ColumnProfile $column): array
    {
        $keys = [];
        $isJson = $column->type === ColumnType::Text && $column->share('~^\s*\[.*\]\s*$~s') === 1.0;
        foreach ($column->values as $value) {
            $own = $isJson
                ? json_decode($value, true)
                : preg_split('~[\s,;|]+~', trim($value), -1, PREG_SPLIT_NO_EMPTY);
            foreach (is_array($own) ? $own : [null] as $key) {
                if (! is_scalar($key) || preg_match('~^[\w.:@-]{1,64}$~u', (string) $key) !== 1) {
                    return [[], false];
                }
                $keys[] = (string) $key;
            }
        }

        return [array_values(array_unique($keys)), $isJson];
    }

    /** @return list<TableProfile> tables with earlier versions of another one's rows */
    private function versionsOf(TableProfile $table): array
    {
        $stem = Hints::stem($table->name, $this->prefix);

        return array_values(
            array_filter(
                $this->tables,
                fn (TableProfile $other): bool => $other->id() !== null
                    && Hints::say(Hints::EARLIER, $other->name)
                    && str_starts_with(Hints::stem($other->name, $this->prefix), $stem.'_'),
            ),
        );
    }

    /** @return list<TableProfile> the tables that a column may mean by its name, the likeliest first */
    private function named(TableProfile $table, ColumnProfile $column): array
    {
        if (Hints::say(Hints::PARENT, $column->name)) {
            return [$table];
        }
        if (preg_match(Hints::CURRENT, Hints::apart($column->name)) === 1) {
            return $this->versionsOf($table);
        }
        $word = Hints::apart($column->name);
        $stem = Hints::keyOf($column->name);
        // Some hands write no sign between words: `idpage`.
        if ($stem === $word && preg_match('~^(?:id|fk)([a-z]{3,})$~', $word, $joined) === 1) {
            $isThere = isset($this->called[$joined[1]]) || isset($this->ends[$joined[1]])
                || $this->alike($joined[1]) !== [];
            $stem = $isThere ? $joined[1] : $stem;
        }
        $found = [];
        foreach ($stem === '' ? [] : $this->called[$stem] ?? [] as $other) {
            $found[] = [3, $other];
        }
        // A key of its own name: node.nid, entry.nid.
        $own = Hints::stem($table->name, $this->prefix);
        foreach (in_array($word, self::OWN, true) ? [] : $this->keyed[$column->name] ?? [] as $other) {
            $found[] = [2, $other];
        }
        // Of a long name the last part: `banner_set` is the set, `hero_image` an image.
        foreach ($stem === '' ? [] : $this->ends[$stem] ?? [] as $other) {
            $found[] = [1, $other];
        }
        for ($at = strpos($stem, '_'); $at !== false; $at = strpos($stem, '_', $at + 1)) {
            foreach ($this->called[substr($stem, $at + 1)] ?? [] as $other) {
                $found[] = [1, $other];
            }
        }
        $isSure = array_filter($found, static fn (array $f): bool => $f[0] > 1) !== [];
        foreach ($stem === '' || $isSure ? [] : $this->alike($stem) as $other) {
            $found[] = [2, $other];
        }
        // And where no other is: `folder` of a table that is called `folder_list`.
        foreach ($stem === '' || $found !== [] ? [] : $this->begins[$stem] ?? [] as $other) {
            $found[] = [1, $other];
        }
        // Some hands write no sign between words: `dirid` of `dirlist`.
        $isApart = str_contains($word, '_') || strlen($stem) < 3 || $stem === $word;
        foreach ($found !== [] || $isApart ? [] : $this->called as $name => $others) {
            array_push($found, ...array_map(
                static fn (TableProfile $other): array => [1, $other],
                str_starts_with((string) $name, $stem) ? $others : [],
            ));
        }
        // Written together: `field` of `pagefieldvalue` is `pagefield`.
        $bare = (string) preg_replace('~^(?:id|fk)(?=[a-z]{3})~', '', $stem);
        $names = $found === [] && strlen($bare) > 2 ? range(1, max(1, strlen($own) - 1)) : [];
        foreach ($names as $length) {
            $before = substr($own, 0, $length);
            array_push($found, ...array_map(
                static fn (TableProfile $other): array => [1, $other],
                str_ends_with($before, $bare) && $before !== $own ? $this->called[$before] ?? [] : [],
            ));
        }
        foreach (in_array($stem, self::PEOPLE, true) ? $this->called['user'] ?? [] : [] as $other) {
            $found[] = [1, $other];
        }
        $found = array_filter(
            $found,
            static fn (array $f): bool => $f[1]->id() !== null && ($f[1]->name !== $table->name || $f[0] === 3),
        );
        // What has such a column itself names the thing as well, and is none: a row that ties a picture to a page.
        $found = array_filter($found, static fn (array $f): bool => $f[0] > 1 || $f[1]->id() === $column->name
            || ($f[1]->columns[$column->name] ?? null)?->type !== $column->type);
        if ($table->id() === $column->name) {
            // Two tables may call their own keys alike; one adds to the other where its name goes on with the other's.
            $found = array_filter($found, fn (array $f): bool => $f[0] === 3
                || str_starts_with($own, Hints::stem($f[1]->name, $this->prefix).'_'));
        }
        // Of two with one name, the one whose own name this table's goes on with: `page_field` of `page_field_value`.
        $shared = fn (TableProfile $other): int => strspn($own ^ Hints::stem($other->name, $this->prefix), "\0");
        usort(
            $found,
            static fn (array $a, array $b): int => [$b[0], $shared($b[1])] <=> [$a[0], $shared($a[1])],
        );

        return array_column($found, 1);
    }
}
