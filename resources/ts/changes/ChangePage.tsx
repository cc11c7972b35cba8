import { AlertDialog } from 'radix-ui';
import { Undo2 } from 'lucide-react';
import { useRef } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { client } from '@/api/client';
import { isAtWork, useAct, useChange, useMay, useSlug } from '@/api/hooks';
import type { Change, Plan } from '@/api/types';
import { PagesMet } from '@/plans/PagesMet';
import { Pair } from '@/plans/Pair';
import { StepList } from '@/plans/StepList';
import { Button } from '@/ui/Button';
import { sayProblem } from '@/ui/Notice';
import { FailedPage, Page } from '@/ui/Page';
import { Progress } from '@/ui/Progress';
import { Loading } from '@/ui/States';
import { many, number, when } from '@/ui/words';
import { acts } from './acts';
import { ChangeStateWord } from './ChangeStateWord';
import { OnThePages } from './OnThePages';

export function ChangePage() {
  const { change: id = '' } = useParams();
  const change = useChange(id);
  if (change.isPending)
    return (
      <Page title="Change">
        <Loading />
      </Page>
    );
  if (change.isError) return <FailedPage title="Change" error={change.error} again={change.refetch} />;
  return <ChangeBody change={change.data} />;
}

const UNDOABLE: ReadonlySet<Change['state']> = new Set(['applied', 'applied-in-part', 'undone-in-part']);

function ChangeBody({ change }: { change: Change }) {
  const { maintain } = useMay();
  const undo = useAct((site) => client.POST('/sites/{site}/changes/{change}/undo', acts(site, change.id)));
  // Once undo is asked for, its button goes; who works by keys is then where its state is told.
  const asked = useRef(false);
  const stateLine = useRef<HTMLParagraphElement>(null);
  const canUndo = maintain && UNDOABLE.has(change.state);
  const left =
    (change.counts['refused'] ?? 0) + (change.counts['kept'] ?? 0) + (change.counts['left-out'] ?? 0);

  return (
    <Page
      title={`Change ${change.id}: ${change.title}`}
      words={['change', 'step', 'leftOut', 'refused', 'kept', 'undone', 'stale']}
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
              <AlertDialog.Content
                onCloseAutoFocus={(e) => {
                  if (!asked.current) return;
                  e.preventDefault();
                  stateLine.current?.focus();
                }}
                className="sheet fixed top-1/2 left-1/2 z-50 w-[30rem] max-w-[92vw] -translate-x-1/2 -translate-y-1/2 p-6 shadow-xl"
              >
                <AlertDialog.Title className="text-lg font-semibold">
                  Undo change {change.id}?
                </AlertDialog.Title>
                <AlertDialog.Description className="mt-2 text-soft">
                  {many(change.counts['done'] ?? 0, 'step')} {change.counts['done'] === 1 ? 'is' : 'are'}{' '}
                  taken back, byte for byte. What somebody else changed since is left as it is, and listed.
                </AlertDialog.Description>
                <div className="mt-5 flex justify-end gap-2">
                  <AlertDialog.Cancel asChild>
                    <Button>Leave it</Button>
                  </AlertDialog.Cancel>
                  <AlertDialog.Action asChild>
                    <Button
                      tone="main"
                      onClick={() => {
                        asked.current = true;
                        undo.mutate(undefined, { onError: sayProblem });
                      }}
                    >
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
      <div className="grid grid-cols-[minmax(0,1fr)] gap-6 lg:grid-cols-[minmax(0,1fr)_24rem]">
        <div className="flex min-w-0 flex-col gap-4">
          <p ref={stateLine} tabIndex={-1} className="figures" data-testid="change-state" role="status">
            <ChangeStateWord state={change.state} /> · {change.by ?? 'command line'}, {when(change.made_at)}
            {change.undone_at && (
              <>
                {' '}
                · taken back by {change.undone_by ?? 'command line'}, {when(change.undone_at)}
              </>
            )}
            {(change.unkept ?? 0) > 0 && (
              <span className="block text-alert">
                Not done yet: {many(change.unkept ?? 0, 'old address', 'old addresses')}{' '}
                {change.unkept === 1 ? 'does' : 'do'} not lead on.
              </span>
            )}
            {change.reason && <span className="block text-soft">“{change.reason}”</span>}
          </p>
          <AtWork change={change} />
          {left > 0 && !isAtWork(change) && <LeftOut change={change} left={left} />}
          <StepList plan={change.plan_id} state={change.state} counts={change.counts} />
        </div>
        <div className="flex flex-col gap-4">
          <OnThePages change={change} />
          <Loads change={change} />
          {(change.counts['pages'] ?? 0) > 0 && !change.verification && (
            <aside className="sheet h-fit p-4" aria-label="Pages reached">
              <Pair plan={change.plan_id} pictures={change.pictures} boxes={change.boxes} />
              <PagesMet count={change.counts['pages'] ?? 0} pages={change.pages} />
            </aside>
          )}
        </div>
      </div>
    </Page>
  );
}

