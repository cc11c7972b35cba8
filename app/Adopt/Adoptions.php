<?php

declare(strict_types=1);

namespace App\Adopt;

use App\Models\Adoption;
use App\Models\Site;
use App\Models\User;
use App\Models\WorkState;
use Illuminate\Database\UniqueConstraintViolationException;

/** Fetchings are begun, and taken up again where a dead worker left them. */
final readonly class Adoptions
{
    /**
     * What was fetched before is not asked for again; what could not be had is tried anew.
     *
     * @param  list<string>  $hosts
     *
     * @throws AlreadyFetching
     */
    public function begin(Site $site, array $hosts, ?User $by): Adoption
    {
        $this->recover($site);
        $decided = $site->hosts;
        foreach ($hosts as $host) {
            $decided[$host] = ForeignHosts::ADOPT;
        }
        $site->update(['hosts' => $decided]);
        try {
            $adoption = Adoption::query()->create([
                'site_id' => $site->id,
                'state' => WorkState::Waiting,
                'hosts' => $hosts,
                'started_by' => $by?->id,
                'started_at' => now(),
                'worked_at' => now(),
            ]);
        } catch (UniqueConstraintViolationException) {
            throw new AlreadyFetching();
        }
        WorkOnAdoption::dispatch($adoption->id);

        return $adoption->refresh();
    }

    /** @return int how many a dead worker had left, which are taken up where they were */
    public function recover(?Site $site = null): int
    {
        $left = Adoption::claimLeft(90, $site);
        foreach ($left as $adoption) {
            WorkOnAdoption::dispatch($adoption->id);
        }

        return $left->count();
    }
}
