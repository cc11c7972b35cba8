import { ShieldCheck } from 'lucide-react';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { client } from '@/api/client';
import { useAct, useMay, usePlan, useSlug } from '@/api/hooks';
import type { Plan } from '@/api/types';
import { Button, ButtonLink } from '@/ui/Button';
import { sayProblem } from '@/ui/Notice';
import { FailedPage, Page } from '@/ui/Page';
import { Progress } from '@/ui/Progress';
import { Empty, Loading } from '@/ui/States';
import { WhatIs } from '@/ui/WhatIs';
import { useTitle } from '@/ui/useTitle';
import { many, number } from '@/ui/words';
import { draftKey, forgetDraft } from '@/ui/draft';
import { PagesMet } from './PagesMet';
import { Pair } from './Pair';
import { StepList } from './StepList';

export function PlanPage() {
  const { plan: id = '' } = useParams();
  const slug = useSlug();
  const plan = usePlan(id);
  if (plan.isPending)
    return (
      <Page title="Plan">
        <Loading />
      </Page>
    );
  if (plan.isError) return <FailedPage title="Plan" error={plan.error} again={plan.refetch} />;
  if (plan.data.state === 'making') return <Making plan={plan.data} />;
  if (plan.data.state === 'refused')
    return (
      <Page title={`Plan ${plan.data.id}`}>
        <Empty title="This plan could not be made">
          {plan.data.problem} Nothing was written.{' '}
          <ButtonLink to={`/${slug}/media`} className="mt-4">
            To the media
          </ButtonLink>
        </Empty>
      </Page>
    );
  return <PlanBody plan={plan.data} />;
}

function Making({ plan }: { plan: Plan }) {
  const slug = useSlug();
  const navigate = useNavigate();
  const drop = useAct((site) =>
    client.DELETE('/sites/{site}/plans/{plan}', { params: { path: { site, plan: plan.id } } }),
  );
  return (
    <Page title={`Plan ${plan.id} is being made`}>
      <div className="sheet max-w-xl p-5" aria-live="polite">
        <Progress share={plan.expected > 0 ? plan.made / plan.expected : null} label="Steps made" />
        <p className="figures mt-2 text-soft">
          {plan.expected > 0
            ? `${number(plan.made)} of about ${many(plan.expected, 'step')}.`
            : 'Looking at what it is about.'}{' '}
          Nothing is written. You can leave this page; the plan is made all the same.
        </p>
        <Button
          className="mt-3"
          disabled={drop.isPending}
          onClick={() =>
            drop.mutate(undefined, { onSuccess: () => void navigate(`/${slug}/media`), onError: sayProblem })
          }
        >
          Give it up
        </Button>
      </div>
    </Page>
  );
}

const FRAME =
  'grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] gap-6 overflow-y-auto px-6 pb-6 max-sm:px-4 ' +
  'lg:grid-cols-[minmax(0,1fr)_20rem]';

const STANDS: Record<Plan['state'], string> = {
  making: '',
  refused: '',
  open: 'Nothing of this is written yet. Each step is checked against what stands here before it is carried out.',
  applied: 'This plan was applied; its change says what came of each step.',
  dropped: 'This plan was dropped; nothing of it was written.',
};

