import { Popover } from 'radix-ui';
import { RefreshCw } from 'lucide-react';
import { client } from '@/api/client';
import { isOpen, useAct, useMay, useReadings } from '@/api/hooks';
import type { Reading } from '@/api/types';
import { Button } from '@/ui/Button';
import { sayProblem } from '@/ui/Notice';
import { ago, kindWord, many, number, when } from '@/ui/words';

/** When the site was last read, how a reading goes, and what could not be read. */
export function ReadingStatus({ readAt }: { readAt: string | null | undefined }) {
  const readings = useReadings();
  const { maintain } = useMay();
  const begin = useAct<Reading, boolean>((site, accept_loss) =>
    client.POST('/sites/{site}/readings', { params: { path: { site } }, body: { accept_loss } }),
  );
  const stop = useAct<Reading, number>((site, reading) =>
    client.DELETE('/sites/{site}/readings/{reading}', { params: { path: { site, reading } } }),
  );
  const latest = readings.data?.readings[0];
  const running = latest && isOpen(latest);
  const share = latest?.totals.chunks ? (latest.totals.done ?? 0) / latest.totals.chunks : 0;

  return (
    <div className="flex shrink-0 items-center gap-2 max-md:ml-auto">
      <Popover.Root>
        <Popover.Trigger
          className="min-w-32 rounded px-2 max-md:min-w-24 py-1 text-right text-[0.85rem] leading-tight hover:bg-tint"
          aria-live="polite"
        >
          {running ? (
            <>
              <span className="block font-semibold">
                {latest.state === 'landing' ? 'Working it out' : latest.stage || 'Reading'}
              </span>
              <span className="mt-1 block h-1.5 w-28 overflow-hidden rounded-full bg-line">
                <span
                  className="block h-full bg-accent transition-[width]"
                  style={{ width: `${latest.state === 'landing' ? 100 : share * 100}%` }}
                />
              </span>
            </>
          ) : latest?.state === 'failed' ? (
            <>
              <span className="block font-semibold text-alert">Last reading failed</span>
              <span className="block text-soft">{readAt ? `shown as of ${ago(readAt)}` : 'never read'}</span>
            </>
          ) : (
            <>
              <span className="block text-soft">Read</span>
              <span className="block font-semibold">
                {readAt ? ago(readAt) : readAt === null ? 'never' : '…'}
              </span>
            </>
          )}
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="end"
            sideOffset={8}
            className="sheet z-40 w-[26rem] p-4 shadow-lg outline-none"
          >
            {latest ? (
              <ReadingFacts reading={latest} />
            ) : (
              <p className="text-soft">This site was never read.</p>
            )}
            {latest?.problem?.includes('say so') && maintain && (
              <Button
                className="mt-3"
                disabled={begin.isPending}
                onClick={() => begin.mutate(true, { onError: sayProblem })}
              >
                The files are gone: read without them
              </Button>
            )}
            {running && maintain && (
              <Button
                className="mt-3"
                disabled={stop.isPending || latest.state === 'landing'}
                onClick={() => stop.mutate(latest.id, { onError: sayProblem })}
              >
                Stop this reading
              </Button>
            )}
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      {maintain && (
        <Button
          disabled={Boolean(running) || begin.isPending}
          onClick={() => begin.mutate(false, { onError: sayProblem })}
          aria-label="Read again"
        >
          <RefreshCw size={15} aria-hidden="true" className={running ? 'animate-spin' : ''} />
          <span className="max-[1180px]:hidden">Read again</span>
        </Button>
      )}
    </div>
  );
}

function ReadingFacts({ reading }: { reading: Reading }) {
  const t = reading.totals;
  return (
    <div className="text-[0.93rem]">
      <h2 className="font-semibold">
        {
          {
            queued: 'Waiting for a worker',
            reading: 'Reading',
            landing: 'Working out where everything is met',
            done: 'Last reading',
            stopped: 'The last reading was stopped',
            failed: 'The last reading failed',
          }[reading.state]
        }
      </h2>
      <p className="text-soft">{when(reading.started_at)}</p>
      {reading.problem && (
        <p className="mt-2 rounded bg-alert-tint p-2 text-alert">
          {reading.problem} What is shown is what the reading before it found.
        </p>
      )}
      <dl className="figures mt-3 grid grid-cols-[1fr_auto] gap-y-0.5">
        <dt>Records</dt>
        <dd className="text-right">
          {number(t.records ?? 0)} <span className="text-soft">({number(t.changed ?? 0)} changed)</span>
        </dd>
        <dt>References in what changed</dt>
        <dd className="text-right">{number(t.refs ?? 0)}</dd>
        <dt>Files</dt>
        <dd className="text-right">
          {number(t.files ?? 0)} <span className="text-soft">({number(t.changed_files ?? 0)} changed)</span>
        </dd>
        <dt>Could not be read</dt>
        <dd className="text-right">{number(t.problems ?? 0)}</dd>
      </dl>
      {reading.problems.length > 0 && (
        <ul className="mt-3 flex max-h-56 flex-col gap-1.5 overflow-y-auto border-t border-line pt-2">
          {reading.problems.map((p, i) => (
            <li key={i}>
              <span className="font-semibold">
                {kindWord(p.kind)} {p.title}
                {p.field && `, ${p.field}`}
                {p.line !== undefined && `, line ${number(p.line)}`}:
              </span>{' '}
              <span className="text-soft">{p.message}</span>
            </li>
          ))}
        </ul>
      )}
      {reading.state === 'done' && reading.problems.length === 0 && (
        <p className="mt-2 text-soft">All of it could be read ({many(t.chunks ?? 0, 'part')}).</p>
      )}
    </div>
  );
}
