import { useMemo } from 'react';
import { Link } from 'react-router';
import { useSlug } from '@/api/hooks';
import type { TrailData } from '@/api/types';
import { PublicLink } from '@/ui/PublicLink';
import { Standing } from '@/ui/Standing';
import { box, fileName, kindWord, many, roleWord } from '@/ui/words';
import { rowsOf } from './rows';

const HEAD =
  'text-[0.85rem] text-soft [&>th]:sticky [&>th]:top-0 [&>th]:border-b [&>th]:border-line [&>th]:bg-sheet ' +
  '[&>th]:px-3 [&>th]:py-1.5';

/** On a narrow screen, its cells stand below each other. */
const ROW =
  'align-top max-md:grid max-md:border-b max-md:border-line max-md:py-1.5 [&>td]:px-3 max-md:[&>td]:py-0 ' +
  'max-md:[&>td:empty]:hidden md:[&>td]:border-b md:[&>td]:border-line md:[&>td]:py-1.5';

/** The trail as a list, for keys and for ears: each placement with its file, its carriers and its pages, in words. */
export function TrailList({ data, onRecord }: { data: TrailData; onRecord: (record: number) => void }) {
  const slug = useSlug();
  const rows = useMemo(() => rowsOf(data), [data]);
  const files = useMemo(() => new Map(data.files.map((f) => [f.id, f])), [data]);
  return (
    <div className="min-h-0 flex-1 overflow-auto bg-sheet">
      <table className="w-full border-separate border-spacing-0 text-left max-md:block max-md:[&>tbody]:block">
        <caption className="sr-only">
          Every placement, with its file, its carriers and the pages that show it
        </caption>
        <thead className="max-md:sr-only">
          <tr className={HEAD}>
            <th scope="col">Placed in</th>
            <th scope="col">How</th>
            <th scope="col">File</th>
            <th scope="col">Through</th>
            <th scope="col">Met on</th>
            <th scope="col">Standing</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ reference, record, carriers, pages }) => (
            <tr key={reference.id} className={ROW}>
              <td>
                <button
                  type="button"
                  onClick={() => onRecord(record.id)}
                  className="text-left font-semibold hover:text-accent hover:underline"
                >
                  {record.title}
                </button>
                <div className="text-[0.88rem] text-soft">{kindWord(record.kind)}</div>
              </td>
              <td>
                {roleWord(reference.role)}
                <div className="figures text-[0.88rem] text-soft">
                  {box(reference.box ?? reference.carrier_box)}
                </div>
              </td>
              <td className={`path ${reference.broken ? 'text-alert' : ''}`}>
                {reference.file_id === null
                  ? reference.names === 'media-item'
                    ? 'its original'
                    : 'no such file'
                  : fileName(files.get(reference.file_id)?.path ?? reference.value)}
                {reference.broken && <div className="font-sans">broken</div>}
              </td>
              <td>
                {carriers.length === 0 ? (
                  <span className="text-soft">–</span>
                ) : (
                  carriers.map((c) => (
                    <Link
                      key={c.id}
                      to={`/${slug}/places/${c.id}`}
                      className="mr-2 text-accent hover:underline"
                      title={kindWord(c.kind)}
                    >
                      {c.title}
                    </Link>
                  ))
                )}
              </td>
              <td>
                {pages.length === 0 ? (
                  <span className="text-soft">no page</span>
                ) : pages.length === 1 && pages[0] ? (
                  <PublicLink address={pages[0].address ?? ''} />
                ) : (
                  <span className="figures">{many(pages.length, 'public page')}</span>
                )}
              </td>
              <td>
                <Standing standing={record.meets} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {data.cut && (
        <p className="px-3 py-2 text-soft">More than a list can show; the counts above are those of all.</p>
      )}
    </div>
  );
}
