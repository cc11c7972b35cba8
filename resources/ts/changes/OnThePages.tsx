import { useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { client } from '@/api/client';
import { useAct, useMay, useSlug } from '@/api/hooks';
import type { Change, Verdict, Verification } from '@/api/types';
import { Button } from '@/ui/Button';
import { sayProblem } from '@/ui/Notice';
import { PublicLink } from '@/ui/PublicLink';
import { Loading } from '@/ui/States';
import { many, number, when } from '@/ui/words';
import { acts } from './acts';

const VERDICTS: Record<Verdict['verdict'], [string, string]> = {
  fresh: ['fresh', 'text-live'],
  stale: ['stale', 'text-alert'],
  old: ['shows the old', 'text-waiting'],
  unclear: ['not clear', 'text-waiting'],
  unreachable: ['no answer', 'text-idle'],
};

/** What a visitor met after the change: pages, files and the old addresses that it promised to lead on. */
export function OnThePages({ change }: { change: Change }) {
  const { maintain } = useMay();
  const look = useAct((site) => client.POST('/sites/{site}/changes/{change}/verify', acts(site, change.id)));
  const purge = useAct<{ asked: number }>((site) =>
    client.POST('/sites/{site}/changes/{change}/purge', acts(site, change.id)),
  );
  const rest = useAct((site) =>
    client.POST('/sites/{site}/changes/{change}/verify', { ...acts(site, change.id), body: { whole: true } }),
  );
  const [all, setAll] = useState(false);
  const v = change.verification;
  const waits = change.state === 'stopped' || change.state === 'undo-stopped';
  if (!v) {
    return (
      <aside className="sheet h-fit p-4" aria-live="polite">
        <h2 className="font-semibold">On the public pages</h2>
        <p className="mb-3 text-soft">
          {change.state === 'applying'
            ? 'Writing…'
            : change.state === 'undoing'
              ? 'Taking back…'
              : waits
                ? 'The pages are looked at once this change has come to its end.'
                : 'Reading again what changed, and looking at the pages…'}
        </p>
        {!waits && <Loading rows={4} height={26} />}
      </aside>
    );
  }
  const rows = [...v.pages, ...v.files].sort((a, b) => order(a) - order(b));
  const shown = all ? rows : rows.slice(0, 12);
  return (
    <aside className="sheet h-fit p-4" aria-label="On the public pages" data-testid="verification">
      <h2 className="font-semibold">On the public pages</h2>
      <Found found={v} />
      {maintain && (
        <div className="mt-3 flex flex-wrap gap-2">
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
          {unasked(v) > 0 && !v.whole && (
            <Button disabled={rest.isPending} onClick={() => rest.mutate(undefined, { onError: sayProblem })}>
              Ask the other {number(unasked(v))}
            </Button>
          )}
        </div>
      )}
      <OldAddresses found={v} />
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
                <PublicLink address={p.address} />
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

function order(page: Verdict): number {
  return ['stale', 'old', 'unclear', 'unreachable', 'fresh'].indexOf(page.verdict);
}

/** What was never asked for: pages, files and old addresses beyond the sample. */
function unasked(v: Verification): number {
  return (
    Math.max(0, v.reached - v.asked) +
    Math.max(0, v.files_of - v.files.length) +
    Math.max(0, v.redirects.of - v.redirects.asked)
  );
}

const is = (count: number) => (count === 1 ? 'is' : 'are');

/** “12 of 195”, or “all 12” where nothing is left out. */
const part = (asked: number, of: number, one: string, more?: string) =>
  asked < of ? `${number(asked)} of ${many(of, one, more)}` : many(asked, one, more);

function Found({ found: v }: { found: Verification }) {
  if (v.pages.length === 0 && v.files.length === 0 && v.redirects.of === 0)
    return <p className="mt-1">No public page is reached by this change.</p>;
  const right = v.files.filter((file) => file.verdict === 'fresh').length;
  return (
    <div className="figures mt-1">
      {v.stale > 0 && (
        <p>
          <b className="text-alert">{number(v.stale)} stale</b>: a cache keeps {v.stale === 1 ? 'it' : 'them'}
          .
        </p>
      )}
      {v.pages.length > 0 && (
        <p>
          Looked at {part(v.asked, Math.max(v.reached, v.asked), 'page')}: {number(v.fresh)} {is(v.fresh)}{' '}
          fresh.
        </p>
      )}
      {v.files.length > 0 && (
        <p>
          Asked for {part(v.files.length, v.files_of, 'file')}: {number(right)}{' '}
          {right === 1 ? 'serves' : 'serve'} the right bytes.
        </p>
      )}
      {v.redirects.of > 0 && (
        <p>
          Asked for {part(v.redirects.asked, v.redirects.of, 'old address', 'old addresses')}:{' '}
          {v.redirects.right === 0
            ? 'none leads on'
            : `${number(v.redirects.right)} ${v.redirects.right === 1 ? 'leads' : 'lead'} on`}
          {v.redirects.unknown > 0 && `, ${number(v.redirects.unknown)} could not be asked`}.
        </p>
      )}
    </div>
  );
}

/** Old addresses that do not lead where the plan said, and what hands them to the web server. */
function OldAddresses({ found: v }: { found: Verification }) {
  const slug = useSlug();
  if (v.unkept === 0) return null;
  const rows = v.redirects.rows.filter((row) => row.verdict !== 'unknown');
  // Mostly all fail for one reason, which is said once.
  const alike = rows.every((row) => row.words === rows[0]?.words);
  return (
    <section className="mt-3 border-l-4 border-l-alert pl-3" data-testid="unkept">
      <h3 className="font-semibold">
        {many(v.unkept, 'old address', 'old addresses')} {v.unkept === 1 ? 'does' : 'do'} not lead on
      </h3>
      <p className="text-soft">
        This is not done until a check finds that {v.unkept === 1 ? 'it does' : 'they do'}. What the site’s
        own redirects are not asked for, its web server can lead on:{' '}
        <Link className="font-medium underline" to={`/${slug}/repairs/redirects`}>
          take the list for it
        </Link>
        .
      </p>
      {alike && <p className="mt-1 text-[0.93rem]">{rows[0]?.words}</p>}
      <ul className="mt-1 text-[0.93rem]">
        {rows.slice(0, 6).map((row) => (
          <li key={row.from} className="border-b border-line py-1 last:border-b-0">
            <span className="path break-all">/{row.from}</span>
            {!alike && <span className="block text-soft">{row.words}</span>}
          </li>
        ))}
      </ul>
      {v.unkept > 6 && <p className="text-soft">and {number(v.unkept - 6)} more</p>}
    </section>
  );
}
