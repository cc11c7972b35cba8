import { useParams } from 'react-router';
import { useMediaItem, useSlug, useTrail } from '@/api/hooks';
import type { MediaItem, TrailData, TrailRecord } from '@/api/types';
import { rowsOf, type TrailRow } from '@/trail/rows';
import { FactList } from '@/ui/FactList';
import { Picture } from '@/ui/Picture';
import { PublicLink } from '@/ui/PublicLink';
import { Report } from '@/ui/Report';
import { Standing } from '@/ui/Standing';
import { Failed, Loading } from '@/ui/States';
import { box, fileName, kindWord, many, natural, number, pixels, roleWord, weight } from '@/ui/words';
import { plainFacts } from './facts';

/** Pages that are named beside one place; the list of all stands at the end. */
const NAMED = 3;

/** Where one item is used, whole and in order, for whoever wants it on paper. */
export function ItemReport() {
  const { item: id = '' } = useParams();
  const slug = useSlug();
  const item = useMediaItem(id);
  const trail = useTrail(id);
  const name = item.data ? item.data.title || fileName(item.data.path) : 'this item';
  return (
    <Report
      title={`Where “${name}” is used`}
      words={['reference', 'placement', 'carrier', 'reach', 'standing']}
      back={{ to: `/${slug}/media/${id}`, label: 'Back to the item' }}
      about={item.data && trail.data && sum(item.data, trail.data)}
    >
      {item.isError || trail.isError ? (
        <Failed error={item.error ?? trail.error} again={item.isError ? item.refetch : trail.refetch} />
      ) : !item.data || !trail.data ? (
        <Loading rows={8} height={46} />
      ) : (
        <>
          <section className="mb-5 flex gap-6 max-sm:flex-col" aria-label="The item">
            <Picture
              fileId={item.data.file_id}
              sha={item.data.sha256}
              mime={item.data.mime}
              alt={item.data.alt}
              width={480}
              className="max-h-60 min-h-24 w-72 max-w-full shrink-0 rounded-md border border-line"
            />
            <FactList
              facts={[
                ['Path', <span className="path break-all">{item.data.path}</span>],
                ['Standing', <Standing standing={item.data.standing} />],
                ...plainFacts(item.data),
              ]}
            />
          </section>
          <Placements rows={rowsOf(trail.data)} data={trail.data} />
          {trail.data.references.length < item.data.uses && (
            <p className="mb-5">
              These are the first {number(trail.data.references.length)} of {number(item.data.uses)}.{' '}
              <a
                href={`/api/sites/${slug}/map/export?as=csv&path=${encodeURIComponent(item.data.path)}`}
                className="font-semibold text-accent underline underline-offset-2"
              >
                All of them as CSV
              </a>
            </p>
          )}
          <Pages data={trail.data} />
          <Files data={trail.data} />
        </>
      )}
    </Report>
  );
}

function sum(item: MediaItem, trail: TrailData): string {
  if (item.uses === 0) return 'Nothing that was read refers to it.';
  const records = new Set(trail.references.map((r) => r.record_id)).size;
  const broken = item.broken > 0 ? `, ${number(item.broken)} of them broken,` : '';
  return (
    `${many(item.uses, 'reference')}${broken} in ${many(records, 'record')}, met on ` +
    `${many(trail.reach, 'public page')}.`
  );
}

const HEAD = 'border-b border-line px-3 py-1.5 text-left text-[0.85rem] font-semibold text-soft';
const CELL = 'min-w-0 px-3 align-top md:border-b md:border-line md:py-1.5';

