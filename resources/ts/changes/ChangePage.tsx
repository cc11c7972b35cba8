import { AlertDialog } from 'radix-ui';
import { Undo2 } from 'lucide-react';
import { useState } from 'react';
import { useParams } from 'react-router';
import { toast } from 'sonner';
import { api } from '@/api/client';
import { useAct, useChange, useMay } from '@/api/hooks';
import type { Change, PageVerdict } from '@/api/types';
import { WriteList } from '@/plans/WriteList';
import { Button } from '@/ui/Button';
import { sayProblem } from '@/ui/Notice';
import { Page } from '@/ui/Page';
import { Failed, Loading } from '@/ui/States';
import { many, number, when } from '@/ui/words';
import { ChangeStateWord } from './ChangeStateWord';

export function ChangePage() {
  const { change: id = '' } = useParams();
  const change = useChange(id);
  if (change.isPending)
    return (
      <Page title="Change">
        <Loading />
      </Page>
    );
  if (change.isError) return <Failed error={change.error} again={change.refetch} />;
  return <ChangeBody change={change.data} />;
}

function ChangeBody({ change }: { change: Change }) {
  const { maintain } = useMay();
  const undo = useAct((slug) => api(`sites/${slug}/changes/${change.id}/undo`, { method: 'POST' }));
  const canUndo =
    maintain &&
    (change.state === 'applied' || change.state === 'applied-in-part' || change.state === 'undone-in-part');
  const left = change.writes.filter((w) => w.state === 'refused' || w.state === 'kept');

  return (
    <Page
      title={
        <>
          Change {change.id}: {change.title}
        </>
      }
      aside={
        canUndo && (
          <AlertDialog.Root>
            <AlertDialog.Trigger asChild>
              <Button tone="alert">
                <Undo2 size={16} aria-hidden="true" /> Undo
              </Button>
            </AlertDialog.Trigger>
            <AlertDialog.Portal>
              <AlertDialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
              <AlertDialog.Content className="sheet fixed top-1/2 left-1/2 z-50 w-[30rem] max-w-[92vw] -translate-x-1/2 -translate-y-1/2 p-6 shadow-xl">
                <AlertDialog.Title className="text-lg font-semibold">
                  Undo change {change.id}?
                </AlertDialog.Title>
                <AlertDialog.Description className="mt-2 text-soft">
                  {many(change.summary.records, 'record')} and {many(change.summary.files, 'file')} go back to
                  the bytes that they had before. What somebody else changed since is left as it is, and
                  listed.
                </AlertDialog.Description>
                <div className="mt-5 flex justify-end gap-2">
                  <AlertDialog.Cancel asChild>
                    <Button>Leave it</Button>
                  </AlertDialog.Cancel>
                  <AlertDialog.Action asChild>
                    <Button tone="main" onClick={() => undo.mutate(undefined, { onError: sayProblem })}>
                      Undo it
                    </Button>
                  </AlertDialog.Action>
                </div>
              </AlertDialog.Content>
            </AlertDialog.Portal>
          </AlertDialog.Root>
        )
      }
    >
      <div className="grid gap-6 lg:grid-cols-[minmax(0,1fr)_24rem]">
        <div className="flex min-w-0 flex-col gap-4">
          <p className="figures" data-testid="change-state">
            <ChangeStateWord state={change.state} /> · {change.by ?? 'command line'}, {when(change.made_at)}
            {change.undone_at && (
              <>
                {' '}
                · taken back by {change.undone_by ?? 'command line'}, {when(change.undone_at)}
              </>
            )}
            {change.reason && <span className="block text-soft">“{change.reason}”</span>}
          </p>
          {left.length > 0 && (
            <div role="alert" className="sheet border-l-4 border-l-waiting p-4">
              <h2 className="font-semibold">
                {many(left.length, 'write')} {left.length === 1 ? 'was' : 'were'} left out
              </h2>
              <p className="text-soft">
                Nothing of somebody else’s was overwritten. The list below says why for each.
              </p>
              {change.state === 'applied-in-part' && maintain && <PlanAgain change={change} />}
            </div>
          )}
          <WriteList writes={change.writes} />
        </div>
        <Check change={change} />
      </div>
    </Page>
  );
}

