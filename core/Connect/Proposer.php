<?php

declare(strict_types=1);

namespace Ylema\Connect;

use Ylema\Addresses\MediaPages;
use Ylema\Addresses\SiteAddresses;
use Ylema\Plan\Words;

/**
 * Works out a whole field map from a database that nobody described, the site's files and its public pages: first what
 * each table holds and where its rows are met, then which of them a page shows, and what all that is called in a map.
 *
 * @phpstan-type Rules array<string, array<string, string|array<string, mixed>>>
 */
final class Proposer
{
    /** @var array<string, TableProfile> */
    private array $tables = [];

    /** @var array<string, string> */
    private array $leftOut = [];

    private string $prefix = '';

    private readonly Dialogue $dialogue;

    /** @param  array<string, string>  $answers question → answer, from before */
    public function __construct(
        private readonly Samples $samples,
        private readonly FileLookup $files,
        private SiteAddresses $addresses,
        private readonly ?AddressTrial $trial = null,
        array $answers = [],
    ) {
        $this->dialogue = new Dialogue($answers);
    }

    public function propose(): Proposal
    {
        $this->gather();
        [$former, $aliases] = $this->otherAddresses();
        $own = new OwnAddresses($this->files, $this->addresses, TableProfile::texts($this->tables));
        $relations = new Relations($this->tables, $this->prefix, $this->samples);
        $ties = $relations->all();
        $media = (new MediaTables(
            $this->tables,
            $ties,
            $this->samples,
            $this->files,
            $this->addresses,
            $own,
            $this->prefix,
        ))->find();
        $section = $media === null ? null : new MediaSection($this->tables, $media, $ties);
        $redirects = RedirectTable::among($this->tables);
        $outside = array_values(array_filter([...$section?->tables() ?? [], $redirects['table'] ?? null]));

        $given = $media === null ? [] : $this->mediaWays($media, $relations);
        $looker = new Looker(
            $this->addresses,
            $this->files,
            $own,
            $given === [] ? null : new MediaPages(...$given),
        );
        $fields = new Fields($this->tables, $looker, $relations, $ties, $this->samples, $media, $this->prefix);
        $pairs = array_map($fields->pair(...), array_diff_key($this->tables, array_flip($outside)));
        $worded = (new AttributeWords($ties, $this->samples))->with(
            array_map(static fn (TableProfile $t): TableProfile => $t->withLanguages(), $this->tables),
            $pairs,
        );
        $pages = new Pages($worded, $ties, $this->prefix, $this->samples, $this->trial, $this->known(array_diff_key(
            $this->tables,
            [$redirects['table'] ?? '' => true],
        )));
        $named = new NamedFiles($this->tables, $this->files, $relations, $media, $this->prefix);
        $rules = $ways = $shows = [];
        foreach (array_diff_key($this->tables, array_flip($outside)) as $name => $table) {
            $rules[$name] = $this->rules($table, $fields, $pairs[$name]);
            $shows[$name] = $named->of($table, $rules[$name]);
            $way = $pairs[$name] === null && ! Hints::say(Hints::EARLIER, $name) ? $pages->of($worded[$name]) : null;
            $ways += $way === null ? [] : [$name => $way];
        }
        $ties = $this->withInside($ties, $rules);
        [$tokens, $placed] = (new Tokens($this->tables, $this->prefix, $relations, $looker, $media))->in(
            $this->texts($rules),
        );

        $earlier = array_values(
            array_filter(self::names($this->tables), static fn (string $t): bool => Hints::say(Hints::EARLIER, $t)),
        );
        $holding = self::names(array_filter($rules) + array_filter($shows));
        $met = self::names($ways);
        $aside = [...$outside, ...$earlier];
        // A setting, a menu: what holds pictures and is tied to nothing, the site's own code shows.
        $reached = array_keys((new Carriers($ties, $met, $placed, $aside))->distance);
        $alone = array_values(array_diff($holding, $reached, $earlier));
        $carriers = new Carriers($ties, [...$met, ...$alone], $placed, $aside);
        $needed = array_unique([
            ...$carriers->needed(array_values(array_diff($holding, $earlier))),
            ...$met,
            ...$placed,
            ...array_intersect($earlier, $holding),
        ]);
        $needed = array_values(array_filter($needed, $this->hasKey(...)));

        $kinds = new KindNames($needed, $ways, $this->prefix);
        $sections = new RecordSection(
            $this->tables,
            $this->prefix,
            $kinds,
            $carriers,
            $pages,
            $this->dialogue,
            $worded,
        );
        $records = [];
        foreach ($needed as $name) {
            $records[(string) $kinds->of($name)] = $sections->said(
                $this->tables[$name],
                $rules[$name] ?? [],
                $shows[$name] ?? [],
                $ways[$name] ?? null,
                isset($pairs[$name][2]) ? [$pairs[$name][2]->to] : [],
                in_array($name, $alone, true),
                in_array($name, $earlier, true),
            );
        }
        foreach ($tokens as $token) {
            // A record that texts place by its name is known by its name.
            $kind = is_string($token['names'] ?? null) ? $kinds->of($token['names']) : null;
            if ($kind !== null && is_string($token['by'] ?? null)) {
                $records[$kind]['key'] = $token['by'];
            }
        }
        $records = (new Versions($this->tables, $ties, $kinds, $this->dialogue))->apart($records, $earlier);
        foreach (array_diff(self::names($this->tables), $needed, $outside) as $name) {
            $this->leftOut[$name] ??= 'nothing in it names a file, and nothing that does is tied to it';
        }
        $this->belong($media);
        $map = [
            'media' => $media === null ? null : $section?->said($given),
            'files' => (new FilesSection($this->files, $own))->said(),
            'tokens' => array_map($kinds->inToken(...), $tokens),
            'redirects' => $redirects,
            ...(new Attributes($looker, $relations, $media))->in($this->texts($rules)),
        ];

        return new Proposal(
            [
                'version' => 1,
                ...array_filter(
                    $map,
                    static fn (mixed $said, string $line): bool => $line === 'files' || (bool) $said,
                    ARRAY_FILTER_USE_BOTH,
                ),
                'records' => $records,
            ],
            $this->dialogue->evidence(),
            $this->dialogue->questions(),
            $this->leftOut,
            $former,
            $aliases,
        );
    }