/** What the pages that a repair touches show since: whether all of it loads. */
function Loads({ change }: { change: Change }) {
  const survey = change.survey;
  if (!survey) return null;
  const isOpen = survey.state === 'waiting' || survey.state === 'running';
  return (
    <aside className="sheet h-fit p-4" aria-label="What loads" aria-live="polite" data-testid="loads">
      <h2 className="font-semibold">What loads there</h2>
      {isOpen ? (
        <p className="text-soft">Asking the pages and all that they show…</p>
      ) : (
        <p className={survey.problem ? 'text-alert' : ''}>{survey.problem ?? survey.sentence}</p>
      )}
      {survey.failing.length > 0 && (
        <ul className="mt-2 divide-y divide-line text-[0.93rem]">
          {survey.failing.map((row) => (
            <li key={row.url} className="py-1.5">
              <p className="path break-all">{row.path ?? row.url}</p>
              <p className="text-soft">
                {row.why} {many(row.pages, 'page')}
                {row.cached === row.pages && ', which a cache made before'}
              </p>
            </li>
          ))}
        </ul>
      )}
    </aside>
  );
}

/** A change at work can be stopped between two steps; one that was stopped waits to be told which way. */
function AtWork({ change }: { change: Change }) {
  const { maintain } = useMay();
  const stop = useAct((site) => client.POST('/sites/{site}/changes/{change}/stop', acts(site, change.id)));
  const goOn = useAct((site) => client.POST('/sites/{site}/changes/{change}/go-on', acts(site, change.id)));
  const back = useAct((site) => client.POST('/sites/{site}/changes/{change}/undo', acts(site, change.id)));
  const waiting = change.state === 'stopped' || change.state === 'undo-stopped';
  if (!isAtWork(change) && !waiting) return null;
  const all = Object.entries(change.counts).reduce((sum, [word, n]) => (word === 'pages' ? sum : sum + n), 0);
  const undone = change.counts['undone'] ?? 0;
  const done =
    change.state === 'undoing' || change.state === 'undo-stopped' ? undone : (change.counts['done'] ?? 0);
  return (
    <div className="sheet p-4" aria-live="polite" data-testid="at-work">
      <Progress share={all > 0 ? done / all : null} label="Steps carried out" />
      <p className="figures mt-2">
        {number(done)} of {many(all, 'step')}
        {change.state === 'undoing' || change.state === 'undo-stopped' ? ' taken back' : ' carried out'}.{' '}
        {waiting
          ? 'It was stopped between two steps. What is done is done; the rest waits.'
          : change.stop_asked && 'It stops before the next step.'}
      </p>
      {maintain && (
        <div className="mt-3 flex gap-2">
          {waiting ? (
            <>
              <Button
                tone="main"
                disabled={goOn.isPending}
                onClick={() => goOn.mutate(undefined, { onError: sayProblem })}
              >
                Go on
              </Button>
              <Button
                tone="alert"
                disabled={back.isPending}
                onClick={() => back.mutate(undefined, { onError: sayProblem })}
              >
                Roll back
              </Button>
            </>
          ) : (
            <Button
              disabled={stop.isPending || change.stop_asked}
              onClick={() => stop.mutate(undefined, { onError: sayProblem })}
            >
              Stop
            </Button>
          )}
        </div>
      )}
    </div>
  );
}

