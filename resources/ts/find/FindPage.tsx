import type { ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useFind, useSlug } from '@/api/hooks';
import { FoundFileLine, FoundItem, FoundRecord } from '@/ui/FoundRows';
import { Page } from '@/ui/Page';
import { Empty, Failed, Loading } from '@/ui/States';
import { number } from '@/ui/words';

/** All that was found for a text, group by group; each group leads on to the stage that can filter it further. */
export function FindPage() {
  const slug = useSlug();
  const [params] = useSearchParams();
  const q = params.get('q') ?? '';
  const found = useFind(q, 50);
  const more = new URLSearchParams({ q });
  const data = found.data;
  return (
    <Page title={q === '' ? 'Find' : `Found for “${q}”`}>
      {q.trim() === '' ? (
        <Empty title="Nothing was asked for">Press / and type a name, a path or an address.</Empty>
      ) : found.isError ? (
        <Failed error={found.error} again={found.refetch} />
      ) : !data ? (
        <Loading rows={8} height={46} />
      ) : data.items.total + data.files.total + data.records.total === 0 ? (
        <Empty title="Nothing found">
          No item, file or record has all of these words in its name, path, texts or address.
        </Empty>
      ) : (
        <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-5 lg:grid-cols-[repeat(2,minmax(0,1fr))]">
          <Group title="Media items" total={data.items.total} all={`/${slug}/media?${more}`}>
            {data.items.items.map((item) => (
              <Row key={item.id} to={`/${slug}/media/${item.id}`}>
                <FoundItem item={item} />
              </Row>
            ))}
          </Group>
          <div className="flex min-w-0 flex-col gap-5">
            <Group title="Pages and other records" total={data.records.total} all={`/${slug}/places?${more}`}>
              {data.records.records.map((record) => (
                <Row key={record.id} to={`/${slug}/places/${record.id}`}>
                  <FoundRecord record={record} />
                </Row>
              ))}
            </Group>
            <Group title="Renditions" total={data.files.total}>
              {data.files.files.map((file) => (
                <Row key={file.id} to={`/${slug}/media/${file.media_item_id ?? ''}`}>
                  <FoundFileLine file={file} />
                </Row>
              ))}
            </Group>
          </div>
        </div>
      )}
    </Page>
  );
}

function Group({
  title,
  total,
  all,
  children,
}: {
  title: string;
  total: number;
  all?: string;
  children: ReactNode[];
}) {
  if (total === 0) return null;
  return (
    <section aria-label={title}>
      <h2 className="mb-1.5 flex items-baseline gap-2 font-semibold">
        {title} <span className="figures text-[0.9rem] font-normal text-soft">{number(total)}</span>
        {total > children.length && all && (
          <Link to={all} className="ml-auto text-[0.93rem] text-accent hover:underline">
            Show all {number(total)}
          </Link>
        )}
      </h2>
      <ul className="sheet divide-y divide-line overflow-hidden">{children}</ul>
      {total > children.length && !all && (
        <p className="mt-1 text-[0.88rem] text-soft">
          The first {children.length}; more words narrow it down.
        </p>
      )}
    </section>
  );
}

function Row({ to, children }: { to: string; children: ReactNode }) {
  return (
    <li>
      <Link to={to} className="flex items-center gap-3 px-3 py-2 hover:bg-tint">
        {children}
      </Link>
    </li>
  );
}
