<?php

declare(strict_types=1);

namespace App\Adopt;

use App\Media\Pictures;
use App\Models\Adoption;
use App\Models\WorkState;
use App\Outgoing\HostNames;
use App\Outgoing\Question;
use App\Outgoing\Visit;
use App\Outgoing\Visitor;
use App\Support\Clock;
use App\Support\WorkLock;
use App\Usage\Findings;
use App\Vault\Vault;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use Ylema\Imaging\UploadRefused;
use Ylema\Plan\ForeignPicture;

/** Fetches files of other hosts, a few at a time, judges each by its bytes, and keeps those that can be used. */
final readonly class Fetcher
{
    private const WINDOW = 8;

    /** Of one host, and so of all. */
    private const AT_ONCE = 2;

    private const SECONDS = 30;

    /** Failures in a row after which a host is left in peace. */
    private const PATIENCE = 3;

    /** Seconds that one worker gives to it before others get their turn. */
    private const TURN = 240;

    public function __construct(private HostNames $names, private Vault $vault)
    {
    }

    /** @return bool whether there is more to do */
    public function work(Adoption $adoption): bool
    {
        $lock = WorkLock::take(WorkLock::ADOPTION, $adoption->id);
        if ($lock === null || ! $adoption->refresh()->state->isOpen()) {
            $lock?->release();

            return false;
        }
        try {
            $adoption->loadMissing('site');
            if ($adoption->state === WorkState::Waiting) {
                $adoption->update(['state' => WorkState::Running, 'expected' => $this->wanted($adoption)->count()]);
            }
            $until = Clock::seconds() + self::TURN;
            while ($adoption->state === WorkState::Running && Clock::seconds() < $until) {
                $this->step($adoption);
                $adoption->refresh();
                if ($adoption->stop_asked && $adoption->state === WorkState::Running) {
                    $adoption->update(['state' => WorkState::Stopped]);
                }
            }
            if ($adoption->state !== WorkState::Running) {
                // What cannot be had is a finding of its own.
                (new Findings($adoption->site_id))->settle();
            }

            return $adoption->state === WorkState::Running;
        } finally {
            // A client holds itself in cycles, and its connections with it.
            gc_collect_cycles();
            $lock->release();
        }
    }

    private function step(Adoption $adoption): void
    {
        $rows = $this->wanted($adoption)
            ->where('a.id', '>', $adoption->after_id)
            ->orderBy('a.id')
            ->limit(self::WINDOW)
            ->get(['a.id', 'a.url', 'a.url_hash'])
            ->all();
        if ($rows === []) {
            $adoption->update(['state' => WorkState::Done, 'finished_at' => now(), 'worked_at' => now()]);

            return;
        }
        $totals = $adoption->totals;
        $questions = $noted = [];
        foreach ($rows as $i => $row) {
            $host = self::host((string) $row->url);
            if (($totals["quiet $host"] ?? 0) >= self::PATIENCE) {
                $noted[] = [
                    $row,
                    null,
                    'Its host did not answer '.self::PATIENCE.' times in a row, so it was not asked.',
                ];
            } else {
                $questions[$i] = new Question((string) $row->url);
            }
        }
        $visitor = new Visitor(
            $adoption->site,
            $this->names,
            (new Pictures())->check()->maxBytes,
            self::SECONDS,
            self::AT_ONCE,
            $adoption->site->pause,
            array_map(strval(...), array_keys($adoption->site->hosts)),
        );
        $visitor->visit($questions, static function (int $i, Visit $visit) use ($rows, &$totals, &$noted): void {
            $host = self::host((string) $rows[$i]->url);
            $isQuiet = $visit->status() === null && $visit->isAllowed;
            $totals["quiet $host"] = $isQuiet ? ($totals["quiet $host"] ?? 0) + 1 : 0;
            $status = $visit->status();
            $noted[] = [
                $rows[$i],
                $status !== null && $status >= 200 && $status < 300 ? (string) $visit->response?->getBody() : null,
                $visit->problem ?? "It answers $status.",
            ];
        });
        foreach ($noted as [$row, $bytes, $reason]) {
            $had = $this->keep($adoption, (string) $row->url, (string) $row->url_hash, $bytes, $reason);
            $totals[$had ? 'fetched' : 'refused'] = ($totals[$had ? 'fetched' : 'refused'] ?? 0) + 1;
        }
        $adoption->update([
            'totals' => $totals,
            'after_id' => (int) $rows[count($rows) - 1]->id,
            'worked_at' => now(),
        ]);
    }

    /** Addresses of these hosts that content names, and of which no bytes are kept. */
    private function wanted(Adoption $adoption): Builder
    {
        return ForeignHosts::addresses($adoption->site_id, $adoption->hosts)->whereNotExists(
            DB::table('foreign_files as f')
                ->whereColumn('f.site_id', 'a.site_id')
                ->whereColumn('f.url_hash', 'a.url_hash')
                ->whereNotNull('f.sha256'),
        );
    }

    /** @return bool whether its bytes are kept now */
    private function keep(Adoption $adoption, string $url, string $hash, ?string $bytes, string $reason): bool
    {
        $values = [
            'url' => $url,
            'host' => self::host($url),
            'reason' => $reason,
            'sha256' => null,
            'fetched_at' => now(),
        ];
        if ($bytes !== null) {
            $name = ForeignPicture::nameIn($url);
            try {
                $pictures = new Pictures();
                $checked = $pictures->check()->judge($bytes, $name);
                if (in_array($checked->extension, Pictures::WRITABLE, true)) {
                    $pictures->open($bytes, $name);
                }
                $values = [
                    ...$values,
                    'reason' => null,
                    'sha256' => $this->vault->put($bytes),
                    'weight' => strlen($bytes),
                    'extension' => $checked->extension,
                    'width' => $checked->size?->width,
                    'height' => $checked->size?->height,
                    'animated' => $checked->embedded->isAnimated,
                    'credit' => mb_strcut(mb_scrub($checked->embedded->credit), 0, 200),
                ];
            } catch (UploadRefused $e) {
                $values['reason'] = $e->getMessage();
            }
        }
        DB::table('foreign_files')->updateOrInsert(
            ['site_id' => $adoption->site_id, 'url_hash' => trim($hash)],
            $values,
        );

        return $values['sha256'] !== null;
    }

    private static function host(string $url): string
    {
        return (string) parse_url($url, PHP_URL_HOST);
    }
}