function LeftOut({ change, left }: { change: Change; left: number }) {
  const { maintain } = useMay();
  const retry = useAct((site) => client.POST('/sites/{site}/changes/{change}/retry', acts(site, change.id)));
  const standing = change.stands_on.reduce((sum, later) => sum + later.steps, 0);
  return (
    <div role="alert" className="sheet border-l-4 border-l-waiting p-4">
      <h2 className="font-semibold">
        {many(left, 'step')}{' '}
        {change.state === 'undone-in-part'
          ? `${left === 1 ? 'is' : 'are'} not undone`
          : `${left === 1 ? 'was' : 'were'} left out`}
      </h2>
      {standing < left && (
        <p className="text-soft">
          Nothing of somebody else’s was overwritten. The list below says why for each.
        </p>
      )}
      {change.state === 'undone-in-part' && change.stands_on.length > 0 && <StandingOn change={change} />}
      {change.state === 'undone-in-part' && maintain && standing < left && (
        <div className="mt-3">
          <PutBack change={change} />
        </div>
      )}
      {change.state === 'applied-in-part' && maintain && (
        <div className="mt-3 flex gap-2">
          {(change.counts['refused'] ?? 0) > 0 && (
            <Button
              disabled={retry.isPending}
              onClick={() => retry.mutate(undefined, { onError: sayProblem })}
            >
              Try those again
            </Button>
          )}
          <PlanAgain change={change} />
        </div>
      )}
    </div>
  );
}

/** Later changes that wrote over the same bytes: they can be taken back first, one by one or all at once. */
function StandingOn({ change }: { change: Change }) {
  const slug = useSlug();
  const { maintain } = useMay();
  const undo = useAct((site) =>
    client.POST('/sites/{site}/changes/{change}/undo', {
      ...acts(site, change.id),
      body: { with_later: true },
    }),
  );
  return (
    <div className="mt-1 flex flex-col gap-3">
      <p className="text-soft">
        {change.stands_on.length === 1 ? 'A later change' : 'Later changes'} wrote over the same bytes, so
        those stay until {change.stands_on.length === 1 ? 'it is' : 'they are'} undone:
      </p>
      <ul className="flex flex-col gap-1">
        {change.stands_on.map((later) => (
          <li key={later.id}>
            <Link className="font-medium underline" to={`/${slug}/changes/${later.id}`}>
              Change {later.id}: {later.title}
            </Link>{' '}
            <span className="text-soft">· {many(later.steps, 'step')}</span>
          </li>
        ))}
      </ul>
      {maintain && (
        <div>
          <Button disabled={undo.isPending} onClick={() => undo.mutate(undefined, { onError: sayProblem })}>
            Undo {change.stands_on.length === 1 ? 'that one' : 'those'} first, then this
          </Button>
        </div>
      )}
    </div>
  );
}

function PlanAgain({ change }: { change: Change }) {
  const slug = useSlug();
  const navigate = useNavigate();
  const again = useAct<Plan>((site) =>
    client.POST('/sites/{site}/plans/{plan}/again', { params: { path: { site, plan: change.plan_id } } }),
  );
  return (
    <Button
      disabled={again.isPending}
      onClick={() =>
        again.mutate(undefined, {
          onSuccess: (plan) => void navigate(`/${slug}/plans/${plan.id}`),
          onError: sayProblem,
        })
      }
    >
      Plan again for what was left out
    </Button>
  );
}

/** What somebody else edited meanwhile can be led back as it is now, by a plan that is read first. */
function PutBack({ change }: { change: Change }) {
  const slug = useSlug();
  const navigate = useNavigate();
  const back = useAct<Plan>((site) =>
    client.POST('/sites/{site}/changes/{change}/back', acts(site, change.id)),
  );
  return (
    <Button
      disabled={back.isPending}
      onClick={() =>
        back.mutate(undefined, {
          onSuccess: (plan) => void navigate(`/${slug}/plans/${plan.id}`),
          onError: sayProblem,
        })
      }
    >
      Plan to put the rest back
    </Button>
  );
}
