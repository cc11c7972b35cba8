import { Link, useParams } from 'react-router';
import { useRecord, useSlug } from '@/api/hooks';
import type { RecordLine, RecordView } from '@/api/types';
import { FactList } from '@/ui/FactList';
import { PublicLink } from '@/ui/PublicLink';
import { FailedPage } from '@/ui/Page';
import { ReportLink } from '@/ui/Report';
import { Loading } from '@/ui/States';
import { Standing } from '@/ui/Standing';
import { useTitle } from '@/ui/useTitle';
import { kindWord, many, number } from '@/ui/words';
import { sourceFacts } from './facts';
import { Shows } from './Shows';

const FACTS =
  'w-72 shrink-0 overflow-y-auto border-line bg-sheet/70 px-5 py-4 ' +
  'max-md:w-auto max-md:border-b md:border-r';

/** One record: what it shows and through what, what is wrong with it, and where a visitor meets it. */
export function RecordPage() {
  const { record: id = '' } = useParams();
  const record = useRecord(id);
  useTitle(record.data?.title);
  if (record.isError) return <FailedPage title="Record" error={record.error} again={record.refetch} />;
  return (
    <main id="work" className="flex min-h-0 flex-1 max-md:flex-col">
      <aside aria-label="Facts" className={FACTS}>
        {record.data ? <Facts record={record.data} /> : <Loading rows={6} height={34} />}
      </aside>
      <div className="min-w-0 flex-1 overflow-y-auto bg-sheet px-6 py-4 max-sm:px-4">
        {record.data ? <Shows record={record.data} /> : <Loading rows={8} height={64} />}
      </div>
    </main>
  );
}

function Facts({ record }: { record: RecordView }) {
  return (
    <>
      <p className="text-soft first-letter:uppercase">{kindWord(record.kind)}</p>
      <h1 className="text-[1.25rem] leading-tight font-bold">{record.title}</h1>
      {record.is_page && record.address !== null && (
        <p className="mt-1">
          <PublicLink address={record.address} />
        </p>
      )}
      <p className="mt-3">
        <Link
          to="leaves"
          className="inline-block min-h-[24px] font-semibold text-accent underline underline-offset-2"
        >
          If it goes, what is left behind?
        </Link>
        <br />
        <ReportLink />
      </p>
      <FactList
        className="mt-4"
        facts={[
          ['State', <Standing standing={record.state} />],
          ['Visitors', record.meets === record.state ? null : <Standing standing={record.meets} />],
          ['Met on', record.is_page ? null : many(record.reach, 'public page')],
          ...sourceFacts(record),
          ['Key', <span className="path break-all">{record.key}</span>],
        ]}
      />
      <Lines title="Carried by" total={record.carried_by.total} records={record.carried_by.records} />
      {record.is_page && (
        <Lines
          title={`Linked from ${many(record.linked_from.total, 'place')}`}
          total={record.linked_from.records.length}
          records={record.linked_from.records}
        />
      )}
      {record.is_page && record.linked_from.total === 0 && (
        <p className="mt-4 border-t border-line pt-3 text-soft">No content that was read links here.</p>
      )}
      {record.leads_nowhere.total > 0 && (
        <section className="mt-4 border-t border-line pt-3">
          <h2 className="mb-1 font-semibold">Links to no known page</h2>
          <ul className="flex flex-col gap-0.5">
            {record.leads_nowhere.links.slice(0, 12).map((link, i) => (
              <li key={i} className="min-w-0 text-[0.9rem]">
                <span className="path break-all">{link.value}</span>{' '}
                <span className="text-soft">
                  line {number(link.line)} of “{link.field}”
                </span>
              </li>
            ))}
            {record.leads_nowhere.total > 12 && (
              <li className="figures text-soft">and {number(record.leads_nowhere.total - 12)} more</li>
            )}
          </ul>
        </section>
      )}
      {!record.is_page && record.pages.length > 0 && (
        <section className="mt-4 border-t border-line pt-3">
          <h2 className="mb-1 font-semibold">Public pages</h2>
          <ul className="flex flex-col gap-0.5">
            {record.pages.slice(0, 12).map((page) => (
              <li key={page.id} className="min-w-0">
                <PublicLink address={page.address} />
              </li>
            ))}
            {record.reach > 12 && <li className="figures text-soft">and {number(record.reach - 12)} more</li>}
          </ul>
        </section>
      )}
    </>
  );
}

function Lines({ title, total, records }: { title: string; total: number; records: RecordLine[] }) {
  const slug = useSlug();
  if (total === 0) return null;
  return (
    <section className="mt-4 border-t border-line pt-3">
      <h2 className="mb-1 font-semibold">{title}</h2>
      <ul className="flex flex-col gap-0.5">
        {records.slice(0, 12).map((r) => (
          <li key={r.id} className="flex min-w-0 items-baseline gap-2">
            <Link to={`/${slug}/places/${r.id}`} className="min-w-0 truncate text-accent hover:underline">
              {r.title}
            </Link>
            <span className="shrink-0 text-[0.85rem] text-soft">{kindWord(r.kind)}</span>
          </li>
        ))}
        {total > 12 && <li className="figures text-soft">and {number(total - 12)} more</li>}
      </ul>
    </section>
  );
}