function PlanAgain({ change }: { change: Change }) {
  const again = useAct<{ id: number; slug: string }>(async (slug) => {
    const plan = await api<{ id: number }>(`sites/${slug}/plans/${change.plan_id ?? 0}/again`, {
      method: 'POST',
    });
    return { ...plan, slug };
  });
  return (
    <Button
      className="mt-3"
      disabled={again.isPending || change.plan_id === null}
      onClick={() =>
        again.mutate(undefined, {
          onSuccess: (plan) => window.location.assign(`/${plan.slug}/plans/${plan.id}`),
          onError: sayProblem,
        })
      }
    >
      Plan again for what was left out
    </Button>
  );
}

const VERDICTS: Record<PageVerdict['verdict'], [string, string]> = {
  fresh: ['fresh', 'text-live'],
  stale: ['stale', 'text-alert'],
  old: ['shows the old', 'text-waiting'],
  unreachable: ['no answer', 'text-idle'],
};

function Check({ change }: { change: Change }) {
  const { maintain } = useMay();
  const look = useAct((slug) => api(`sites/${slug}/changes/${change.id}/verify`, { method: 'POST' }));
  const purge = useAct<{ asked: number }>((slug) =>
    api(`sites/${slug}/changes/${change.id}/purge`, { method: 'POST' }),
  );
  const [all, setAll] = useState(false);
  const v = change.verification;
  if (!v) {
    return (
      <aside className="sheet h-fit p-4" aria-live="polite">
        <h2 className="font-semibold">On the public pages</h2>
        <p className="mb-3 text-soft">
          {change.state === 'applying'
            ? 'Writing…'
            : change.state === 'undoing'
              ? 'Taking back…'
              : 'Reading again what changed, and looking at the pages…'}
        </p>
        <Loading rows={4} height={26} />
      </aside>
    );
  }
  const rows = [...v.pages, ...v.files].sort((a, b) => order(a) - order(b));
  const shown = all ? rows : rows.slice(0, 12);
  return (
    <aside className="sheet h-fit p-4" aria-label="On the public pages" data-testid="verification">
      <h2 className="font-semibold">On the public pages</h2>
      <p className="figures mt-1">
        {v.stale > 0 ? (
          <>
            <b className="text-alert">{number(v.stale)} stale</b>: a cache keeps them.{' '}
          </>
        ) : null}
        {v.pages.length > 0 &&
          `${number(v.fresh)} of ${many(v.pages.length, 'page')} looked at ${v.fresh === 1 ? 'is' : 'are'} fresh. `}
        {v.reached > v.pages.length && `${number(v.reached)} are reached in all. `}
        {v.files.length > 0 &&
          `${number(v.files.filter((f) => f.verdict === 'fresh').length)} of ${many(v.files.length, 'file')} serve the right bytes.`}
        {v.pages.length === 0 && v.files.length === 0 && 'No public page is reached by this change.'}
      </p>
      {maintain && (
        <div className="mt-3 flex gap-2">
          {v.stale > 0 && (
            <Button
              tone="main"
              disabled={purge.isPending}
              onClick={() =>
                purge.mutate(undefined, {
                  onSuccess: (r) =>
                    toast.success(`The cache was asked to forget ${many(r.asked, 'address', 'addresses')}.`),
                  onError: sayProblem,
                })
              }
            >
              {purge.isPending ? 'Purging…' : 'Purge and look again'}
            </Button>
          )}
          <Button disabled={look.isPending} onClick={() => look.mutate(undefined, { onError: sayProblem })}>
            {look.isPending ? 'Looking…' : 'Look again'}
          </Button>
        </div>
      )}
      <ul className="mt-3 flex flex-col border-t border-line">
        {shown.map((p) => {
          const [word, colour] = VERDICTS[p.verdict];
          return (
            <li
              key={p.address}
              className="flex items-baseline gap-2 border-b border-line py-1.5 text-[0.93rem] last:border-b-0"
              title={p.words}
            >
              <span className="min-w-0 flex-1">
                <span className="block truncate">{p.title ?? p.path}</span>
                <span className="path block truncate text-soft">{new URL(p.address).pathname}</span>
              </span>
              <span className={`shrink-0 font-semibold ${colour}`}>{word}</span>
            </li>
          );
        })}
      </ul>
      {rows.length > shown.length && (
        <Button tone="quiet" className="mt-1" onClick={() => setAll(true)}>
          Show all {number(rows.length)}
        </Button>
      )}
      <p className="mt-2 text-[0.85rem] text-soft">Looked at {when(v.looked_at)}.</p>
    </aside>
  );
}

function order(page: PageVerdict): number {
  return ['stale', 'old', 'unreachable', 'fresh'].indexOf(page.verdict);
}
