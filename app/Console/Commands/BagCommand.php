<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Archive\VerifyBag;
use App\Console\ExitCode;
use App\Models\Bag;

final class BagCommand extends Command
{
    protected $signature = 'ylema:bag {do : verify or list} {names?* : bags; all where none is named}';

    protected $description = 'List bags of the archive, or read them back whole (exit code 4: one is damaged)';

    public function handle(): int
    {
        $do = $this->argument('do');
        if ($do !== 'verify' && $do !== 'list') {
            $this->error('A bag can be verified or listed: ylema bag verify NAME, ylema bag list.');

            return ExitCode::WRONG;
        }
        $names = $this->argument('names');
        $names = is_array($names) ? $names : [];
        $bags = Bag::query()
            ->where('state', Bag::SEALED)
            ->when($names !== [], fn ($q) => $q->whereIn('name', $names))
            ->orderBy('id')
            ->get();
        if ($bags->isEmpty()) {
            $this->error($names === [] ? 'There is no bag yet.' : 'There is no sealed bag of that name.');

            return $names === [] ? self::SUCCESS : 2;
        }
        $damaged = 0;
        foreach ($bags as $bag) {
            $trouble = $do === 'verify' ? VerifyBag::look($bag) : $bag->trouble;
            $damaged += $trouble === [] ? 0 : 1;
            $this->line(
                $bag->name.
                    ': '
                    .number_format($bag->files)
                    .' files, '
                    .number_format($bag->weight / 1_000_000, 1)
                    .' MB, '
                    .($trouble === [] ? 'whole' : 'damaged')
                    .($bag->verified_at === null ? '' : ", verified {$bag->verified_at->toDateString()}"),
            );
            foreach ($trouble as $one) {
                $this->line("  $one");
            }
        }

        return $damaged > 0 ? ExitCode::LEFT : ExitCode::DONE;
    }
}
