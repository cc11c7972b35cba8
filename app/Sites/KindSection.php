<?php

declare(strict_types=1);

namespace App\Sites;

use App\Sites\Packed\Packing;
use Ylema\Reading\Notation;
use Ylema\Reading\PathRule;
use Ylema\Usage\RecordState;

/** Reads the section of one kind of record. */
final readonly class KindSection
{
    /** What may be said of one kind. */
    public const LINES = [
        'table',
        'where',
        'key',
        'distinct',
        'joins',
        'title',
        'address',
        'page',
        'part_of',
        'everywhere',
        'state',
        'dates',
        'spell',
        'facts',
        'fields',
        'shows',
        'keep',
        'box',
        'read_only',
        'files',
        'notation',
        'paths',
        'role',
    ];

    /** What may be said of one field. */
    public const FIELD = ['notation', 'role', 'paths', 'names', 'below', 'packed', 'read_only'];

    /** What the list of media is called where keys say themselves of what they are. */
    private const MEDIA = 'media';

    /** What a state is called. */
    public const WORDS = ['live', 'waiting', 'fading'];

    /** Notations in which a bare path may stand, before which the site puts a folder. */
    private const PATHS = [Notation::Url, Notation::Addresses, Notation::Json, Notation::PhpSerialized];

    /** @param  list<string>  $kinds of the map */
    public function __construct(private array $kinds, private MapNode $records)
    {
    }

    /** @throws FieldMapError */
    public function kind(string $kind, MapNode $section): KindMap
    {
        $section->only(self::LINES);
        if ($section->has('files')) {
            return (new FileSection($this))->kind($kind, $section);
        }
        $joins = Joins::of($section, $this->kinds, $this->records);
        $owners = $this->owners($section, $joins);
        $isDistinct = $section->flag('distinct', false);
        $key = $section->columnNames('key');
        if ($key === [] || ($isDistinct && count($key) > 1)) {
            throw $section->wrong('key', 'the plain name of a table or column belongs here.');
        }
        $dates = self::dates($section, $joins);
        $facts = [];
        $labels = $section->optional('facts', 'columns belong here, each under its label.');
        foreach ($labels->keys() as $label) {
            $facts[$label] = Joins::column($labels, $label, $joins);
        }
        $box = $section->has('box')
            ? $section->section('box', 'two columns belong here: width and height.')->only(['width', 'height'])
            : null;

        return new KindMap(
            $kind,
            $section->identifier('table'),
            $section->text('where'),
            new RecordKey($key),
            $this->title($section, $key, $joins),
            $this->addresses($section, $joins),
            $section->has('address') && $section->flag('page', true),
            $section->flag('everywhere', false),
            self::states($section, $joins, $dates),
            $facts,
            $this->fields($section, $joins),
            $section->identifiers('keep'),
            $box === null ? null : [$box->identifier('width'), $box->identifier('height')],
            $joins,
            $owners,
            $dates,
            self::spelt($section, $joins),
            $isDistinct,
            $section->flag('read_only', false),
            shows: $this->shown($section, $joins),
        );
    }

    /**
     * @param  non-empty-list<string>  $key
     * @param  array<string, Join>  $joins
     */
    private function title(MapNode $section, array $key, array $joins): Template
    {
        $title = $section->text('title');
        // A template such as "{name}.css"; a bare word is the name of a column.
        if ($title !== null && str_contains($title, '{')) {
            return $this->template($section, 'title', $title, $joins);
        }

        return $title === null
            ? new Template(implode(' ', array_map(static fn (string $column): string => '{'.$column.'}', $key)))
            : Template::column(Joins::column($section, 'title', $joins));
    }

    /**
     * @param  array<string, Join>  $joins
     * @return list<Template>
     */
    private function addresses(MapNode $section, array $joins): array
    {
        return array_map(
            fn (string $address): Template => $this->template($section, 'address', $address, $joins),
            $section->texts('address'),
        );
    }

    /**
     * @param  array<string, Join>  $joins
     * @return list<Template>
     */
    private function shown(MapNode $section, array $joins): array
    {
        return array_map(function (string $text) use ($section, $joins): Template {
            $template = $this->template($section, 'shows', ltrim($text, '/'), $joins);
            if ($template->columns() === [] || preg_match('~^[^*]*(?:/\*|\.\*)?$~D', $text) !== 1) {
                throw $section->wrong(
                    'shows',
                    'paths of files belong here with columns in braces, such as "galleries/{folder}/*" or '
                        .'"pictures/{id}.jpg"; a * stands at the end only, for any name or any ending.',
                );
            }

            return $template;
        }, $section->texts('shows'));
    }

    /** @param  array<string, Join>  $joins */
    private function template(MapNode $section, string $key, string $text, array $joins): Template
    {
        $template = new Template($text);
        foreach ($template->columns() as $column) {
            Joins::known($section, $key, $column, $joins);
        }

        return $template;
    }

    /**
     * @param  array<string, Join>  $joins
     * @return array<string, FieldColumn>
     */
    private function fields(MapNode $section, array $joins): array
    {
        // What only carries others, a set or a section, has no field of its own.
        $columns = $section->optional('fields', 'columns belong here, each with its notation.');
        $fields = [];
        foreach ($columns->keys() as $column) {
            $columns->column($column);
            $rule = $columns->sectionOr($column, 'notation', 'a notation belongs here, such as "html".');
            if (! $rule->has('by')) {
                $fields[$column] = new FieldColumn($column, null, ['' => $this->field($column, $rule, $joins)]);

                continue;
            }
            $rule->only(['by', 'of']);
            $names = $rule->section('of', 'the names belong here, each with its notation.');
            $rules = [];
            foreach ($names->keys() as $name) {
                $rules[$name] = $this->field(
                    $column,
                    $names->sectionOr($name, 'notation', 'a notation belongs here, such as "html".'),
                    $joins,
                );
            }
            $fields[$column] = new FieldColumn($column, Joins::column($rule, 'by', $joins), $rules);
        }

        return $fields;
    }

    /** @param  array<string, Join>  $joins */
    public function field(string $column, MapNode $rule, array $joins): FieldRule
    {
        $rule->only(self::FIELD);
        $notation = $rule->notation('notation', $rule->place());
        $paths = [];
        $section = $rule->optional('paths', 'paths belong here, each with its notation.');
        foreach ($section->keys() as $path) {
            $inner = $section
                ->sectionOr($path, 'notation', 'a notation belongs here, such as "html".')
                ->only(['notation', 'role', 'names', 'below']);
            $own = $inner->notation('notation', $section->place().".$path");
            $paths[] = new PathRule(
                $path,
                $own,
                $inner->text('role'),
                FieldMap::target($inner, 'names', $this->kinds),
                $this->below($inner, $own, $joins),
            );
        }
        $typed = $this->typed($rule, $notation);
        [$target, $targetFrom] = $typed === [] ? $this->targets($rule, 'names', $joins) : [null, null];
        $role = $rule->text('role');
        if ($role !== null) {
            $this->template($rule, 'role', $role, $joins);
        }

        return new FieldRule(
            $column,
            $notation,
            $role,
            $paths,
            $target,
            $targetFrom,
            $rule->flag('read_only', false),
            $this->below($rule, $notation, $joins),
            $this->packing($rule),
            $typed,
        );
    }

    private function packing(MapNode $rule): ?Packing
    {
        $said = $rule->text('packed');

        return $said === null
            ? null
            : Packing::tryFrom($said) ?? throw $rule->wrong(
                'packed',
                'how a text is packed is one of '.implode(', ', array_column(Packing::cases(), 'value')).'.',
            );
    }

    /**
     * Keys that say themselves of what they are, as `picture/12`.
     *
     * @return array<string, string|null> what stands before a key → its kind; null for media
     */
    private function typed(MapNode $rule, Notation $notation, string $key = 'names'): array
    {
        $named = is_array($rule->value($key)) ? $rule->section($key) : null;
        if ($named === null || ! $named->has('between')) {
            return [];
        }
        if ($notation !== Notation::RecordKey) {
            throw $rule->wrong($key, 'what stands between a kind and a key is said of "record-key" only.');
        }
        $between = (string) $named->text('between');
        $typed = [];
        foreach (array_diff($named->keys(), ['between']) as $word) {
            $typed[$word.$between] = $named->text($word) === self::MEDIA && ! in_array(self::MEDIA, $this->kinds, true)
                ? null
                : (string) FieldMap::target($named, $word, $this->kinds);
        }

        return $typed;
    }

    /** @param  array<string, Join>  $joins */
    private function below(MapNode $rule, Notation $notation, array $joins): ?string
    {
        if (! $rule->has('below')) {
            return null;
        }
        if (! in_array($notation, self::PATHS, true)) {
            throw $rule->wrong(
                'below',
                'a folder comes before a bare path only in '.implode(', ', array_column(self::PATHS, 'value')).'.',
            );
        }

        $folder = trim((string) $rule->text('below'), '/');

        // The root itself.
        return $folder === '.' ? '' : $this->template($rule, 'below', "$folder/", $joins)->text;
    }

    /**
     * @param  array<string, Join>  $joins
     * @return list<FieldRule>
     */
    private function owners(MapNode $section, array $joins): array
    {
        $owners = [];
        $list = $section->optional('part_of', 'a column belongs here, and the kind of record whose key it holds.');
        foreach ($list->keys() as $column) {
            Joins::known($list, $column, $column, $joins);
            $typed = $this->typed($list, Notation::RecordKey, $column);
            [$target, $targetFrom] = $typed === [] ? $this->targets($list, $column, $joins) : [null, null];
            if ($target === null && $targetFrom === null && array_filter($typed) === []) {
                throw $list->wrong($column, 'the kind of record belongs here whose key the column holds.');
            }
            $owners[] = new FieldRule(
                $column, Notation::RecordKey, target: $target, targetFrom: $targetFrom, typed: $typed,
            );
        }

        return $owners;
    }

    /**
     * @param  array<string, Join>  $joins
     * @return array{string|null, array{column: string, kinds: array<string, string>}|null} one kind, or the one that
     *     another column decides
     */
    private function targets(MapNode $rule, string $key, array $joins): array
    {
        if (! is_array($rule->value($key))) {
            return [FieldMap::target($rule, $key, $this->kinds), null];
        }
        $named = $rule->section($key);
        $byValue = [];
        foreach (array_diff($named->keys(), ['column']) as $value) {
            $byValue[$value] = (string) FieldMap::target($named, $value, $this->kinds);
        }

        return [null, ['column' => Joins::column($named, 'column', $joins), 'kinds' => $byValue]];
    }

    /**
     * @param  array<string, Join>  $joins
     * @param  array<string, DateColumn>  $dates
     */
    public static function states(MapNode $section, array $joins, array $dates): RecordStates
    {
        $value = $section->value('state') ?? 'live';
        if (! is_array($value)) {
            return new RecordStates(self::state($section, 'state', $value));
        }
        if (! array_is_list($value)) {
            return new RecordStates(null, [self::stateRule($section->section('state'), $joins, $dates)]);
        }
        $list = $section->section('state');

        return new RecordStates(
            null,
            array_map(
                static fn (string $n): StateRule => self::stateRule(
                    $list->section($n, 'a column and what its words mean belong here.'),
                    $joins,
                    $dates,
                ),
                $list->keys(),
            ),
        );
    }

    /**
     * @param  array<string, Join>  $joins
     * @param  array<string, DateColumn>  $dates
     */
    private static function stateRule(MapNode $state, array $joins, array $dates): StateRule
    {
        $state->only(['column', ...self::WORDS, 'otherwise', 'set', 'empty', 'from', 'until']);
        $words = [];
        foreach (['fading', 'waiting', 'live'] as $name) {
            foreach ($state->texts($name) as $word) {
                $words[$word] = RecordState::ofWord($name);
            }
        }
        $of = static fn (string $key): ?RecordState => $state->has($key)
            ? self::state($state, $key, $state->value($key))
            : null;

        return new StateRule(
            $state->has('column') ? Joins::column($state, 'column', $joins) : null,
            $words,
            // A word that the map does not know is safest taken for something that may come out.
            $of('otherwise') ?? ($words === [] ? null : RecordState::Waiting),
            $of('set'),
            $of('empty'),
            self::date($state, 'from', $joins, $dates),
            self::date($state, 'until', $joins, $dates),
        );
    }

    private static function state(MapNode $section, string $key, mixed $word): RecordState
    {
        return is_string($word) && in_array($word, self::WORDS, true)
            ? RecordState::ofWord($word)
            : throw $section->wrong($key, 'the state is live, waiting or fading.');
    }

    /**
     * @param  array<string, Join>  $joins
     * @param  array<string, DateColumn>  $dates
     */
    private static function date(MapNode $state, string $key, array $joins, array $dates): ?DateColumn
    {
        if (! $state->has($key)) {
            return null;
        }
        $date = $state->sectionOr($key, 'column', 'a column belongs here.')->only(['column', 'as', 'zone']);
        $column = Joins::column($date, 'column', $joins);

        return ! $date->has('as') && ! $date->has('zone') && isset($dates[$column])
            ? $dates[$column]
            : self::written($state, $key, $column, $date);
    }

    /**
     * @param  array<string, Join>  $joins
     * @return array<string, DateColumn>
     */
    public static function dates(MapNode $section, array $joins): array
    {
        $dates = [];
        $list = $section->optional('dates', 'columns belong here, each with how its moments are written.');
        foreach ($list->keys() as $column) {
            $date = $list->sectionOr($column, 'as', 'how its moments are written belongs here.')->only(['as', 'zone']);
            $dates[$column] = self::written($list, $column, Joins::known($list, $column, $column, $joins), $date);
        }

        return $dates;
    }

    private static function written(MapNode $section, string $key, string $column, MapNode $date): DateColumn
    {
        $form = $date->text('as') ?? 'date';
        if (! in_array($form, DateColumn::FORMS, true) && ! DateColumn::isPattern($form)) {
            throw $section->wrong(
                $key,
                'a moment is written as one of '
                    .implode(', ', DateColumn::FORMS)
                    .', or as a pattern such as d.m.Y.',
            );
        }
        $zone = $date->text('zone') ?? 'UTC';
        if (! in_array($zone, timezone_identifiers_list(), true)) {
            throw $date->wrong('zone', 'a time zone belongs here, such as Europe/Dublin.');
        }

        return new DateColumn($column, $form, $zone);
    }

    /**
     * @param  array<string, Join>  $joins
     * @return array<string, array<string, string>>
     */
    public static function spelt(MapNode $section, array $joins): array
    {
        $spelt = [];
        $list = $section->optional('spell', 'columns belong here, each with how its values are said.');
        foreach ($list->keys() as $column) {
            Joins::known($list, $column, $column, $joins);
            $words = $list->section($column, 'values belong here, each with how it is said.');
            foreach ($words->keys() as $value) {
                $spelt[$column][$value] = (string) $words->text($value);
            }
        }

        return $spelt;
    }
}
