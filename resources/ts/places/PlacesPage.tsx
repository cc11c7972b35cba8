import { usePlaces } from '@/api/hooks';
import { Page } from '@/ui/Page';
import { Failed, Loading } from '@/ui/States';
import { Standing } from '@/ui/Standing';
import { kindWord, number } from '@/ui/words';

export function PlacesPage() {
  const places = usePlaces();
  return (
    <Page title="Places">
      <p className="mb-4 max-w-2xl text-soft">
        Everything of the site that holds media, as it was last read. Here each page will show all that it
        carries, and banners and slots their dates and sizes; for now, follow a picture from Media to its
        places.
      </p>
      {places.isPending ? (
        <Loading />
      ) : places.isError ? (
        <Failed error={places.error} again={places.refetch} />
      ) : (
        <table className="sheet w-full max-w-4xl border-separate border-spacing-0">
          <thead>
            <tr className="text-[0.85rem] text-soft">
              <th scope="col" className="px-4 py-2 text-left">
                Kind
              </th>
              <th scope="col" className="px-4 py-2 text-right">
                Records
              </th>
              <th scope="col" className="px-4 py-2 text-right">
                <span className="inline-flex">
                  <Standing standing="live" />
                </span>
              </th>
              <th scope="col" className="px-4 py-2 text-right">
                <span className="inline-flex">
                  <Standing standing="waiting" />
                </span>
              </th>
              <th scope="col" className="px-4 py-2 text-right">
                <span className="inline-flex">
                  <Standing standing="fading" />
                </span>
              </th>
              <th scope="col" className="px-4 py-2 text-right">
                References to media
              </th>
            </tr>
          </thead>
          <tbody>
            {places.data.kinds.map((k) => (
              <tr key={k.kind} className="[&>td]:border-t [&>td]:border-line">
                <td className="px-4 py-2 font-semibold first-letter:uppercase">{kindWord(k.kind, 2)}</td>
                {[k.records, k.live, k.waiting, k.fading, k.references].map((n, i) => (
                  <td key={i} className={`figures px-4 py-2 text-right ${n === 0 ? 'text-soft' : ''}`}>
                    {n === 0 ? '–' : number(n)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Page>
  );
}
