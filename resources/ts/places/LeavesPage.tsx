import { Link, useParams } from 'react-router';
import { useRecord, useSlug } from '@/api/hooks';
import { useLeaves } from '@/api/retire';
import type { LeftItem, Leaves } from '@/api/types';
import { Picture } from '@/ui/Picture';
import { Report } from '@/ui/Report';
import { Failed, Loading } from '@/ui/States';
import { fileName, kindWord, many, weight } from '@/ui/words';

const ELSE: Record<string, string> = {
  code: 'the site’s own code names it',
  mentions: 'something names it in a way that is not read',
  survey: 'a page was seen to show it, by another way',
  log: 'people ask for it',
};

/** Before a record is removed: what only it shows, what others show, too; made to be printed as well. */
export function LeavesPage() {
  const { record: id = '' } = useParams();
  const slug = useSlug();
  const record = useRecord(id);
  const leaves = useLeaves(id);
  const title = record.data ? `If “${record.data.title}” goes` : 'If it goes';
  return (
    <Report
      title={title}
      words={['reference', 'carrier', 'standing']}
      back={{ to: `/${slug}/places/${id}`, label: `Back to the ${kindWord(record.data?.kind ?? 'record')}` }}
      about={leaves.data && aboutLeaves(leaves.data)}
    >
      {leaves.isPending ? (
        <Loading rows={5} height={60} />
      ) : leaves.isError ? (
        <Failed error={leaves.error} again={leaves.refetch} />
      ) : (
        <>
          <Items
            title="Only it shows these"
            items={leaves.data.only}
            none="Everything it shows is shown elsewhere, too."
          />
          <Items title="Else only what is binned, expired or past" items={leaves.data.past} none="None." />
          <Items title="Others show these, too" items={leaves.data.shared} none="None." />
        </>
      )}
    </Report>
  );
}

function aboutLeaves({ only, bytes, carriers }: Leaves): string {
  const turns =
    only.length === 0
      ? 'Nothing would turn idle.'
      : `${many(only.length, 'item')}, ${weight(bytes)}, would turn idle.`;
  const counted =
    carriers > 0
      ? ` ${many(carriers, 'record')} that only it carries ${carriers === 1 ? 'is' : 'are'} counted with it.`
      : '';
  return `${turns}${counted} Ylema removes no record; once a reading finds it gone, what it left waits on the Desk.`;
}

function Items({ title, items, none }: { title: string; items: LeftItem[]; none: string }) {
  const slug = useSlug();
  return (
    <section className="mb-5 max-w-5xl">
      <h2 className="figures mb-1.5 text-[1.1rem] font-semibold">
        {title} <span className="font-normal text-soft">{items.length}</span>
      </h2>
      {items.length === 0 ? (
        <p className="text-soft">{none}</p>
      ) : (
        <ul className="sheet divide-y divide-line">
          {items.map((item) => (
            <li key={item.id} className="flex items-center gap-3 px-4 py-2 break-inside-avoid">
              <Picture
                fileId={item.file_id}
                sha={item.sha256}
                mime={item.mime}
                alt=""
                className="h-12 w-16 shrink-0 rounded border border-line"
              />
              <div className="min-w-0 flex-1">
                <Link
                  to={`/${slug}/media/${item.id}`}
                  className="font-semibold hover:text-accent hover:underline"
                >
                  {item.title || fileName(item.path)}
                </Link>
                <div className="path truncate text-soft">{item.path}</div>
              </div>
              <div className="min-w-0 flex-1 text-[0.93rem]">
                {item.records.map((one, i) => (
                  <span key={one.id}>
                    {i > 0 && ', '}
                    <Link to={`/${slug}/places/${one.id}`} className="hover:text-accent hover:underline">
                      {one.title}
                    </Link>{' '}
                    <span className="text-soft">({kindWord(one.kind)})</span>
                  </span>
                ))}
                {item.others > item.records.length && (
                  <span className="text-soft">
                    {' '}
                    and {many(item.others - item.records.length, 'more record')}
                  </span>
                )}
                {item.records.length === 0 && item.because && (
                  <span className="text-waiting">{ELSE[item.because]}</span>
                )}
              </div>
              <span className="figures shrink-0">{weight(item.bytes)}</span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
