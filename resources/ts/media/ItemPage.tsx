import { ArrowLeftRight, Moon } from 'lucide-react';
import { Link, useParams } from 'react-router';
import { useMay, useMediaItem, useSlug, useTrail } from '@/api/hooks';
import type { MediaItem, TrailData } from '@/api/types';
import { ExcerptDrawer } from '@/trail/ExcerptDrawer';
import { Trail } from '@/trail/Trail';
import { TrailList } from '@/trail/TrailList';
import { Mentions } from '@/proof/Mentions';
import { ProofSheet } from '@/proof/ProofSheet';
import { Verdict } from '@/proof/Verdict';
import { usePlanned } from '@/resting/usePlanned';
import { Button, ButtonLink } from '@/ui/Button';
import { type Fact, FactList } from '@/ui/FactList';
import { ItemPicture } from '@/ui/ItemPicture';
import { FailedPage } from '@/ui/Page';
import { ReportLink } from '@/ui/Report';
import { Failed, Loading } from '@/ui/States';
import { Standing } from '@/ui/Standing';
import { useChoices } from '@/ui/useChoices';
import { useWide } from '@/ui/useWide';
import { WhatIs } from '@/ui/WhatIs';
import { useTitle } from '@/ui/useTitle';
import { fileName, many, number } from '@/ui/words';
import { plainFacts } from './facts';

const FACTS =
  'w-64 shrink-0 overflow-y-auto border-line bg-sheet/70 px-5 py-4 ' +
  'max-md:w-auto max-md:border-b md:border-r';

export function ItemPage() {
  const { item: id = '' } = useParams();
  const item = useMediaItem(id);
  const trail = useTrail(id);
  const [params, choose] = useChoices();
  const { maintain } = useMay();
  const wide = useWide();
  // A drawing in columns needs their width.
  const asList = params.get('as') === 'list' || !wide;
  // The open drawer is a step of the history: Back closes it.
  const record = Number(params.get('record')) || null;
  function setRecord(id: number | null) {
    choose({ record: id === null ? null : String(id) });
  }
  useTitle(item.data && (item.data.title || fileName(item.data.path)));
  if (item.isError) return <FailedPage title="Media item" error={item.error} again={item.refetch} />;
  return (
    <main id="work" className="flex min-h-0 flex-1 max-md:flex-col">
      <aside className={FACTS} aria-label="Facts">
        {item.data ? <Facts item={item.data} /> : <Loading rows={6} height={40} />}
      </aside>
      <section aria-label="The trail" className="flex min-w-0 flex-1 flex-col px-6 py-4 max-sm:px-4">
        {trail.isError ? (
          <Failed error={trail.error} again={trail.refetch} />
        ) : !trail.data || !item.data ? (
          <Loading rows={8} height={46} />
        ) : trail.data.references.length === 0 || params.get('as') === 'proof' ? (
          <div className="min-h-0 flex-1 overflow-y-auto">
            <p className="mb-3 max-w-4xl text-[1.05rem]">
              {trail.data.references.length === 0 ? (
                <>
                  <b>Nothing refers to this item.</b> No record that was read names it, live or not.{' '}
                  {many(trail.data.files.length, 'file')} {trail.data.files.length === 1 ? 'lies' : 'lie'} on
                  the site for it.
                </>
              ) : (
                <Link to="?" className="font-semibold text-accent underline underline-offset-2">
                  Back to its {many(item.data.uses, 'reference')}
                </Link>
              )}
            </p>
            <ProofSheet item={item.data.id}>
              {maintain && item.data.verdict !== 'needed' && <LayToRest item={item.data} />}
            </ProofSheet>
            <Mentions mentions={trail.data.mentions} />
          </div>
        ) : (
          <>
            <TrailHead item={item.data} trail={trail.data} asList={asList} />
            {asList ? (
              <TrailList data={trail.data} onRecord={setRecord} />
            ) : (
              <Trail data={trail.data} onRecord={setRecord} />
            )}
            <ExcerptDrawer key={record} data={trail.data} record={record} onClose={() => setRecord(null)} />
          </>
        )}
      </section>
    </main>
  );
}

