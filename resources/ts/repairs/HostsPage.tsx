import { Download, Home, Square } from 'lucide-react';
import { useNavigate } from 'react-router';
import { client } from '@/api/client';
import { useAct, useHosts, useMay, useSlug } from '@/api/hooks';
import type { Adoption, ForeignHost, ForeignHosts, Plan } from '@/api/types';
import { Button } from '@/ui/Button';
import { sayProblem } from '@/ui/Notice';
import { FailedPage, Page } from '@/ui/Page';
import { Progress } from '@/ui/Progress';
import { Empty, Loading } from '@/ui/States';
import { many, number, weight } from '@/ui/words';

/** Other hosts that lend pictures: allowed, or their pictures brought home. */
export function HostsPage() {
  const hosts = useHosts();
  const { maintain } = useMay();
  const plan = usePlanHome();
  if (hosts.isError) return <FailedPage title="Foreign hosts" error={hosts.error} again={hosts.refetch} />;
  const data = hosts.data;
  return (
    <Page title="Foreign hosts" words={['reference', 'plan']} wide>
      <p className="mb-4 max-w-3xl">
        Pictures that come from other hosts go when those go, or become others.{' '}
        <span className="text-soft">
          Fetch them and they are kept here; the plan then makes items of them, and the places name those.
        </span>
      </p>
      {!data ? (
        <Loading rows={5} height={72} />
      ) : data.hosts.length === 0 && data.pasted.references === 0 ? (
        <Empty title="No picture comes from elsewhere">Every picture lies on the site itself.</Empty>
      ) : (
        <>
          {data.adoption && <Fetching adoption={data.adoption} />}
          <ul className="sheet divide-y divide-line">
            {data.hosts.map((host) => (
              <HostRow
                key={host.host}
                host={host}
                onHome={(h) => plan.ask({ hosts: [h] })}
                isBusy={plan.isPending}
              />
            ))}
            {data.pasted.references > 0 && (
              <li className="flex flex-wrap items-center gap-x-5 gap-y-2 px-4 py-3">
                <div className="min-w-64 flex-1">
                  <p className="font-semibold">In the text itself</p>
                  <p className="figures text-[0.93rem] text-soft">
                    {many(data.pasted.files, 'picture')} pasted into text, at{' '}
                    {many(data.pasted.references, 'place')}; every page that shows one carries all of it
                  </p>
                </div>
                {maintain && (
                  <Button disabled={plan.isPending} onClick={() => plan.ask({ hosts: [], pasted: true })}>
                    <Home size={16} aria-hidden="true" /> Make files of them
                  </Button>
                )}
              </li>
            )}
          </ul>
        </>
      )}
    </Page>
  );
}

function usePlanHome() {
  const slug = useSlug();
  const navigate = useNavigate();
  const act = useAct<Plan, { hosts: string[]; pasted?: boolean }>((site, body) =>
    client.POST('/sites/{site}/adoptions/plan', { params: { path: { site } }, body }),
  );
  return {
    isPending: act.isPending,
    ask: (request: { hosts: string[]; pasted?: boolean }) =>
      act.mutate(request, {
        onSuccess: (made) => void navigate(`/${slug}/plans/${made.id}`),
        onError: sayProblem,
      }),
  };
}

function Fetching({ adoption }: { adoption: Adoption }) {
  const { maintain } = useMay();
  const stop = useAct<Adoption>((site) =>
    client.DELETE('/sites/{site}/adoptions/{adoption}', {
      params: { path: { site, adoption: adoption.id } },
    }),
  );
  const isOpen = adoption.state === 'waiting' || adoption.state === 'running';
  const done = adoption.fetched + adoption.refused;
  if (!isOpen && !adoption.problem) return null;
  return (
    <section
      className="sheet mb-3 flex items-center gap-5 px-4 py-3"
      aria-label="Fetching"
      aria-live="polite"
    >
      <div className="min-w-0 flex-1">
        <p className="figures mb-1.5">
          {adoption.problem ?? (
            <>
              <b>Fetching from {adoption.hosts.join(', ')}</b>: {number(done)} of {number(adoption.expected)}
              {adoption.refused > 0 && `, ${number(adoption.refused)} cannot be had`}
            </>
          )}
        </p>
        {isOpen && (
          <Progress
            share={adoption.expected > 0 ? done / adoption.expected : null}
            label="Pictures fetched"
          />
        )}
      </div>
      {isOpen && maintain && (
        <Button disabled={stop.isPending} onClick={() => stop.mutate(undefined, { onError: sayProblem })}>
          <Square size={14} aria-hidden="true" /> Stop
        </Button>
      )}
    </section>
  );
}

function HostRow({
  host: h,
  onHome,
  isBusy,
}: {
  host: ForeignHost;
  onHome: (host: string) => void;
  isBusy: boolean;
}) {
  const { maintain } = useMay();
  const decide = useAct<ForeignHosts, ForeignHost['decision']>((site, decision) =>
    client.PUT('/sites/{site}/hosts/{host}', {
      params: { path: { site, host: h.host } },
      body: { decision },
    }),
  );
  const fetching = useAct<Adoption>((site) =>
    client.POST('/sites/{site}/adoptions', { params: { path: { site } }, body: { hosts: [h.host] } }),
  );
  const accept = useAct<ForeignHosts>((site) =>
    client.POST('/sites/{site}/hosts/{host}/accept', { params: { path: { site, host: h.host } } }),
  );
  const left = h.files - h.fetched;
  return (
    <li className="flex flex-wrap items-center gap-x-5 gap-y-2 px-4 py-3">
      <div className="min-w-64 flex-1">
        <p className="flex items-baseline gap-2 font-semibold">
          <span className="path">{h.host}</span>
          {h.decision === 'allow' && <span className="text-[0.88rem] font-normal text-live">allowed</span>}
        </p>
        <p className="figures text-[0.93rem] text-soft">
          {many(h.files, 'file')}
          {h.weight !== null && ` (${weight(h.weight)})`}, {many(h.references, 'reference')} on{' '}
          {many(h.pages, 'public page')}; {number(h.fetched)} fetched
          {h.lost > 0 && <b className="text-alert">, {number(h.lost)} cannot be had</b>}
          {h.changed > 0 && <b className="text-alert">, {number(h.changed)} changed since first seen</b>}
        </p>
      </div>
      {maintain && (
        <div className="flex flex-wrap items-center gap-2">
          {h.changed > 0 && (
            <Button
              disabled={accept.isPending}
              onClick={() => accept.mutate(undefined, { onError: sayProblem })}
            >
              Accept the change
            </Button>
          )}
          <Button
            tone="quiet"
            disabled={decide.isPending}
            onClick={() => decide.mutate(h.decision === 'allow' ? null : 'allow', { onError: sayProblem })}
          >
            {h.decision === 'allow' ? 'Allow no more' : 'Allow'}
          </Button>
          {left > 0 && (
            <Button
              disabled={fetching.isPending}
              onClick={() => fetching.mutate(undefined, { onError: sayProblem })}
            >
              <Download size={16} aria-hidden="true" /> Fetch {number(left)}
            </Button>
          )}
          {h.fetched > 0 && (
            <Button tone="main" disabled={isBusy} onClick={() => onHome(h.host)}>
              <Home size={16} aria-hidden="true" /> Bring {number(h.fetched)} home
            </Button>
          )}
        </div>
      )}
    </li>
  );
}
