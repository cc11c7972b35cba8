import { useParams } from 'react-router';
import { useRecord, useSlug } from '@/api/hooks';
import type { RecordView } from '@/api/types';
import { FactList } from '@/ui/FactList';
import { PublicLink } from '@/ui/PublicLink';
import { Report } from '@/ui/Report';
import { Standing } from '@/ui/Standing';
import { Failed, Loading } from '@/ui/States';
import { kindWord, many, number } from '@/ui/words';
import { sourceFacts } from './facts';
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
          <FactList
            className="mb-4"
            facts={[
              [
                'Address',
                data.is_page && data.address !== null ? <PublicLink address={data.address} /> : null,
              ],
              ['Visitors', <Standing standing={data.meets} />],
              ...sourceFacts(data),
            ]}
          />
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
