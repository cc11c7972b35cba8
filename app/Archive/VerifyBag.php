<?php

declare(strict_types=1);

namespace App\Archive;

use App\Models\Bag;
use App\Support\WorkLock;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Ylema\Failure;

/** Reads a bag back whole and notes down what is damaged. */
final class VerifyBag implements ShouldQueue
{
    use Queueable;

    public int $tries = 3;

    public int $timeout = 3600;

    public function __construct(public readonly int $bagId)
    {
    }

    public function handle(): void
    {
        $bag = Bag::query()->find($this->bagId);
        if ($bag !== null && $bag->state === Bag::SEALED) {
            self::look($bag);
        }
    }

    /** @return list<string> what is damaged */
    public static function look(Bag $bag): array
    {
        $lock = WorkLock::take(WorkLock::ARCHIVE, $bag->id);
        if ($lock === null) {
            return $bag->trouble;
        }
        try {
            $trouble = (new BagCheck(BagDisk::of($bag->site_id, $bag->name)))->look();
        } catch (Failure $e) {
            $trouble = [$e->getMessage()];
        } finally {
            $lock->release();
        }
        $bag->update(['trouble' => $trouble, 'verified_at' => now()]);

        return $trouble;
    }
}