    /**
     * From here on, what texts ask for at an address of before is a file of the site.
     *
     * @return array{list<string>, list<string>} those of before, and those that it has as well
     */
    private function otherAddresses(): array
    {
        $former = $aliases = [];
        $texts = TableProfile::texts($this->tables);
        foreach ((new OtherAddresses($this->files, $this->addresses, $texts))->questions() as $question) {
            $root = substr($question->id, strlen('address.'));
            match ($this->dialogue->answer($question)) {
                OtherAddresses::FORMER => $former[] = $root,
                OtherAddresses::ALIAS => $aliases[] = $root,
                default => null,
            };
        }
        $this->addresses = $this->addresses->with($former, $aliases);

        return [$former, $aliases];
    }

    /**
     * @param  array{string, string, 2?: Relation}|null  $pair
     * @return array<string, string|array<string, mixed>> column → how it is read
     */
    private function rules(TableProfile $table, Fields $fields, ?array $pair): array
    {
        [$rules, $why, $asked] = $fields->of($table, $pair);
        $rules = (new Folders($this->samples, $this->files))->said($table, $rules);
        foreach ($asked as $question) {
            if ($this->dialogue->answer($question) === 'media-id') {
                $rules[substr($question->id, strlen($table->name) + 1)] = 'media-id';
            }
        }
        foreach ($why as $column => $sentence) {
            $this->dialogue->because("$table->name.$column", $sentence);
        }

        return $rules;
    }

