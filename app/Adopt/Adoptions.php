<?php

declare(strict_types=1);

namespace App\Adopt;

use App\Models\Adoption;
use App\Models\Site;
use App\Models\SurveyState;
use App\Models\User;
use App\Support\WorkLock;
use Illuminate\Database\UniqueConstraintViolationException;

/** Fetchings from their asking to their end. */
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
                'state' => SurveyState::Waiting,
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

    public function stop(Adoption $adoption): void
    {
        Adoption::query()
            ->whereKey($adoption->id)
            ->whereIn('state', [SurveyState::Waiting, SurveyState::Running])
            ->update(['stop_asked' => true]);
        if (WorkLock::isFree(WorkLock::ADOPTION, $adoption->id)) {
            Adoption::query()
                ->whereKey($adoption->id)
                ->where('state', SurveyState::Waiting)
                ->update(['state' => SurveyState::Stopped]);
        }
    }

    /** @return int how many a dead worker had left, which are taken up where they were */
    public function recover(?Site $site = null): int
    {
        $count = 0;
        $rows = Adoption::query()
            ->whereIn('state', [SurveyState::Waiting, SurveyState::Running])
            ->where('worked_at', '<', now()->subSeconds(90))
            ->when($site !== null, fn ($q) => $q->where('site_id', $site?->id))
            ->get();
        foreach ($rows as $adoption) {
            if (WorkLock::isFree(WorkLock::ADOPTION, $adoption->id)) {
                $adoption->update(['worked_at' => now()]);
                WorkOnAdoption::dispatch($adoption->id);
                $count++;
            }
        }

        return $count;
    }
}
