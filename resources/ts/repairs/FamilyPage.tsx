import { Link, useParams } from 'react-router';
import { useFamily, useSlug } from '@/api/hooks';
import { Button } from '@/ui/Button';
import { Page } from '@/ui/Page';
import { PublicLink } from '@/ui/PublicLink';
import { Failed, Loading } from '@/ui/States';
import { StandingShape } from '@/ui/Standing';
import { kindWord, many, number, roleWord, sentence } from '@/ui/words';

/** The references of one family, each with its record, its text and what came of following it. */
export function FamilyPage() {
  const { cause = '' } = useParams();
  const slug = useSlug();
  const pages = useFamily(cause);
  if (pages.isError) return <Failed error={pages.error} again={pages.refetch} />;
  const family = pages.data?.pages[0];
  const rows = pages.data?.pages.flatMap((page) => page.rows) ?? [];
  return (
    <Page title={family?.title ?? 'Repairs'} wide>
      {!family ? (
        <Loading rows={8} height={52} />
      ) : (
        <>
          <p className="mb-3 text-soft">
            {sentence(family.sentence)} {many(family.total, 'reference')}.{' '}
            <Link
              to={`/${slug}/places?cause=${family.cause}`}
              className="font-semibold text-accent underline underline-offset-2"
            >
              Show the records
            </Link>
          </p>
          <ul className="sheet divide-y divide-line">
            {rows.map((row) => (
              <li key={row.id} className="flex items-baseline gap-3 px-4 py-2 max-md:flex-wrap">
                <StandingShape standing={row.record.state} />
                <div className="w-64 min-w-0 shrink-0">
                  <Link
                    to={`/${slug}/places/${row.record.id}`}
                    className="block min-h-[24px] truncate font-semibold hover:text-accent hover:underline"
                  >
                    {row.record.title}
                  </Link>
                  <p className="flex min-w-0 gap-2 text-[0.88rem] text-soft">
                    <span className="shrink-0">{kindWord(row.record.kind)}</span>
                    {row.record.is_page && row.record.address !== null && (
                      <PublicLink address={row.record.address} />
                    )}
                  </p>
                </div>
                <div className="min-w-0 flex-1">
                  <p className="path break-all">{row.value}</p>
                  <p className="text-[0.9rem] text-soft">{row.sentence}</p>
                </div>
                <p className="w-40 shrink-0 text-right text-[0.88rem] text-soft">
                  {roleWord(row.role)}, line {number(row.line)}
                </p>
              </li>
            ))}
          </ul>
          {pages.hasNextPage && (
            <Button
              className="mt-3"
              disabled={pages.isFetchingNextPage}
              onClick={() => void pages.fetchNextPage()}
            >
              {pages.isFetchingNextPage
                ? 'Fetching…'
                : `Show more (${number(rows.length)} of ${number(family.total)})`}
            </Button>
          )}
        </>
      )}
    </Page>
  );
}