function PlanBody({ plan }: { plan: Plan }) {
  const slug = useSlug();
  const navigate = useNavigate();
  const { maintain } = useMay();
  const [reason, setReason] = useState('');
  const path = (site: string) => ({ params: { path: { site, plan: plan.id } } });
  const apply = useAct<{ change: number }>((site) =>
    client.POST('/sites/{site}/plans/{plan}/apply', { ...path(site), body: { reason } }),
  );
  const again = useAct<Plan>((site) => client.POST('/sites/{site}/plans/{plan}/again', path(site)));
  const left = plan.counts['left-out'] ?? 0;
  const writes = plan.counts['proposed'] ?? 0;
  useTitle(`Plan ${plan.id}: ${plan.title}`);

  return (
    <main className="flex min-h-0 flex-1 flex-col" id="work">
      <div className="px-6 pt-4 pb-3 max-sm:px-4">
        <div className="flex items-center gap-2">
          <h1 className="text-[1.45rem] font-bold tracking-tight">
            Plan {plan.id}: {plan.title}
          </h1>
          <WhatIs about="Plan" words={['plan', 'step', 'leftOut', 'refused', 'rendition']} />
        </div>
        <p className="text-soft" role="status">
          {plan.applied_by === null ? STANDS[plan.state] : `Applied by ${plan.applied_by}. ${STANDS.applied}`}
          {plan.state === 'open' && (
            <>
              {' '}
              <a
                href={`/api/sites/${slug}/plans/${plan.id}/rehearsal`}
                target="_blank"
                rel="noreferrer"
                className="text-accent underline underline-offset-2"
              >
                The statements and files, as they would be written
              </a>
            </>
          )}
        </p>
      </div>
      <div className={FRAME}>
        <div className="min-w-0">
          {left > 0 && (
            <p role="alert" className="sheet mb-4 border-l-4 border-l-waiting p-3">
              {many(left, 'step')} cannot be carried out and will be left out; the list says why.{' '}
              {plan.state === 'open' && maintain && (
                <Button
                  tone="quiet"
                  onClick={() =>
                    again.mutate(undefined, {
                      onSuccess: (p) => void navigate(`/${slug}/plans/${p.id}`),
                      onError: sayProblem,
                    })
                  }
                >
                  Plan again
                </Button>
              )}
            </p>
          )}
          {plan.notes.length > 0 && (
            <section aria-label="Before you apply" className="sheet mb-4 border-l-4 border-l-waiting p-3">
              <h2 className="font-semibold">Before you apply</h2>
              <ul className="list-disc pl-5">
                {plan.notes.map((note) => (
                  <li key={note}>{note}</li>
                ))}
              </ul>
            </section>
          )}
          <StepList plan={plan.id} state={plan.state} counts={plan.counts} />
        </div>
        <aside className="sheet h-fit p-4" aria-label="Pages reached">
          <Pair plan={plan.id} pictures={plan.pictures} boxes={plan.boxes} />
          <PagesMet count={plan.counts['pages'] ?? 0} pages={plan.pages} />
        </aside>
      </div>
      <div className="flex items-center gap-4 border-t border-line bg-sheet px-6 py-3 max-md:flex-wrap max-sm:px-4">
        <ShieldCheck className="shrink-0 text-accent" aria-hidden="true" />
        <p className="figures min-w-0 flex-1 text-[1.05rem] max-md:basis-[80%]" data-testid="plan-sentence">
          {plan.sentence}{' '}
          <span className="text-soft">
            {writes === 0 && plan.state === 'open' ? 'Nothing of it can be written.' : 'Undo stays possible.'}
          </span>
        </p>
        {plan.state === 'open' ? (
          maintain ? (
            <>
              <input
                aria-label="Why (kept in the journal)"
                placeholder="Why? (kept in the journal)"
                value={reason}
                maxLength={1000}
                onChange={(e) => setReason(e.target.value)}
                className="w-60 max-w-full rounded-md border border-edge bg-paper px-3 py-1.5"
              />
              {plan.bench && <ButtonLink to={`/${slug}/${plan.bench}`}>Change it</ButtonLink>}
              <Button
                tone="main"
                disabled={apply.isPending || writes === 0}
                title={writes === 0 ? 'There is nothing in it that could be written.' : undefined}
                onClick={() =>
                  apply.mutate(undefined, {
                    onSuccess: (r) => {
                      if (plan.bench) forgetDraft(draftKey(slug, plan.bench));
                      void navigate(`/${slug}/changes/${r.change}`);
                    },
                    onError: sayProblem,
                  })
                }
              >
                Apply
              </Button>
            </>
          ) : (
            <span className="text-soft">Your role looks; a maintainer applies.</span>
          )
        ) : plan.change !== null ? (
          <ButtonLink to={`/${slug}/changes/${plan.change}`}>To its change</ButtonLink>
        ) : (
          <span className="font-semibold text-soft">Dropped.</span>
        )}
      </div>
    </main>
  );
}
