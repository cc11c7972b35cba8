import { ArrowRight } from 'lucide-react';
import { Link, useNavigate } from 'react-router';
import { client } from '@/api/client';
import { useAct, useFit, useMediaItem, useSlug, useUpload } from '@/api/hooks';
import type { MediaItem, Plan, TrailData } from '@/api/types';
import { Button, ButtonLink } from '@/ui/Button';
import { sayProblem } from '@/ui/Notice';
import { Empty } from '@/ui/States';
import { WhatIs } from '@/ui/WhatIs';
import { fileName, many } from '@/ui/words';
import { After } from './After';
import { Now } from './Now';
import { Places } from './Places';
import { useBench } from './useBench';

/** The swap bench: what gives way at the left, where in the middle, what comes at the right, and the sentence below. */
export function Bench({ item, trail }: { item: MediaItem; trail: TrailData }) {
  const slug = useSlug();
  const navigate = useNavigate();
  const bench = useBench(item.id);
  const other = useMediaItem(bench.to ?? '').data ?? null;
  const upload = useUpload(bench.upload);
  const fit = useFit(item.id, {
    manner: bench.manner,
    to: bench.to,
    upload: bench.upload,
    keep: !bench.asIs && (bench.upload !== null || bench.manner === 'same-address'),
    alt: bench.words.alt,
  }).data;
  const name = upload.data?.name ?? (other && (other.title || fileName(other.path)));
  const isChosen = (bench.to !== null || bench.upload !== null) && !upload.isError;
  const isSame = bench.manner === 'same-address';
  const mayCrop = fit !== undefined && !fit.alike && (bench.upload !== null || isSame);
  const chosen = trail.references.filter((r) => !bench.left.has(r.id));
  const records = new Set(chosen.map((r) => r.record_id)).size;
  const left = trail.references.filter((r) => bench.left.has(r.id)).map((r) => r.id);
  const make = useAct<Plan>((site) =>
    client.POST('/sites/{site}/plans', {
      params: { path: { site } },
      body: {
        from: item.id,
        manner: bench.manner,
        to: bench.to,
        upload: bench.upload,
        // What is left out is named, since the places may be more than a page of them shows.
        except: isSame || left.length === 0 ? null : left,
        ...(bench.upload === null || isSame ? {} : bench.words),
        keep_shape: mayCrop && !bench.asIs,
      },
    }),
  );
  const says = !isChosen
    ? 'Choose what shall stand in: another item of the site, or an upload.'
    : isSame
      ? `${many(item.files.length, 'file')} ${item.files.length === 1 ? 'gets' : 'get'} new bytes; ${many(trail.references.length, 'reference')} ${trail.references.length === 1 ? 'stays as it is' : 'stay as they are'}.`
      : `${many(chosen.length, 'reference')} in ${many(records, 'record')} will name ${name ?? 'it'}.`;

  return (
    <main id="work" className="flex min-h-0 flex-1 flex-col">
      <div className="grid min-h-0 flex-1 grid-cols-[16.5rem_minmax(0,1fr)_22rem] max-[1100px]:grid-cols-[13rem_minmax(0,1fr)_18rem] max-md:grid-cols-1">
        <Now item={item} bench={bench} mayCrop={mayCrop} />
        <section
          aria-label="Places"
          className="flex min-w-0 flex-col overflow-hidden bg-sheet max-md:order-3"
        >
          <div className="flex items-center gap-2 border-b border-line px-5 py-3">
            <h1 className="min-w-0 text-[1.2rem] leading-tight font-bold">
              Swap “{item.title || fileName(item.path)}”
            </h1>
            <WhatIs
              about="The bench"
              words={['newReference', 'sameAddress', 'reference', 'rendition', 'plan']}
            />
          </div>
          {trail.references.length === 0 ? (
            <Empty title="No place refers to it">
              A swap by new reference would change nothing. New bytes behind the same address are still
              possible.
            </Empty>
          ) : (
            <Places trail={trail} bench={bench} fixed={isSame} fit={fit} />
          )}
        </section>
        <After
          item={item}
          bench={bench}
          other={other}
          upload={upload.data ?? null}
          lost={upload.error}
          fit={fit}
        />
      </div>
      <div className="flex items-center gap-4 border-t border-line bg-sheet px-6 py-3 max-md:flex-wrap">
        <p
          className="figures min-w-0 flex-1 text-[1.05rem] max-md:basis-full"
          data-testid="bench-sentence"
          role="status"
        >
          {says}{' '}
          {!isSame && trail.mentions.total > 0 && (
            <Link
              to={`/${slug}/media/${item.id}?as=proof`}
              className="font-semibold text-accent underline underline-offset-2"
            >
              {many(trail.mentions.total, 'more place')} {trail.mentions.total === 1 ? 'names' : 'name'} it in
              a way that is not read, and {trail.mentions.total === 1 ? 'stays' : 'stay'} as{' '}
              {trail.mentions.total === 1 ? 'it is' : 'they are'}.
            </Link>
          )}{' '}
          <span className="text-soft">Nothing is written before you have read the plan.</span>
        </p>
        <ButtonLink to={`/${slug}/media/${item.id}`}>Leave</ButtonLink>
        <Button
          tone="main"
          disabled={!isChosen || make.isPending || (isSame ? item.files.length === 0 : chosen.length === 0)}
          onClick={() =>
            make.mutate(undefined, {
              onSuccess: (plan) => void navigate(`/${slug}/plans/${plan.id}`),
              onError: sayProblem,
            })
          }
        >
          {make.isPending ? 'Making the plan…' : 'Make the plan'} <ArrowRight size={16} aria-hidden="true" />
        </Button>
      </div>
    </main>
  );
}
