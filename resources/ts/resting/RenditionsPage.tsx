import { ChevronRight, Moon, Paintbrush } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { client } from '@/api/client';
import { useAct, useMay, useSlug } from '@/api/hooks';
import { useRenditionFiles, useRenditions } from '@/api/retire';
import type { Plan, RenditionSize } from '@/api/types';
import { Verdict } from '@/proof/Verdict';
import { Button } from '@/ui/Button';
import { sayProblem } from '@/ui/Notice';
import { Page } from '@/ui/Page';
import { Picture } from '@/ui/Picture';
import { Empty, Failed, Loading } from '@/ui/States';
import { fileName, many, number, weight } from '@/ui/words';
import { usePlanned } from './usePlanned';

/** The sizes that the site made of its pictures: what needs them, what they weigh, what is missing. */
export function RenditionsPage() {
  const slug = useSlug();
  const navigate = useNavigate();
  const renditions = useRenditions();
  const { maintain } = useMay();
  const redraw = useAct<Plan, { width?: number }>((site, body) =>
    client.POST('/sites/{site}/renditions/redraw', { params: { path: { site } }, body }),
  );
  const draw = (width?: number) =>
    redraw.mutate(width === undefined ? {} : { width }, {
      onSuccess: (plan) => void navigate(`/${slug}/plans/${plan.id}`),
      onError: sayProblem,
    });
  const data = renditions.data;
  const most = Math.max(1, ...(data?.sizes.map((size) => size.bytes) ?? []));
  const safe = data?.sizes.reduce((sum, size) => sum + size.safe, 0) ?? 0;
  const bytes = data?.sizes.reduce((sum, size) => sum + size.safe_bytes, 0) ?? 0;
  return (
    <Page
      title="Renditions"
      words={['rendition', 'reference', 'proof']}
      aside={
        maintain &&
        (data?.missing ?? 0) > 0 && (
          <Button disabled={redraw.isPending} onClick={() => draw()}>
            <Paintbrush size={15} aria-hidden="true" /> Draw {many(data?.missing ?? 0, 'missing one')}
          </Button>
        )
      }
    >
      {renditions.isPending ? (
        <Loading rows={6} height={58} />
      ) : renditions.isError ? (
        <Failed error={renditions.error} again={renditions.refetch} />
      ) : renditions.data.sizes.length === 0 ? (
        <Empty title="No renditions">
          No file of this site was derived from another, as far as is known.
        </Empty>
      ) : (
        <>
          <p className="mb-3 max-w-4xl">
            <b className="figures">{many(safe, 'rendition')}</b>, {weight(bytes)}, {safe === 1 ? 'is' : 'are'}{' '}
            safe to rest: nothing names {safe === 1 ? 'it' : 'them'}, no page was seen to show{' '}
            {safe === 1 ? 'it' : 'them'}, nobody asked.{' '}
            <span className="text-soft">
              Which size the site’s own code picks by an item’s number, content cannot say; the survey and the
              access log can.
            </span>
          </p>
          <ul className="sheet divide-y divide-line">
            {renditions.data.sizes.map((size) => (
              <SizeRow key={`${size.width}x${size.height ?? ''}`} size={size} most={most} onDraw={draw} />
            ))}
          </ul>
        </>
      )}
    </Page>
  );
}