function Placements({ rows, data }: { rows: TrailRow[]; data: TrailData }) {
  if (rows.length === 0) return null;
  const files = new Map(data.files.map((f) => [f.id, f]));
  return (
    <section className="mb-5" aria-label="Placements">
      <h2 className="figures mb-1.5 text-[1.1rem] font-semibold">
        Placed <span className="font-normal text-soft">{number(data.references.length)}</span>
      </h2>
      <div className="sheet overflow-x-auto print:overflow-visible">
        <table className="w-full border-separate border-spacing-0 max-md:block max-md:[&>tbody]:block">
          <thead className="max-md:sr-only">
            <tr>
              <th className={HEAD}>In</th>
              <th className={HEAD}>How</th>
              <th className={HEAD}>File</th>
              <th className={HEAD}>Through</th>
              <th className={HEAD}>Met on</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ reference, record, carriers, pages }) => (
              <tr
                key={reference.id}
                className="break-inside-avoid max-md:grid max-md:border-b max-md:border-line max-md:py-1.5"
              >
                <td className={CELL}>
                  <b>{record.title}</b>
                  <div className="flex items-center gap-2 text-[0.88rem] text-soft">
                    {kindWord(record.kind)} <Standing standing={record.meets} />
                  </div>
                </td>
                <td className={CELL}>
                  {roleWord(reference.role)}
                  <div className="figures text-[0.88rem] text-soft">
                    line {number(reference.line)} of “{reference.field}”
                    {reference.box !== null && `, ${box(reference.box)}`}
                  </div>
                  {reference.words !== null && reference.words !== '' && (
                    <div className="text-[0.88rem] text-soft">alt text “{reference.words}”</div>
                  )}
                </td>
                <td className={`${CELL} path break-words ${reference.broken ? 'text-alert' : ''}`}>
                  {reference.file_id === null
                    ? reference.names === 'media-item'
                      ? 'its original'
                      : reference.value
                    : fileName(files.get(reference.file_id)?.path ?? reference.value)}
                  {reference.broken && <div className="font-sans">broken</div>}
                </td>
                <td className={CELL}>
                  {carriers.length === 0 ? (
                    <span className="text-soft">–</span>
                  ) : (
                    carriers.map((c) => c.title).join(', ')
                  )}
                </td>
                <td className={CELL}>
                  <MetOn pages={pages} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

function MetOn({ pages }: { pages: TrailRecord[] }) {
  if (pages.length === 0) return <span className="text-soft">no page</span>;
  if (pages.length > NAMED) return <span className="figures">{many(pages.length, 'public page')}</span>;
  return pages.map((p) => (
    <div key={p.id}>
      <PublicLink address={p.address ?? ''} />
    </div>
  ));
}

function Pages({ data }: { data: TrailData }) {
  const met = new Set(data.pages);
  const pages = data.records
    .filter((r) => met.has(r.id))
    .sort((a, b) => natural(a.address ?? '', b.address ?? ''));
  if (pages.length === 0) return null;
  return (
    <section className="mb-5" aria-label="Public pages">
      <h2 className="figures mb-1.5 text-[1.1rem] font-semibold">
        Public pages <span className="font-normal text-soft">{number(data.reach)}</span>
      </h2>
      <ul className="columns-2 gap-6 max-sm:columns-1">
        {pages.map((page) => (
          <li key={page.id} className="min-w-0 break-inside-avoid">
            <PublicLink address={page.address ?? ''} />
          </li>
        ))}
      </ul>
      {data.reach > pages.length && (
        <p className="figures text-soft">and {number(data.reach - pages.length)} more</p>
      )}
    </section>
  );
}

function Files({ data }: { data: TrailData }) {
  const asked = new Map<number, number>();
  for (const r of data.references) {
    if (r.file_id !== null) asked.set(r.file_id, (asked.get(r.file_id) ?? 0) + 1);
  }
  return (
    <section className="mb-5" aria-label="Files">
      <h2 className="figures mb-1.5 text-[1.1rem] font-semibold">
        Files <span className="font-normal text-soft">{number(data.files.length)}</span>
      </h2>
      <ul className="sheet divide-y divide-line">
        {data.files.map((file) => (
          <li key={file.id} className="figures flex flex-wrap gap-x-6 px-3 py-1.5 break-inside-avoid">
            <span className="path min-w-0 flex-1 basis-72 break-all">{file.path}</span>
            <span className="w-32 text-soft">
              {file.is_original && 'original'}
              {file.is_original && file.width !== null && ', '}
              {file.width !== null && pixels(file.width, file.height)}
            </span>
            <span className="w-28">
              {asked.has(file.id) ? `named ${many(asked.get(file.id) ?? 0, 'time')}` : 'named nowhere'}
            </span>
            <span className="w-20 text-right">{weight(file.size)}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
