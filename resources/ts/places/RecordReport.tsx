import { useParams } from 'react-router';
import { useRecord, useSlug } from '@/api/hooks';
import type { RecordView } from '@/api/types';
import { PublicLink } from '@/ui/PublicLink';
import { Report } from '@/ui/Report';
import { Standing } from '@/ui/Standing';
import { Failed, Loading } from '@/ui/States';
import { fact, kindWord, many, number } from '@/ui/words';
import { Shows } from './Shows';

const linked = (record: RecordView) => `linked from ${many(record.linked_from.total, 'place')}`;
const met = (record: RecordView) => `met on ${many(record.reach, 'public page')}`;

/** What one page or carrier shows, with its pictures, for whoever wants it on paper. */
export function RecordReport() {
  const { record: id = '' } = useParams();
  const slug = useSlug();
  const record = useRecord(id);
  const data = record.data;
  return (
    <Report
      title={data ? `What “${data.title}” shows` : 'What it shows'}
      words={['placement', 'carrier', 'finding', 'standing']}
      back={{ to: `/${slug}/places/${id}`, label: `Back to the ${kindWord(data?.kind ?? 'record')}` }}
      about={data && `A ${kindWord(data.kind)}, ${data.is_page ? linked(data) : met(data)}.`}
    >
      {record.isError ? (
        <Failed error={record.error} again={record.refetch} />
      ) : !data ? (
        <Loading rows={8} height={46} />
      ) : (
        <>
          <dl className="figures mb-4 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 text-[0.95rem]">
            {data.is_page && data.address !== null && (
              <>
                <dt className="text-soft">Address</dt>
                <dd>
                  <PublicLink address={data.address} />
                </dd>
              </>
            )}
            <dt className="text-soft">Visitors</dt>
            <dd>
              <Standing standing={data.meets} />
            </dd>
            {Object.entries(data.facts).map(([label, value]) =>
              value === null || value === '' ? null : (
                <div key={label} className="contents">
                  <dt className="text-soft">{label}</dt>
                  <dd className="min-w-0 break-words">{fact(value)}</dd>
                </div>
              ),
            )}
          </dl>
          <Shows record={data} />
          {!data.is_page && data.pages.length > 0 && (
            <section className="mt-5" aria-label="Public pages">
              <h2 className="mb-1 font-semibold">Public pages</h2>
              <ul className="columns-2 gap-6 max-sm:columns-1">
                {data.pages.map((page) => (
                  <li key={page.id} className="min-w-0 break-inside-avoid">
                    <PublicLink address={page.address} />
                  </li>
                ))}
              </ul>
              {data.reach > data.pages.length && (
                <p className="figures text-soft">and {number(data.reach - data.pages.length)} more</p>
              )}
            </section>
          )}
        </>
      )}
    </Report>
  );
}
