<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Connect\Coverage;
use App\Console\ExitCode;
use App\Models\Site;
use App\Usage\Mentioned;
use App\Usage\PlaceQuestions;
use Ylema\Failure;
use Ylema\Plan\Words;

final class CoverageCommand extends Command
{
    use FindsSites;

    protected $signature = 'ylema:coverage {site : its short name} {--json : as json}';

    protected $description = 'Say which columns, places inside of them and files name media, and no line reads them';

    public function handle(Coverage $coverage): int
    {
        $site = $this->site();
        if ($site === null) {
            return ExitCode::WRONG;
        }
        try {
            $gaps = $coverage->of($site);
        } catch (Failure $e) {
            return $this->refused($e);
        }
        if ($this->option('json') === true) {
            $this->line(
                (string) json_encode([
                    'gaps' => $gaps,
                    'questions' => (new PlaceQuestions($site))->all(),
                    'mentions' => (new Mentioned($site))->groups()['rows'],
                    'not_searched' => Mentioned::notSearched($site),
                ], JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE),
            );

            return self::SUCCESS;
        }
        foreach ($gaps as $gap) {
            $place = $gap->table === '' ? "files $gap->column" : "$gap->table.$gap->column";
            $this->line(
                $place
                    .($gap->name === '' ? '' : ", rows called $gap->name")
                    .($gap->path === '' ? '' : ", at $gap->path")
                    .": $gap->why",
            );
            if ($gap->passing !== null) {
                $this->line("    most likely no content: $gap->passing");
            }
        }
        $mentions = (new Mentioned($site))->groups();
        foreach ($mentions['rows'] as $group) {
            $this->line("{$group['place']}: ".Words::many($group['count'], 'mention').' of '
                .Words::many($group['items'], 'item')
                .', in a way that is not read');
        }
        foreach ((new PlaceQuestions($site))->all() as $question) {
            $this->line("{$question['place']}: {$question['asks']} ".match ($question['answer']) {
                null => 'Say in the field map’s *What it leaves out* whether it names them.',
                true => 'It names them, somebody said.',
                false => 'It names none, somebody said.',
            });
        }
        $left = Mentioned::notSearched($site);
        foreach ($left as $place) {
            $this->line("not searched: {$place['place']}: {$place['why']}");
        }
        $this->line(self::sum($site, count($gaps), $mentions['total'], count($left)));

        return self::SUCCESS;
    }

    /** Never "all": names that are put together while code runs stand nowhere. */
    private static function sum(Site $site, int $gaps, int $mentions, int $left): string
    {
        $beside = $site->beside;
        if ($beside === null) {
            return 'What the field map leaves out was never searched; read the site again.';
        }
        $searched = Words::many($beside['tables'], 'table').' and '.Words::many($beside['files'], 'file')
            .' were searched';

        return match (true) {
            $gaps > 0 => Words::many($gaps, 'place').' where media are named that no line reads.',
            $mentions > 0 => Words::many($mentions, 'place')." with names that are not read; $searched.",
            default => "Nothing else was found to name media; $searched.",
        }.($left > 0 ? ' '.Words::many($left, 'thing').' could not be.' : '')
            .' Names that are put together while code runs stand nowhere: only a survey and access logs see those.';
    }
}
