import { Link } from 'react-router';
import { useChanges, useSlug } from '@/api/hooks';
import { Page } from '@/ui/Page';
import { Empty, Failed, Loading } from '@/ui/States';
import { many, when } from '@/ui/words';
import { ChangeStateWord } from './ChangeStateWord';

export function ChangesPage() {
  const changes = useChanges();
  const slug = useSlug();
  return (
    <Page title="Changes" words={['change', 'step', 'leftOut', 'refused', 'kept', 'undone', 'stale']}>
      {changes.isPending ? (
        <Loading />
      ) : changes.isError ? (
        <Failed error={changes.error} again={changes.refetch} />
      ) : changes.data.changes.length === 0 ? (
        <Empty title="Nothing was changed yet">
          Every swap, repair and retirement will stand here with its edits, its check on the public pages, and
          its way back.
        </Empty>
      ) : (
        <table className="sheet w-full border-separate border-spacing-0 overflow-hidden max-md:block">
          <thead className="max-md:sr-only">
            <tr className="text-left text-[0.85rem] text-soft">
              {['No.', 'What', 'State', 'Extent', 'Who', 'When'].map((h) => (
                <th key={h} scope="col" className="border-b border-line px-4 py-2 font-semibold">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody className="max-md:block">
            {changes.data.changes.map((c) => (
              <tr
                key={c.id}
                className="group hover:bg-tint/60 max-md:grid max-md:border-b max-md:border-line max-md:py-2 max-md:last:border-b-0 max-md:[&>td]:py-0 md:[&>td]:border-b md:[&>td]:border-line md:[&:last-child>td]:border-b-0"
              >
                <td className="figures px-4 py-2.5 text-soft">{c.id}</td>
                <td className="px-4 py-2.5">
                  <Link
                    to={`/${slug}/changes/${c.id}`}
                    className="font-semibold group-hover:text-accent hover:underline"
                  >
                    {c.title}
                  </Link>
                  {c.reason && <div className="text-soft">{c.reason}</div>}
                </td>
                <td className="px-4 py-2.5 whitespace-nowrap">
                  <ChangeStateWord state={c.state} />
                  {c.stale ? (
                    <div className="text-[0.88rem] text-alert">{many(c.stale, 'page')} stale</div>
                  ) : null}
                  {c.unkept ? (
                    <div className="text-[0.88rem] text-alert">
                      {many(c.unkept, 'old address', 'old addresses')} not led on
                    </div>
                  ) : null}
                </td>
                <td className="figures max-w-80 px-4 py-2.5 text-soft">{c.sentence}</td>
                <td className="px-4 py-2.5 whitespace-nowrap">{c.by ?? 'command line'}</td>
                <td className="figures px-4 py-2.5 whitespace-nowrap text-soft">{when(c.made_at)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Page>
  );
}
