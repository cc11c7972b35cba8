<?php

declare(strict_types=1);

namespace App\Connect;

use App\Models\Draft;
use App\Models\Site;
use App\Sites\Checkable;
use App\Sites\FieldMap;
use App\Sites\FieldMapError;
use App\Sites\SiteOpener;
use Illuminate\Database\UniqueConstraintViolationException;
use Illuminate\Support\Facades\DB;
use InvalidArgumentException;
use Ylema\Connect\Proposal;
use Ylema\Sites\SourceUnavailable;

/** Connects a site: from what a maintainer says of it to a row with a field map, which is only read at first. */
final readonly class Connector
{
    public function __construct(private MapProposer $proposer, private SiteOpener $opener)
    {
    }

    /** A site that is not kept yet. */
    public function draft(Settings $settings): Site
    {
        return new Site([
            'slug' => $settings->slug,
            'name' => $settings->name,
            'address' => $settings->address,
            'former' => $settings->former,
            'aliases' => $settings->aliases,
            'reach_at' => $settings->reachAt,
            'connection' => $settings->connection,
            'field_map' => '',
            'writes' => false,
        ]);
    }

    /** The site of a draft, with the addresses that its proposal found. */
    public function draftOf(Draft $draft): Site
    {
        $site = $this->draft(Settings::fromArray($draft->said, '/'));
        $proposal = $draft->proposal ?? [];

        return self::withAddresses($site, $proposal['former'] ?? [], $proposal['aliases'] ?? []);
    }

    /**
     * @param  list<string>  $former
     * @param  list<string>  $aliases
     */
    public static function withAddresses(Site $site, array $former, array $aliases): Site
    {
        $site->former = array_values(array_unique([...$site->former, ...$former]));
        $site->aliases = array_values(array_unique([...$site->aliases, ...$aliases]));

        return $site;
    }

    /**
     * @param  array<string, string>  $answers question → answer
     *
     * @throws SourceUnavailable
     */
    public function proposal(Site $site, array $answers = []): Proposal
    {
        // Nobody said yet in which folders the files lie, so all of them are looked at.
        $files = $this->opener->files(
            $site->connection,
            FieldMap::parse("version: 1\nfiles: { folders: [.] }\nrecords: {}"),
        );

        return $this->proposer->propose($site, $files, $answers);
    }

    public function yaml(Proposal $proposal): string
    {
        return $this->proposer->yaml($proposal);
    }

    /** @throws FieldMapError|SourceUnavailable|InvalidArgumentException */
    public function connect(Site $site, string $yaml): Site
    {
        $site->field_map = $yaml;
        $open = $this->opener->open($site);
        if ($open->content instanceof Checkable) {
            $open->content->check();
        }
        try {
            DB::transaction(function () use ($site, $yaml): void {
                $site->save();
                DB::table('field_maps')->insert([
                    'site_id' => $site->id,
                    'yaml' => $yaml,
                    'reason' => 'as it was connected',
                    'made_at' => now(),
                ]);
            });
        } catch (UniqueConstraintViolationException) {
            // The only one that can tell, since a second person may connect the same site at the same moment.
            throw new InvalidArgumentException(
                "There is a site \"{$site->slug}\" already. Give this one another short name.",
            );
        }

        return $site;
    }
}
