<?php

declare(strict_types=1);

namespace Tests\App\Connect\Drawn;

/** How one site calls its tables and columns: its language, its letters, and what stands before every name. */
final class Naming
{
    public readonly string $language;

    /** snake, camel, pascal, joined or upper */
    public readonly string $case;

    private readonly string $prefix;

    private readonly bool $areMany;

    /** Whether each column begins with what its table is called: `page_title`. */
    private readonly bool $isOwnBefore;

    private readonly string $key;

    private readonly string $foreign;

    /** @var array<string, string> meaning → table, said once for all */
    private array $tables = [];

    /** @var array<string, string> */
    private array $columns = [];

    public function __construct(private readonly Draw $draw)
    {
        $this->language = $draw->one(Words::LANGUAGES);
        $this->case = $draw->one(['snake', 'snake', 'snake', 'snake', 'camel', 'pascal', 'joined', 'upper']);
        $this->prefix = $draw->is(35) ? $draw->one(['tbl', 'app', 'web', 'cms', 'hk', 'x1', 'site']) : '';
        $this->areMany = $draw->is(65);
        $this->isOwnBefore = $draw->is(15);
        $this->key = $draw->one(['id', 'id', 'id', 'id', 'own', 'own', 'uid', 'id own']);
        $this->foreign = $draw->one(['behind', 'behind', 'behind', 'behind', 'before', 'fk', 'bare']);
    }

    public function habits(): string
    {
        return "$this->language $this->case".($this->prefix === '' ? '' : " $this->prefix")
            .($this->areMany ? ' many' : '').($this->isOwnBefore ? ' own-before' : '')." $this->key $this->foreign";
    }

    /** @param  string  ...$meanings what the table is of: `page` and `media` for a pair of both */
    public function table(string ...$meanings): string
    {
        $of = implode(' ', $meanings);
        if (! isset($this->tables[$of])) {
            $words = [];
            foreach (array_values($meanings) as $n => $meaning) {
                $isLast = $n === count($meanings) - 1;
                $words[] = $isLast && $this->areMany && count($meanings) === 1 ? $this->many($meaning)
                    : $this->one($meaning);
            }
            $name = $this->written([...$this->prefix === '' ? [] : [$this->prefix], ...$words]);
            $taken = array_map(strtolower(...), $this->tables);
            $this->tables[$of] = in_array(strtolower($name), $taken, true)
                ? $this->written([...$this->prefix === '' ? [] : [$this->prefix], ...$words, $meanings[0] === 'media'
                    ? 'store' : 'list'])
                : $name;
        }

        return $this->tables[$of];
    }

    /** A column of a table of this meaning. */
    public function column(string $table, string ...$meanings): string
    {
        $of = "$table ".implode(' ', $meanings);
        if (! isset($this->columns[$of])) {
            $words = array_map($this->word(...), array_values($meanings));
            $name = $this->written([...$this->isOwnBefore ? [$this->one($table)] : [], ...$words]);
            for ($n = 2; in_array("$table|".strtolower($name), $this->columns, true); $n++) {
                $name = $this->written([...$this->isOwnBefore ? [$this->one($table)] : [], ...$words, (string) $n]);
            }
            // What one table calls a thing, the next calls the same, mostly.
            $this->columns[$of] = "$table|".strtolower($name);
            $this->columns["$of|"] = $name;
        }

        return $this->columns["$of|"];
    }

    /** The key of a table. */
    public function key(string $table): string
    {
        return match ($this->key) {
            'own' => $this->written([$this->one($table), 'id']),
            'id own' => $this->written(['id', $this->one($table)]),
            'uid' => $this->written([$this->isOwnBefore ? $this->one($table) : 'uid', ...$this->isOwnBefore
                ? ['uid'] : []]),
            default => $this->isOwnBefore ? $this->written([$this->one($table), 'id']) : $this->written(['id']),
        };
    }

    /** A column with keys, by a word for what it names. */
    public function foreign(string $word): string
    {
        return $this->written(match ($this->foreign) {
            'before' => ['id', $word],
            'fk' => ['fk', $word],
            'bare' => [$word],
            default => [$word, 'id'],
        });
    }

    /** A column with keys of another table. */
    public function keyOf(string $table): string
    {
        return $this->foreign($this->one($table));
    }

    /** @var array<string, array{string, string}> */
    private array $drawn = [];

    public function one(string $meaning): string
    {
        return ($this->drawn[$meaning] ??= Words::table($meaning, $this->language, $this->draw))[0];
    }

    private function many(string $meaning): string
    {
        return ($this->drawn[$meaning] ??= Words::table($meaning, $this->language, $this->draw))[1];
    }

    /** @var array<string, string> */
    private array $said = [];

    public function word(string $meaning): string
    {
        return preg_match('~^\d+$|^[a-z]{2}$~', $meaning) === 1
            ? $meaning
            : $this->said[$meaning] ??= Words::column($meaning, $this->language, $this->draw);
    }

    /** @param  list<string>  $words */
    public function written(array $words): string
    {
        $words = explode('_', implode('_', $words));
        $large = implode('', array_map(ucfirst(...), $words));

        return match ($this->case) {
            'camel' => lcfirst($large),
            'pascal' => $large,
            'joined' => implode('', $words),
            'upper' => strtoupper(implode('_', $words)),
            default => implode('_', $words),
        };
    }
}
