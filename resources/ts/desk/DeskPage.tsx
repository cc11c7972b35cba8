import { CircleAlert, Clock, Copy, Eraser, History, Maximize2 } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useChanges, useDesk, useSlug } from '@/api/hooks';
import type { Desk, StandingWord } from '@/api/types';
import { ButtonLink } from '@/ui/Button';
import { Page } from '@/ui/Page';
import { Empty, Failed, Loading } from '@/ui/States';
import { Standing } from '@/ui/Standing';
import { ago, many, number, weight } from '@/ui/words';
import { ChangeStateWord } from '@/changes/ChangeStateWord';

export function DeskPage() {
  const desk = useDesk();
  return (
    <Page title="What needs you">
      {desk.isPending ? (
        <Loading rows={5} height={76} />
      ) : desk.isError ? (
        <Failed error={desk.error} again={desk.refetch} />
      ) : (
        <DeskBody desk={desk.data} />
      )}
    </Page>
  );
}

function DeskBody({ desk }: { desk: Desk }) {
  const slug = useSlug();
  const changes = useChanges();
  const families = desk.broken.families;
  const by = (cause: string) => families.find((f) => f.cause === cause)?.live ?? 0;
  // All that a visitor loses and that is not the former address' doing.
  const nowhere = families
    .filter((f) => f.broken && f.cause !== 'former-address')
    .reduce((sum, f) => sum + f.live, 0);
  const sentences: {
    key: string;
    icon: ReactNode;
    tone: 'alert' | 'plain';
    words: ReactNode;
    more: string;
    to: string;
    act: string;
  }[] = [];

  for (const change of desk.stale_changes) {
    sentences.push({
      key: `stale-${change.id}`,
      icon: <Clock size={20} />,
      tone: 'alert',
      words: (
        <>
          <b>{many(change.stale, 'page')}</b> still show the site as it was before a change
        </>
      ),
      more: `A cache keeps them: ${change.title}.`,
      to: `/${slug}/changes/${change.id}`,
      act: 'Purge them',
    });
  }
  if (desk.broken.references > 0)
    sentences.push({
      key: 'broken',
      icon: <CircleAlert size={20} />,
      tone: 'alert',
      words: (
        <>
          <b>{many(desk.broken.references, 'reference')}</b> on{' '}
          <b>{many(desk.broken.pages, 'public page')}</b> {desk.broken.references === 1 ? 'does' : 'do'} not
          lead to a file of this site
        </>
      ),
      more:
        [
          by('former-address') > 0 && `${number(by('former-address'))} still point at the former address`,
          nowhere > 0 && `${number(nowhere)} lead nowhere`,
        ]
          .filter(Boolean)
          .join(', ') + '.',
      to: `/${slug}/repairs`,
      act: 'See the causes',
    });
  if (by('insecure-scheme') + by('foreign-host') > 0)
    sentences.push({
      key: 'foreign',
      icon: <CircleAlert size={20} />,
      tone: 'plain',
      words: (
        <>
          <b>{many(by('foreign-host'), 'picture')}</b> come from other hosts and{' '}
          <b>{number(by('insecure-scheme'))}</b> over plain http
        </>
      ),
      more: 'They load only as long as somebody else wishes.',
      to: `/${slug}/repairs`,
      act: 'See them',
    });
  if (desk.large.items > 0)
    sentences.push({
      key: 'large',
      icon: <Maximize2 size={20} />,
      tone: 'plain',
      words: (
        <>
          <b>{many(desk.large.items, 'picture')}</b> in use {desk.large.items === 1 ? 'is' : 'are'} wider than
          2,600 pixels
        </>
      ),
      more: `Together ${weight(desk.large.bytes)}.`,
      to: `/${slug}/media?large=1&sort=weight`,
      act: 'Heaviest first',
    });
  if (desk.idle.items > 0)
    sentences.push({
      key: 'idle',
      icon: <Eraser size={20} />,
      tone: 'plain',
      words: (
        <>
          Nothing refers to <b>{many(desk.idle.items, 'item')}</b>
        </>
      ),
      more: `${many(desk.idle.files, 'file')}, ${weight(desk.idle.bytes)}, renditions included.`,
      to: `/${slug}/media?standing=idle`,
      act: 'Look at them',
    });
  if (desk.copies.extra > 0)
    sentences.push({
      key: 'copies',
      icon: <Copy size={20} />,
      tone: 'plain',
      words: (
        <>
          <b>{many(desk.copies.extra, 'original')}</b> {desk.copies.extra === 1 ? 'is' : 'are'} a copy of
          another, byte for byte
        </>
      ),
      more: `In ${many(desk.copies.groups, 'group')}.`,
      to: `/${slug}/media?copies=1&sort=same`,
      act: 'Look at them',
    });
  if (desk.expired_banners > 0)
    sentences.push({
      key: 'banners',
      icon: <History size={20} />,
      tone: 'plain',
      words: (
        <>
          <b>{many(desk.expired_banners, 'banner')}</b> {desk.expired_banners === 1 ? 'is' : 'are'} over or
          switched off
        </>
      ),
      more: 'Their pictures are held by nothing else, or by little.',
      to: `/${slug}/places?kind=banner&state=fading`,
      act: 'Show them',
    });

  const n = desk.numbers;
  if (n['files'] === 0 && n['records'] === 0)
    return (
      <Empty title="This site was not read yet">
        Press “Read again” above. Reading changes nothing on the site.
      </Empty>
    );

  return (
    <div className="grid gap-6 lg:grid-cols-[minmax(0,1fr)_21rem]">
      <section aria-label="What needs you" className="flex flex-col gap-2.5">
        {sentences.length === 0 && (
          <Empty title="Nothing needs you">
            Every reference leads to its file, and every file is met somewhere.
          </Empty>
        )}
        {sentences.map((s) => (
          <article
            key={s.key}
            className={`sheet flex items-center gap-4 px-4 py-3.5 ${s.tone === 'alert' ? 'border-l-4 border-l-alert' : ''}`}
          >
            <span
              className={`${s.tone === 'alert' ? 'text-alert' : 'text-accent'} shrink-0`}
              aria-hidden="true"
            >
              {s.icon}
            </span>
            <div className="min-w-0 flex-1">
              <p className="figures text-[1.1rem] leading-snug">{s.words}.</p>
              <p className="figures text-soft">{s.more}</p>
            </div>
            <ButtonLink to={s.to} tone={s.tone === 'alert' ? 'main' : 'plain'}>
              {s.act}
            </ButtonLink>
          </article>
        ))}
      </section>
      <aside className="flex flex-col gap-4">
        <section className="sheet p-4" aria-label="The site in numbers">
          <h2 className="mb-2 font-semibold">The site in numbers</h2>
          <dl className="figures grid grid-cols-[1fr_auto] gap-y-1">
            {(
              [
                ['Media items', number(n['items'])],
                ['Files', `${number(n['files'])} · ${weight(n['bytes'])}`],
                ['of which renditions', weight(n['rendition_bytes'])],
                ['Public pages', number(n['pages'])],
                ['Records', number(n['records'])],
                ['References to media', number(n['references'])],
              ] as const
            ).map(([label, value]) => (
              <div key={label} className="contents">
                <dt className="text-soft">{label}</dt>
                <dd className="text-right font-semibold">{value}</dd>
              </div>
            ))}
          </dl>
          <div className="mt-3 flex flex-col gap-1 border-t border-line pt-3">
            {(['live', 'waiting', 'fading', 'idle'] as StandingWord[]).map((word) => (
              <Link
                key={word}
                to={`/${slug}/media?standing=${word}`}
                className="-mx-2 flex items-center justify-between rounded px-2 py-0.5 hover:bg-tint"
              >
                <Standing standing={word} />
                <span className="figures font-semibold">{number(desk.standing[word] ?? 0)}</span>
              </Link>
            ))}
          </div>
        </section>
        <section className="sheet p-4" aria-label="Changed lately">
          <h2 className="mb-2 font-semibold">Changed lately</h2>
          {(changes.data?.changes.length ?? 0) === 0 ? (
            <p className="text-soft">
              Nothing yet. Swaps and repairs will stand here, each with its way back.
            </p>
          ) : (
            <ul className="flex flex-col gap-2.5">
              {changes.data?.changes.slice(0, 5).map((c) => (
                <li key={c.id} className="leading-snug">
                  <Link
                    to={`/${slug}/changes/${c.id}`}
                    className="font-semibold hover:text-accent hover:underline"
                  >
                    {c.title}
                  </Link>
                  <div className="text-[0.88rem] text-soft">
                    <ChangeStateWord state={c.state} /> · {c.by ?? 'command line'} · {ago(c.made_at)}
                  </div>
                </li>
              ))}
            </ul>
          )}
        </section>
      </aside>
    </div>
  );
}
