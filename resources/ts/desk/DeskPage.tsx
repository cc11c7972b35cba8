import {
  Archive,
  BellRing,
  CircleAlert,
  CircleHelp,
  Clock,
  Copy,
  Eraser,
  Footprints,
  History,
  Maximize2,
  Moon,
  ScanSearch,
  Signpost,
  Unplug,
  type LucideProps,
} from 'lucide-react';
import type { ComponentType } from 'react';
import { Link } from 'react-router';
import { useChanges, useDesk, useMay, useSlug } from '@/api/hooks';
import type { Desk, StandingWord } from '@/api/types';
import { ButtonLink } from '@/ui/Button';
import { Page } from '@/ui/Page';
import { Empty, Failed, Loading } from '@/ui/States';
import { Standing } from '@/ui/Standing';
import { ago, number, weight } from '@/ui/words';
import { ChangeStateWord } from '@/changes/ChangeStateWord';
import { sentencesOf, type Matter as MatterName, type Sentence } from './sentences';

export function DeskPage() {
  const desk = useDesk();
  return (
    <Page title="What needs you" words={['reference', 'standing', 'stale', 'rendition']}>
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

/** What an owner should see to besides the site: workers, schedule, room. `bin/ylema status` says the same. */
function Installation({ troubles }: { troubles: Desk['installation'] }) {
  if (troubles.length === 0) return null;
  const urgent = troubles.some((one) => one.urgent);
  return (
    <section
      aria-label="This installation"
      className={`sheet border-l-4 px-4 py-3 ${urgent ? 'border-l-alert' : 'border-l-waiting'}`}
    >
      <h2 className="font-semibold">This installation needs you</h2>
      <ul className="mt-1 flex flex-col gap-1">
        {troubles.map((one) => (
          <li key={one.about} className={one.urgent ? '' : 'text-soft'}>
            {one.words}
          </li>
        ))}
      </ul>
    </section>
  );
}

function DeskBody({ desk }: { desk: Desk }) {
  const slug = useSlug();
  const changes = useChanges();
  const { maintain } = useMay();
  const sentences = sentencesOf(desk, maintain);
  const n = desk.numbers;
  if (n['files'] === 0 && n['records'] === 0)
    return (
      <Empty title="This site was not read yet">
        {maintain ? 'Press “Read again” above.' : 'A maintainer starts the first reading.'} Reading changes
        nothing on the site.
      </Empty>
    );

  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-6 lg:grid-cols-[minmax(0,1fr)_21rem]">
      <section aria-label="What needs you" className="flex flex-col gap-2.5">
        <Installation troubles={desk.installation} />
        {sentences.length === 0 && (
          <Empty title="Nothing needs you">
            Every reference leads to its file, and every file is met somewhere.
          </Empty>
        )}
        {sentences.map((sentence) => (
          <Matter key={sentence.key} sentence={sentence} to={`/${slug}/${sentence.to}`} />
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

const ICONS: Record<MatterName, ComponentType<LucideProps>> = {
  stale: Clock,
  unkept: Signpost,
  broken: CircleAlert,
  elsewhere: Unplug,
  unread: CircleHelp,
  mentioned: ScanSearch,
  large: Maximize2,
  idle: Eraser,
  copies: Copy,
  over: History,
  called: BellRing,
  safe: Moon,
  archive: Archive,
  left: Footprints,
};

function Matter({ sentence, to }: { sentence: Sentence; to: string }) {
  const Icon = ICONS[sentence.matter];
  return (
    <article
      className={`sheet flex items-center gap-4 px-4 py-3.5 max-sm:flex-wrap ${sentence.urgent ? 'border-l-4 border-l-alert' : ''}`}
    >
      <Icon
        size={20}
        aria-hidden="true"
        className={`${sentence.urgent ? 'text-alert' : 'text-accent'} shrink-0`}
      />
      <div className="min-w-0 flex-1 max-sm:basis-[75%]">
        <p className="figures text-[1.1rem] leading-snug">
          <b>{sentence.counted}</b> {sentence.rest}
        </p>
        <p className="figures text-soft">{sentence.more}</p>
      </div>
      <ButtonLink to={to} tone={sentence.urgent ? 'main' : 'plain'} className="max-sm:ml-9">
        {sentence.act}
      </ButtonLink>
    </article>
  );
}