function LayToRest({ item }: { item: MediaItem }) {
  const planned = usePlanned();
  return (
    <Button
      tone={item.verdict === 'safe' ? 'main' : 'plain'}
      disabled={planned.isPending}
      onClick={() => planned.rest({ items: [item.id], asks: item.verdict === 'ask' })}
    >
      <Moon size={16} aria-hidden="true" />{' '}
      {item.verdict === 'safe' ? 'Lay to rest' : 'Lay to rest all the same'}
    </Button>
  );
}

function TrailHead({ item, trail, asList }: { item: MediaItem; trail: TrailData; asList: boolean }) {
  const wide = useWide();
  const carriers = trail.records.filter(
    (r) => !r.is_page && !trail.references.some((x) => x.record_id === r.id),
  ).length;
  return (
    <div className="figures mb-2 text-[1.05rem]">
      <b>{many(item.uses, 'reference')}</b> in{' '}
      {many(new Set(trail.references.map((r) => r.record_id)).size, 'record')}
      {carriers > 0 && `, passed on by ${many(carriers, 'carrier')}`}, met on{' '}
      <b>{many(trail.reach, 'public page')}</b>.
      {item.broken > 0 && <b className="text-alert"> {number(item.broken)} broken.</b>}
      {trail.mentions.total > 0 && (
        <Link to="?as=proof" className="font-semibold text-accent underline underline-offset-2">
          {' '}
          Named in {many(trail.mentions.total, 'more place')} in a way that is not read.
        </Link>
      )}
      {trail.cut && <span className="text-soft"> More than can be drawn; the counts are those of all.</span>}
      <span className="ml-2 inline-flex items-center gap-2 align-middle">
        <WhatIs about="The trail" words={['reference', 'placement', 'carrier', 'reach', 'standing']} />
        {wide && (
          <Link
            to={asList ? '?' : '?as=list'}
            className="text-[0.93rem] font-semibold text-accent underline underline-offset-2"
          >
            {asList ? 'As a drawing' : 'As a list'}
          </Link>
        )}
      </span>
    </div>
  );
}

function Facts({ item }: { item: MediaItem }) {
  const slug = useSlug();
  const { maintain } = useMay();
  const facts: Fact[] = [
    ['Standing', <Standing key="s" standing={item.standing} />],
    [
      'Proof',
      <Link key="p" to="?as=proof" className="hover:underline">
        <Verdict verdict={item.verdict} />
      </Link>,
    ],
    ...plainFacts(item),
  ];
  return (
    <>
      <ItemPicture item={item} className="mb-3" />
      <h1 className="text-[1.25rem] leading-tight font-bold">{item.title || fileName(item.path)}</h1>
      <p className="path mt-0.5 break-all text-soft">{item.path}</p>
      {maintain && (
        <ButtonLink tone="main" to={`/${slug}/media/${item.id}/swap`} className="mt-3 w-full">
          <ArrowLeftRight size={16} aria-hidden="true" /> Swap this file
        </ButtonLink>
      )}
      {maintain && (
        <ButtonLink
          to={`/${slug}/repairs/move?from=${encodeURIComponent(item.path)}`}
          className="mt-2 w-full"
        >
          Move or rename
        </ButtonLink>
      )}
      <FactList facts={facts} className="mt-4" />
      <p className="mt-3">
        <ReportLink />
      </p>
      {item.twins.length > 0 && (
        <div className="mt-4 border-t border-line pt-3">
          <h2 className="text-[0.95rem] font-semibold">The same bytes also lie at</h2>
          <ul>
            {item.twins.map((t) => (
              <li key={t.path}>
                <Link
                  to={`/${slug}/media/${t.media_item_id}`}
                  className="path break-all text-accent hover:underline"
                >
                  {t.path}
                </Link>
              </li>
            ))}
          </ul>
        </div>
      )}
    </>
  );
}
