<?php

declare(strict_types=1);

namespace Tests\App\Connect\Drawn;

use App\Connect\Connector;
use App\Connect\MapProposer;
use App\Models\MediaItem;
use App\Models\Site;
use App\Retire\Proofs;
use App\Sites\FieldMap;
use App\Sites\FolderStore;
use Illuminate\Support\Facades\DB;
use PDO;
use RuntimeException;
use Tests\App\Connect\NetLaw;
use Tests\App\Connect\SecondSite;
use Ylema\Addresses\OutcomeKind;
use Ylema\Connect\Proposal;

/** What a proposal that was told nothing found of a drawn site, held against what the site's makers know. */
final readonly class Measured
{
    /**
     * @param  int  $uses all that there are
     * @param  list<string>  $missed table|key|column|path
     * @param  list<string>  $invented
     * @param  list<string>  $idleButUsed paths
     * @param  list<string>  $safeButUsed paths
     * @param  list<string>  $falseFindings values that lead to files, or to nothing of the site
     * @param  list<string>  $lostPages table|key of rows that visitors meet, and that the map takes for no page, or for
     *     one of another name
     */
    public function __construct(
        public DrawnSite $drawn,
        public Site $site,
        public Proposal $proposal,
        public int $uses,
        public array $missed,
        public array $invented,
        public array $idleButUsed,
        public array $safeButUsed,
        public array $falseFindings,
        public array $lostPages,
    ) {
    }

    public function found(): float
    {
        return $this->uses === 0 ? 1.0 : 1 - count($this->missed) / $this->uses;
    }

    /**
     * The databases take turns: most drawn sites are on SQLite, which is written fastest.
     *
     * @return array{dsn: string, user: string, password: string}
     */
    public static function connection(int $seed, string $sqlite): array
    {
        if ($seed % 6 === 0) {
            SecondSite::empty(SecondSite::maria());

            return SecondSite::credentials();
        }
        if ($seed % 6 === 3) {
            return [
                'dsn' => SecondSite::postgres(),
                'user' => (string) config('demo.user'),
                'password' => (string) config('demo.password'),
            ];
        }
        @unlink($sqlite);

        return ['dsn' => "sqlite:$sqlite", 'user' => '', 'password' => ''];
    }

    /**
     * What is found once all that was asked is answered by one who knows: whose columns hold ids of media.
     *
     * @return self|null null where nothing was asked that is not answered so already
     */
    public function answered(string $folder): ?self
    {
        $columns = [];
        foreach ($this->drawn->uses as $use) {
            [$table, , $column] = explode('|', $use);
            $columns["$table.$column"] = true;
        }
        $answers = [];
        foreach ($this->proposal->questions as $question) {
            if (isset($question->answers['media-id'], $columns[$question->id])) {
                $answers[$question->id] = 'media-id';
            }
        }

        return $answers === [] ? null : self::read($this->drawn, $this->site, $folder, $answers);
    }

    /**
     * @param  array{dsn: string, user: string, password: string}  $connection
     * @param  array<string, string>  $answers
     */
    public static function of(array $connection, string $folder, int $seed, array $answers = []): self
    {
        $drawn = new DrawnSite(new PDO(...array_values($connection)), $folder, $seed);
        $site = Site::query()->create([
            'slug' => "drawn-$seed",
            'name' => 'Drawn',
            'address' => "https://$drawn->host/",
            'field_map' => '',
            'connection' => [...$connection, 'folder' => $folder],
            'reach_at' => [],
        ]);

        return self::read($drawn, $site, $folder, $answers);
    }

    /** @param  array<string, string>  $answers */
    public static function read(DrawnSite $drawn, Site $site, string $folder, array $answers = []): self
    {
        $proposer = app(MapProposer::class);
        $proposal = $proposer->propose($site, new FolderStore($folder, ['']), $answers);
        Connector::withAddresses($site, $proposal->former, $proposal->aliases);
        $site->field_map = $proposer->yaml($proposal);
        $site->save();
        $map = FieldMap::parse($site->field_map);
        $reading = SecondSite::read($site);
        if ($reading->problem !== null) {
            throw new RuntimeException("Seed $drawn->seed: $reading->problem");
        }
        $smaller = $drawn->library->smaller;
        $found = [];
        $table = static fn (string $kind): string => (string) $map->kind($kind)->table;
        foreach (SecondSite::uses($site, $table) as $use) {
            [$table, $key, $column, $path] = explode('|', $use, 4);
            if ($table !== '') {
                $found[] = "$table|$key|$column|".($smaller[$path] ?? $path);
            }
        }
        NetLaw::allLooked($site);
        (new Proofs($site->id))->settle();
        $paths = static fn (string $column, string $word): array => MediaItem::query()
            ->where('site_id', $site->id)
            ->where($column, $word)
            ->pluck('path')
            ->all();
        $shown = array_map(strval(...), array_keys($drawn->shown));

        return new self(
            $drawn,
            $site,
            $proposal,
            count($drawn->uses),
            self::without($drawn->uses, $found),
            self::without($found, $drawn->uses),
            array_values(array_intersect($paths('standing', 'idle'), $shown)),
            array_values(array_intersect($paths('verdict', 'safe'), $shown)),
            array_values(array_diff(self::findings($site), array_keys($drawn->wrong))),
            array_keys(array_diff_assoc($drawn->pages, self::pages($site, $map))),
        );
    }

    /**
     * @param  list<string>  $some
     * @param  list<string>  $others each takes one of the same away
     * @return list<string>
     */
    private static function without(array $some, array $others): array
    {
        $left = array_count_values($others);
        $without = [];
        foreach ($some as $one) {
            if (($left[$one] ?? 0) > 0) {
                $left[$one]--;
            } else {
                $without[] = $one;
            }
        }

        return $without;
    }

    /** @return array<string, string> table|key → title */
    private static function pages(Site $site, FieldMap $map): array
    {
        $pages = [];
        foreach (DB::table('records')->where('site_id', $site->id)->where('is_page', true)->get() as $record) {
            $pages["{$map->kind($record->kind)->table}|$record->key"] = (string) $record->title;
        }

        return $pages;
    }

    /** @return list<string> values of all findings */
    private static function findings(Site $site): array
    {
        return DB::table('findings')
            ->where('site_id', $site->id)
            ->whereIn('outcome', array_column(OutcomeKind::findings(), 'value'))
            ->pluck('value')
            ->all();
    }
}
