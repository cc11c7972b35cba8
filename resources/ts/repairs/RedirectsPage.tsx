import { ArrowRight, ListChecks, Trash2 } from 'lucide-react';
import { useDeferredValue, useState } from 'react';
import { useNavigate } from 'react-router';
import { client } from '@/api/client';
import { useAct, useMay, useRedirects, useSlug } from '@/api/hooks';
import type { Plan, RedirectRequest, RedirectRow } from '@/api/types';
import { Button } from '@/ui/Button';
import { sayProblem } from '@/ui/Notice';
import { FailedPage, Page } from '@/ui/Page';
import { Empty, Loading } from '@/ui/States';
import { many, number } from '@/ui/words';

/** What a check found, of one and of more. */
const VERDICTS: Record<string, [string, string]> = {
  right: ['right', 'right'],
  missing: ['is not there', 'are not there'],
  wrong: ['leads elsewhere', 'lead elsewhere'],
  chain: ['leads on twice', 'lead on twice'],
  loop: ['goes in circles', 'go in circles'],
  dead: ['leads to nothing', 'lead to nothing'],
  unknown: ['could not be asked', 'could not be asked'],
};

const STATUSES = [
  { value: 301, words: 'for good (301)' },
  { value: 302, words: 'for now (302)' },
  { value: 307, words: 'for now, as asked (307)' },
  { value: 308, words: 'for good, as asked (308)' },
  { value: 410, words: 'nothing there any more (410)' },
] as const;

const FORMATS = ['nginx', 'apache', 'csv', 'json'] as const;

/** Addresses of before, where their visitors are sent, and whether that works. */
export function RedirectsPage() {
  const { maintain } = useMay();
  const [q, setQ] = useState('');
  const pages = useRedirects(useDeferredValue(q.trim()));
  const plan = useRedirectPlan();
  const check = useAct((site) =>
    client.POST('/sites/{site}/redirects/check', { params: { path: { site } } }),
  );
  if (pages.isError) return <FailedPage title="Redirects" error={pages.error} again={pages.refetch} />;
  const first = pages.data?.pages[0];
  const rows = pages.data?.pages.flatMap((page) => page.redirects) ?? [];
  const verdicts = first?.verdicts ?? {};
  const wrong = Object.entries(verdicts).filter(([v]) => v !== 'right' && v !== 'unchecked');
  return (
    <Page
      title="Redirects"
      wide
      aside={
        maintain &&
        rows.length > 0 && (
          <Button
            disabled={check.isPending}
            onClick={() =>
              check.mutate(undefined, {
                onError: sayProblem,
                // The check takes a moment, and notes down what it found as it goes.
                onSuccess: () => setTimeout(() => void pages.refetch(), 2500),
              })
            }
          >
            <ListChecks size={16} aria-hidden="true" /> Check them
          </Button>
        )
      }
    >
      <p className="mb-3 max-w-3xl">
        Visitors of these addresses are sent on.{' '}
        <span className="text-soft">
          {first?.table
            ? `The site keeps them in its table “${first.table}”; plans write there.`
            : 'The site has no table of them that the field map names; hand the list to its web server.'}
        </span>
      </p>
      {maintain && <NewRedirect onPut={(put) => plan.ask({ put: [put] })} isBusy={plan.isPending} />}
      <div className="mb-2 flex flex-wrap items-center gap-x-5 gap-y-2">
        <input
          type="search"
          aria-label="Find a redirect"
          placeholder="Find an address"
          value={q}
          onChange={(event) => setQ(event.target.value)}
          className="w-64 rounded-md border border-edge bg-sheet px-2.5 py-1.5"
        />
        <p className="figures" role="status">
          {first && many(first.total, 'redirect')}
          {wrong.length > 0 && (
            <b className="ml-2 text-alert">
              {wrong
                .map(
                  ([verdict, count]) =>
                    `${number(count)} ${VERDICTS[verdict]?.[count === 1 ? 0 : 1] ?? verdict}`,
                )
                .join(', ')}
            </b>
          )}
        </p>
        <Exports former={(first?.former.length ?? 0) > 0} />
      </div>
      {pages.isPending ? (
        <Loading rows={8} height={48} />
      ) : rows.length === 0 ? (
        <Empty title={q ? 'No such redirect' : 'No redirect yet'}>
          {q
            ? 'Neither address holds these words.'
            : 'A plan that gives up an address adds one; so do you, above.'}
        </Empty>
      ) : (
        <ul className="sheet divide-y divide-line">
          {rows.map((row) => (
            <Row
              key={row.from}
              row={row}
              onDrop={maintain ? () => plan.ask({ drop: [row.from] }) : null}
              isBusy={plan.isPending}
            />
          ))}
        </ul>
      )}
      {pages.hasNextPage && (
        <Button className="mt-3" onClick={() => void pages.fetchNextPage()}>
          Show more ({number(rows.length)} of {number(first?.total ?? 0)})
        </Button>
      )}
    </Page>
  );
}

