import { useMemo } from 'react';
import { Link } from 'react-router';
import { useSlug } from '@/api/hooks';
import type { TrailData, TrailRecord } from '@/api/types';
import { PublicLink } from '@/ui/PublicLink';
import { Standing } from '@/ui/Standing';
import { box, fileName, kindWord, many, natural, roleWord } from '@/ui/words';

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
          <tr className="text-[0.85rem] text-soft [&>th]:sticky [&>th]:top-0 [&>th]:border-b [&>th]:border-line [&>th]:bg-sheet [&>th]:px-3 [&>th]:py-1.5">
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
            <tr
              key={reference.id}
              className="align-top max-md:grid max-md:border-b max-md:border-line max-md:py-1.5 [&>td]:px-3 max-md:[&>td]:py-0 max-md:[&>td:empty]:hidden md:[&>td]:border-b md:[&>td]:border-line md:[&>td]:py-1.5"
            >
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

function rowsOf(data: TrailData) {
  const records = new Map(data.records.map((r) => [r.id, r]));
  const parents = new Map<number, number[]>();
  for (const edge of data.carries) {
    const list = parents.get(edge.to);
    if (list) list.push(edge.from);
    else parents.set(edge.to, [edge.from]);
  }
  const pages = new Set(data.pages);
  const above = new Map<number, { carriers: TrailRecord[]; pages: TrailRecord[] }>();
  function lookUp(id: number) {
    const known = above.get(id);
    if (known) return known;
    const seen = new Set([id]);
    const ring = [id];
    const found = { carriers: [] as TrailRecord[], pages: [] as TrailRecord[] };
    for (let at = ring.pop(); at !== undefined; at = ring.pop()) {
      const record = records.get(at);
      if (record && pages.has(at)) found.pages.push(record);
      else if (record && at !== id && !record.is_page) found.carriers.push(record);
      for (const parent of parents.get(at) ?? []) {
        if (!seen.has(parent)) {
          seen.add(parent);
          ring.push(parent);
        }
      }
    }
    above.set(id, found);
    return found;
  }
  return data.references
    .flatMap((reference) => {
      const record = records.get(reference.record_id);
      return record ? [{ reference, record, ...lookUp(record.id) }] : [];
    })
    .sort((a, b) => natural(a.record.title, b.record.title));
}