    /**
     * @param  list<Relation>  $ties
     * @param  Rules  $rules
     * @return list<Relation> with those whose keys stand inside of json; without those that name media beside others,
     *     which are a part of neither
     */
    private function withInside(array $ties, array $rules): array
    {
        foreach ($rules as $name => $own) {
            foreach ($own as $column => $rule) {
                foreach (is_array($rule) && is_array($rule['paths'] ?? null) ? $rule['paths'] : [] as $path) {
                    if (is_array($path) && is_string($path['names'] ?? null)) {
                        $to = $this->tables[$path['names']];
                        $why = 'keys of it stand in its json';
                        $ties[] = new Relation($name, $column, $to->name, (string) $to->id(), $why, isInside: true);
                    }
                }
            }
        }

        return array_values(
            array_filter(
                $ties,
                static fn (Relation $r): bool => $r->between === null || ! isset($rules[$r->table][$r->column]),
            ),
        );
    }

    /** @return list<string> addresses at which the site's own code gives media out by their ids */
    private function mediaWays(MediaTable $media, Relations $relations): array
    {
        $this->dialogue->because(
            'media',
            "$media->files of $media->rows sampled rows of {$media->table->name} name a file that exists",
        );

        return (new MediaWays($this->addresses, $this->files, $relations, $media))->in(
            TableProfile::texts($this->tables),
        );
    }

    /**
     * @param  array<string, mixed>  $tables
     * @return list<string>
     */
    private static function names(array $tables): array
    {
        return array_map(strval(...), array_keys($tables));
    }

    /** A folder of another site has files as well, and nothing in the database names any of them. */
    private function belong(?MediaTable $media): void
    {
        $named = preg_grep('~with files that exist|ids of media~', $this->dialogue->evidence());
        $isNamed = $media !== null || $named !== [];
        if ($isNamed || $this->tables === []) {
            return;
        }
        $this->dialogue->answer(new Question(
            'files.folder',
            $this->files->count() === 0
                ? 'No file lies in the folder of the files. Is it the folder of this site?'
                : 'Nothing in the database names any of the '.Words::many($this->files->count(), 'file')
                    .' in the folder. Is it the folder of this site?',
            ['no' => 'No: then go back and say another one', 'yes' => 'Yes, no content shows them'],
            [],
        ));
    }

    /**
     * @param  array<string, TableProfile>  $tables without redirects, whose old addresses are no page's any more
     * @return list<string> addresses of pages: those that the site itself links to, and those in its texts
     */
    private function known(array $tables): array
    {
        return array_values(
            array_unique([...$this->trial?->known() ?? [], ...(new Links($this->addresses))->in(
                TableProfile::texts($tables),
            )]),
        );
    }

    private function gather(): void
    {
        $all = [];
        foreach ($this->samples->tables() as $table) {
            $all[$table->name] = $table;
        }
        $this->prefix = Hints::prefix(array_map(strval(...), array_keys($all)));
        foreach ($all as $name => $table) {
            $bare = str_starts_with($name, $this->prefix) ? substr($name, strlen($this->prefix)) : $name;
            if ($table->rows === 0) {
                $this->leftOut[$name] = 'it is empty';
            } elseif (Hints::say(Hints::PASSING, $bare)) {
                $this->leftOut[$name] = 'by its name it holds copies or notes, which no visitor is shown';
            } else {
                $this->tables[$name] = $table;
            }
        }
    }

    private function hasKey(string $table): bool
    {
        if ($this->tables[$table]->key() !== []) {
            return true;
        }
        $this->leftOut[$table] = 'nothing names its rows: it has no key, and no column that is unique';

        return false;
    }

    /**
     * @param  array<string, array<string, mixed>>  $rules
     * @return iterable<string>
     */
    private function texts(array $rules): iterable
    {
        foreach ($rules as $table => $own) {
            foreach ($this->tables[$table]->columns as $column) {
                if (($column->type === ColumnType::Text && $column->length === 0) || isset($own[$column->name])) {
                    yield from $column->values;
                }
            }
        }
    }
}