/** Asks for the plan that writes redirects, and leads to it. */
function useRedirectPlan() {
  const slug = useSlug();
  const navigate = useNavigate();
  const act = useAct<Plan, RedirectRequest>((site, body) =>
    client.POST('/sites/{site}/redirects', { params: { path: { site } }, body }),
  );
  return {
    isPending: act.isPending,
    ask: (request: RedirectRequest) =>
      act.mutate(request, {
        onSuccess: (plan) => void navigate(`/${slug}/plans/${plan.id}`),
        onError: sayProblem,
      }),
  };
}

function NewRedirect({
  onPut,
  isBusy,
}: {
  onPut: (put: NonNullable<RedirectRequest['put']>[number]) => void;
  isBusy: boolean;
}) {
  const [from, setFrom] = useState('');
  const [to, setTo] = useState('');
  const [status, setStatus] = useState<(typeof STATUSES)[number]['value']>(301);
  const isGone = status === 410;
  return (
    <form
      className="sheet mb-4 flex flex-wrap items-end gap-3 px-4 py-3"
      onSubmit={(event) => {
        event.preventDefault();
        onPut({ from: from.trim(), to: isGone ? null : to.trim(), status });
      }}
    >
      <label className="min-w-48 flex-1">
        <span className="block text-[0.88rem] text-soft">Visitors of</span>
        <input
          value={from}
          onChange={(event) => setFrom(event.target.value)}
          placeholder="/old/page"
          className="path h-9 w-full rounded-md border border-edge bg-paper px-2"
        />
      </label>
      <label className="min-w-48 flex-1">
        <span className="block text-[0.88rem] text-soft">are sent to</span>
        <input
          value={isGone ? '' : to}
          disabled={isGone}
          onChange={(event) => setTo(event.target.value)}
          placeholder={isGone ? 'nowhere' : '/new/page'}
          className="path h-9 w-full rounded-md border border-edge bg-paper px-2 disabled:opacity-60"
        />
      </label>
      <label>
        <span className="block text-[0.88rem] text-soft">in this way</span>
        <select
          value={status}
          onChange={(event) => setStatus(Number(event.target.value) as typeof status)}
          className="h-9 rounded-md border border-edge bg-sheet px-2"
        >
          {STATUSES.map((s) => (
            <option key={s.value} value={s.value}>
              {s.words}
            </option>
          ))}
        </select>
      </label>
      <Button
        type="submit"
        className="h-9"
        disabled={isBusy || from.trim() === '' || (!isGone && to.trim() === '')}
      >
        Plan it
      </Button>
    </form>
  );
}

function Row({ row, onDrop, isBusy }: { row: RedirectRow; onDrop: (() => void) | null; isBusy: boolean }) {
  const isWrong = row.verdict !== null && row.verdict !== 'right';
  return (
    <li
      className="grid grid-cols-[minmax(0,1fr)_1.25rem_minmax(0,1fr)_11rem_2.5rem] items-center gap-x-3 px-4 py-2
        max-md:grid-cols-[minmax(0,1fr)_2.5rem]"
    >
      <p className="path break-all">/{row.from}</p>
      <ArrowRight size={16} aria-hidden="true" className="text-soft max-md:hidden" />
      <div className="min-w-0 max-md:col-start-1">
        <p className="path break-all">{row.status === 410 ? <i>nothing there any more</i> : row.to}</p>
        {isWrong && <p className="text-[0.9rem] text-alert">{row.words}</p>}
      </div>
      <p className="figures text-[0.9rem] max-md:col-start-1">
        <span className="text-soft">{row.status}</span>{' '}
        {row.verdict && (
          <span className={isWrong ? 'font-semibold text-alert' : 'text-live'}>
            {VERDICTS[row.verdict]?.[0]}
          </span>
        )}
      </p>
      {onDrop ? (
        <Button
          tone="quiet"
          className="max-md:row-start-1 max-md:col-start-2"
          disabled={isBusy}
          aria-label={`Plan to take back the redirect of /${row.from}`}
          onClick={onDrop}
        >
          <Trash2 size={16} aria-hidden="true" />
        </Button>
      ) : (
        <span />
      )}
    </li>
  );
}

/** The list as files for a web server. */
function Exports({ former }: { former: boolean }) {
  const slug = useSlug();
  const [isFormer, setFormer] = useState(false);
  return (
    <div className="ml-auto flex flex-wrap items-center gap-x-3">
      {former && (
        <label className="flex min-h-[24px] items-center gap-1.5">
          <input type="checkbox" checked={isFormer} onChange={(event) => setFormer(event.target.checked)} />
          for the former address
        </label>
      )}
      <span className="text-soft">As a file:</span>
      {FORMATS.map((format) => (
        <a
          key={format}
          href={`/api/sites/${slug}/redirects/export?as=${format}${isFormer ? '&former=1' : ''}`}
          download
          className="min-h-[24px] text-accent underline underline-offset-2"
        >
          {format}
        </a>
      ))}
    </div>
  );
}