function SizeRow({
  size,
  most,
  onDraw,
}: {
  size: RenditionSize;
  most: number;
  onDraw: (width: number) => void;
}) {
  const { maintain } = useMay();
  const planned = usePlanned();
  const [isOpen, setOpen] = useState(false);
  const name =
    size.height === null ? `${number(size.width)} wide` : `${number(size.width)} × ${number(size.height)}`;
  return (
    <li className="px-4 py-2.5">
      <div className="grid grid-cols-[minmax(11rem,14rem)_minmax(8rem,1fr)_minmax(0,1.6fr)_auto] items-center gap-x-4 gap-y-1 max-lg:grid-cols-[minmax(0,1fr)_auto]">
        <button
          type="button"
          aria-expanded={isOpen}
          onClick={() => setOpen(!isOpen)}
          className="flex items-center gap-1.5 text-left hover:text-accent"
        >
          <ChevronRight
            size={16}
            aria-hidden="true"
            className={`shrink-0 transition-transform ${isOpen ? 'rotate-90' : ''}`}
          />
          <span>
            <b className="figures block">{name}</b>
            <span className="block text-[0.85rem] text-soft">
              {size.height === null ? 'in its own shape' : 'cut to this shape'}
              {size.rule && (
                <>
                  {' · '}
                  <span className="path">{size.rule}</span>
                </>
              )}
            </span>
          </span>
        </button>
        <div className="figures max-lg:order-3 max-lg:col-span-2">
          <div className="flex justify-between gap-2">
            <span>{many(size.files, 'file')}</span>
            <b>{weight(size.bytes)}</b>
          </div>
          <div className="mt-1 flex h-1.5 overflow-hidden rounded-full bg-line" aria-hidden="true">
            <div
              className="bg-accent"
              style={{ width: `${(100 * (size.bytes - size.safe_bytes)) / most}%` }}
            />
            <div className="bg-live/50" style={{ width: `${(100 * size.safe_bytes) / most}%` }} />
          </div>
        </div>
        <p className="figures text-[0.93rem] max-lg:order-4 max-lg:col-span-2">
          {many(size.refs, 'reference')} to {number(size.named)} · seen {number(size.seen)} · asked for{' '}
          {number(size.asked)}
          {size.missing > 0 && (
            <>
              {' · '}
              <b className="text-alert">{number(size.missing)} missing</b>
            </>
          )}
        </p>
        <div className="flex items-center justify-end gap-2">
          {maintain && size.missing > 0 && (
            <Button onClick={() => onDraw(size.width)} aria-label={`Draw the missing ones ${name}`}>
              <Paintbrush size={15} aria-hidden="true" />
            </Button>
          )}
          {maintain && size.safe > 0 && (
            <Button
              disabled={planned.isPending}
              onClick={() => planned.rest({ size: [size.width, size.height ?? 0] })}
            >
              <Moon size={15} aria-hidden="true" /> Rest {number(size.safe)}, {weight(size.safe_bytes)}
            </Button>
          )}
        </div>
      </div>
      {isOpen && <Files size={size} />}
    </li>
  );
}

function Files({ size }: { size: RenditionSize }) {
  const slug = useSlug();
  const { maintain } = useMay();
  const planned = usePlanned();
  const files = useRenditionFiles(size.width, size.height);
  const rows = files.data?.pages.flatMap((page) => page.rows) ?? [];
  if (files.isPending) return <Loading rows={3} height={44} />;
  if (files.isError) return <Failed error={files.error} again={files.refetch} />;
  return (
    <>
      <ul className="mt-2 ml-6 divide-y divide-line border-t border-line">
        {rows.map((row) => (
          <li key={row.id} className="flex items-center gap-3 py-1.5">
            <Picture
              fileId={row.id}
              sha={row.sha256}
              mime={row.mime}
              alt=""
              className="h-9 w-12 shrink-0 rounded border border-line"
            />
            <Link to={`/${slug}/media/${row.item}?as=proof`} className="min-w-0 flex-1 hover:text-accent">
              <span className="path block truncate">{fileName(row.path)}</span>
            </Link>
            <span className="figures text-soft">{weight(row.size)}</span>
            <Verdict verdict={row.verdict} className="w-28" />
            {maintain && row.verdict !== 'needed' && (
              <Button
                disabled={planned.isPending}
                onClick={() => planned.rest({ files: [row.id], asks: row.verdict === 'ask' })}
              >
                Rest
              </Button>
            )}
          </li>
        ))}
      </ul>
      {files.hasNextPage && (
        <Button
          className="mt-2 ml-6"
          disabled={files.isFetchingNextPage}
          onClick={() => void files.fetchNextPage()}
        >
          Show more
        </Button>
      )}
    </>
  );
}
