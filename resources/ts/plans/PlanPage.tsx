import { ArrowRight, ShieldCheck } from 'lucide-react';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { api } from '@/api/client';
import { useAct, useMay, useMediaItem, usePlan, useSlug } from '@/api/hooks';
import type { Plan } from '@/api/types';
import { Button, ButtonLink } from '@/ui/Button';
import { sayProblem } from '@/ui/Notice';
import { Page } from '@/ui/Page';
import { Picture } from '@/ui/Picture';
import { Failed, Loading } from '@/ui/States';
import { many, number } from '@/ui/words';
import { WriteList } from './WriteList';

export function planSentence(plan: Plan): string {
  const s = plan.summary;
  return s.manner === 'same-address'
    ? `New bytes for ${many(s.files, 'file')} behind the same addresses; ${many(s.references, 'reference')} in ${many(s.records, 'record')} stay as they are.`
    : `${many(s.references, 'reference')} in ${many(s.records, 'record')}${s.files > 0 ? `, ${many(s.files, 'new file')}` : ', no file'}.`;
}

export function PlanPage() {
  const { plan: id = '' } = useParams();
  const plan = usePlan(id);
  if (plan.isPending)
    return (
      <Page title="Plan">
        <Loading />
      </Page>
    );
  if (plan.isError) return <Failed error={plan.error} again={plan.refetch} />;
  return <PlanBody plan={plan.data} />;
}

function PlanBody({ plan }: { plan: Plan }) {
  const slug = useSlug();
  const navigate = useNavigate();
  const { maintain } = useMay();
  const [reason, setReason] = useState('');
  const apply = useAct<{ change: number }>((s) =>
    api(`sites/${s}/plans/${plan.id}/apply`, { method: 'POST', body: { reason } }),
  );
  const again = useAct<Plan>((s) => api(`sites/${s}/plans/${plan.id}/again`, { method: 'POST' }));
  const problems = plan.writes.filter((w) => w.problem).length;
  const s = plan.summary;

  return (
    <main className="flex min-h-0 flex-1 flex-col" id="work">
      <div className="px-6 pt-4 pb-3">
        <h1 className="text-[1.45rem] font-bold tracking-tight">
          Plan {plan.id}: {plan.title}
        </h1>
        <p className="text-soft">
          {plan.state === 'open'
            ? 'Nothing of this is written yet. Each write is checked against what stands here before it is made.'
            : plan.state === 'applied'
              ? 'This plan was applied; its change in the journal says what came of each write.'
              : 'This plan was dropped; nothing of it was written.'}
        </p>
      </div>
      <div className="grid min-h-0 flex-1 gap-6 overflow-y-auto px-6 pb-6 lg:grid-cols-[minmax(0,1fr)_20rem]">
        <div className="min-w-0">
          {problems > 0 && (
            <p role="alert" className="sheet mb-4 border-l-4 border-l-waiting p-3">
              {many(problems, 'write')} cannot be made and will be left out; the list says why.{' '}
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
          <WriteList writes={plan.writes} />
        </div>
        <aside className="sheet h-fit p-4" aria-label="Pages reached">
          <Pair from={s.from} to={s.to} />
          <h2 className="font-semibold">Met on {many(s.pages, 'public page')}</h2>
          <p className="mb-2 text-soft">
            A page cache may keep the old page for a while; after applying, each is looked at.
          </p>
          <ul className="max-h-72 overflow-y-auto text-[0.93rem]">
            {s.page_list.map((page) => (
              <li key={page.id} className="truncate py-0.5">
                {page.title} <span className="path text-soft">/{page.address}</span>
              </li>
            ))}
            {s.pages > s.page_list.length && (
              <li className="py-0.5 text-soft">and {number(s.pages - s.page_list.length)} more</li>
            )}
          </ul>
        </aside>
      </div>
      <div className="flex items-center gap-4 border-t border-line bg-sheet px-6 py-3">
        <ShieldCheck className="shrink-0 text-accent" aria-hidden="true" />
        <p className="figures min-w-0 flex-1 text-[1.05rem]" data-testid="plan-sentence">
          {planSentence(plan)}{' '}
          {s.cropped && s.cropped > 0.02
            ? `Up to ${Math.round(s.cropped * 100)}% falls away where shapes differ. `
            : ''}
          <span className="text-soft">Undo stays possible.</span>
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
                className="w-60 rounded-md border border-line bg-paper px-3 py-1.5"
              />
              <ButtonLink to={`/${slug}/media/${s.from}/swap`}>Change it</ButtonLink>
              <Button
                tone="main"
                disabled={apply.isPending}
                onClick={() =>
                  apply.mutate(undefined, {
                    onSuccess: (r) => void navigate(`/${slug}/changes/${r.change}`),
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
        ) : (
          <span className="font-semibold text-soft">
            {plan.state === 'applied' ? 'Applied already.' : 'Dropped for a newer plan.'}
          </span>
        )}
      </div>
    </main>
  );
}

/** What gives way and what stands in; an upload has no picture of its own yet. */
function Pair({ from, to }: { from: number; to: number | null }) {
  const old = useMediaItem(from).data;
  const other = useMediaItem(to ?? from).data;
  if (!old || !other) return <div className="mb-3 h-28" />;
  return (
    <div className="mb-3 grid grid-cols-[1fr_auto_1fr] items-center gap-2 border-b border-line pb-3">
      <Picture
        fileId={old.file_id}
        sha={old.sha256}
        alt={`Now: ${old.title}`}
        width={480}
        className="h-24 w-full rounded"
      />
      <ArrowRight size={18} className="text-accent" aria-hidden="true" />
      {to === null ? (
        <span className="grid h-24 place-items-center rounded bg-well text-center text-[0.88rem] text-soft">
          the upload
        </span>
      ) : (
        <Picture
          fileId={other.file_id}
          sha={other.sha256}
          alt={`After: ${other.title}`}
          width={480}
          className="h-24 w-full rounded"
        />
      )}
    </div>
  );
}
