import { hierarchy, treemap } from 'd3-hierarchy';
import { Download } from 'lucide-react';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { useSlug } from '@/api/hooks';
import { useWeight } from '@/api/retire';
import type { Weight, WeightRow } from '@/api/types';
import { Page } from '@/ui/Page';
import { Empty, Failed, Loading } from '@/ui/States';
import { many, number, weight } from '@/ui/words';

/** What the site's media weigh, as pictures that lead to what they show. */
export function WeightPage() {
  const data = useWeight();
  return (
    <Page title="Weight" words={['rendition', 'standing', 'resting']} wide>
      {data.isPending ? (
        <Loading rows={4} height={140} />
      ) : data.isError ? (
        <Failed error={data.error} again={data.refetch} />
      ) : data.data.total.files === 0 ? (
        <Empty title="No files yet">Read the site first.</Empty>
      ) : (
        <Body data={data.data} />
      )}
    </Page>
  );
}

function Body({ data }: { data: Weight }) {
  const slug = useSlug();
  const { total } = data;
  const share = (bytes: number) => `${Math.round((100 * bytes) / Math.max(1, total.bytes))} %`;
  return (
    <>
      <dl className="figures mb-4 flex flex-wrap gap-x-10 gap-y-2">
        {(
          [
            ['In the public tree', weight(total.bytes), many(total.files, 'file')],
            ['Renditions', weight(total.renditions), share(total.renditions)],
            ['Resting would free', weight(total.safe), `${share(total.safe)}, in each backup as well`],
            ['At rest', weight(total.resting), 'out of the public tree'],
            ['In the archive', weight(total.archived), 'in bags'],
          ] as const
        ).map(([label, value, more]) => (
          <div key={label}>
            <dt className="text-soft">{label}</dt>
            <dd className="text-[1.35rem] leading-tight font-bold">{value}</dd>
            <dd className="text-[0.88rem] text-soft">{more}</dd>
          </div>
        ))}
      </dl>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-4 xl:grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)]">
        <Part title="By folder" table="folders" hint="Darker is what may rest. A folder leads to its items.">
          <Map rows={data.folders} />
        </Part>
        <Part title="By year of arrival" table="years" hint="When files were last written.">
          <Years rows={data.years} />
        </Part>
        <Part
          title="Heaviest pages"
          table="pages"
          hint="What a first visit downloads, as the last survey saw it."
        >
          {data.pages.length === 0 ? (
            <p className="text-soft">
              The public site was not surveyed yet.{' '}
              <Link to={`/${slug}/resting`} className="text-accent underline underline-offset-2">
                Survey it
              </Link>
            </p>
          ) : (
            <ul className="divide-y divide-line">
              {data.pages.slice(0, 12).map((page) => (
                <li key={page.record} className="figures flex items-baseline gap-4 py-1.5">
                  <Link
                    to={`/${slug}/places/${page.record}`}
                    className="min-w-0 flex-1 truncate font-semibold hover:text-accent hover:underline"
                  >
                    {page.name}
                  </Link>
                  {page.large > 0 && (
                    <span className="text-[0.9rem] text-waiting">
                      {many(page.large, 'picture')} far too large: {weight(page.saves)} less
                    </span>
                  )}
                  <span className="text-[0.9rem] text-soft">{many(page.files, 'file')}</span>
                  <b className="w-16 text-right">{weight(page.bytes)}</b>
                </li>
              ))}
            </ul>
          )}
        </Part>
        <div className="flex flex-col gap-4">
          <Part title="By type" table="types">
            <Bars rows={data.types} to={(row) => `media?type=${row.name}`} />
          </Part>
          <Part title="By standing" table="standings">
            <Bars rows={data.standings} to={(row) => `media?standing=${row.name}`} />
          </Part>
        </div>
      </div>
    </>
  );
}

function Part({
  title,
  table,
  hint,
  children,
}: {
  title: string;
  table: string;
  hint?: string;
  children: React.ReactNode;
}) {
  const slug = useSlug();
  return (
    <section className="sheet min-w-0 px-4 py-3" aria-label={title}>
      <div className="mb-2 flex items-baseline gap-3">
        <h2 className="font-semibold">{title}</h2>
        <span className="min-w-0 flex-1 truncate text-[0.88rem] text-soft">{hint}</span>
        <a
          href={`/api/sites/${slug}/weight/export?table=${table}`}
          className="inline-flex min-h-[24px] items-center gap-1 text-[0.9rem] text-accent underline underline-offset-2"
        >
          <Download size={14} aria-hidden="true" /> CSV
        </a>
      </div>
      {children}
    </section>
  );
}

interface Leaf {
  row?: WeightRow;
  children?: Leaf[];
}

const WIDTH = 720;
const HEIGHT = 300;

/** Folders as areas: each as large as what it holds is heavy. */
function Map({ rows }: { rows: WeightRow[] }) {
  const slug = useSlug();
  const tiles = useMemo(() => {
    // What would be too small to be hit stands together, without a way in; the table has each.
    const all = rows.reduce((sum, row) => sum + row.bytes, 0);
    const large = rows.filter((row) => row.bytes >= all / 70);
    const small = rows.filter((row) => row.bytes < all / 70);
    const rest: WeightRow = small.reduce(
      (sum, row) => ({
        ...sum,
        items: sum.items + row.items,
        files: sum.files + row.files,
        bytes: sum.bytes + row.bytes,
        renditions: sum.renditions + row.renditions,
        safe: sum.safe + row.safe,
      }),
      { name: '', items: 0, files: 0, bytes: 0, renditions: 0, safe: 0 },
    );
    const root = hierarchy<Leaf>({
      children: [...large, ...(rest.bytes > 0 ? [rest] : [])].map((row) => ({ row })),
    })
      .sum((leaf) => leaf.row?.bytes ?? 0)
      .sort((a, b) => (b.value ?? 0) - (a.value ?? 0));
    return treemap<Leaf>().size([WIDTH, HEIGHT]).paddingInner(2)(root).leaves();
  }, [rows]);
  return (
    <div className="relative w-full" style={{ aspectRatio: `${WIDTH} / ${HEIGHT}` }}>
      {tiles.map((tile) => {
        const row = tile.data.row;
        if (!row) return null;
        const [wide, high] = [tile.x1 - tile.x0, tile.y1 - tile.y0];
        const safe = row.safe / Math.max(1, row.bytes);
        const place = {
          left: `${(100 * tile.x0) / WIDTH}%`,
          top: `${(100 * tile.y0) / HEIGHT}%`,
          width: `${(100 * wide) / WIDTH}%`,
          height: `${(100 * high) / HEIGHT}%`,
          background: `color-mix(in oklab, var(--accent) ${Math.round(8 + 40 * safe)}%, var(--sheet))`,
        };
        const shape =
          'absolute overflow-hidden rounded-sm border border-line text-[0.82rem] leading-tight text-ink';
        const says = `${weight(row.bytes)} in ${many(row.files, 'file')}, ${weight(row.safe)} may rest`;
        const words = wide > 56 && high > 30 && (
          <span className="block truncate px-1.5 py-1">
            <span className="path block truncate">{row.name.replace(/^media\//, '') || 'others'}</span>
            <span className="figures">{weight(row.bytes)}</span>
          </span>
        );
        return row.name === '' ? (
          <div key="others" title={`All others: ${says}`} className={shape} style={place}>
            {words}
          </div>
        ) : (
          <Link
            key={row.name}
            to={`/${slug}/media?folder=${encodeURIComponent(row.name)}`}
            title={`${row.name}: ${says}`}
            className={`${shape} hover:border-accent hover:outline-2 hover:outline-accent`}
            style={place}
          >
            {words || <span className="sr-only">{row.name}</span>}
          </Link>
        );
      })}
    </div>
  );
}

function Years({ rows }: { rows: WeightRow[] }) {
  const slug = useSlug();
  const most = Math.max(1, ...rows.map((row) => row.bytes));
  return (
    <ol className="flex h-[300px] items-end gap-1.5">
      {rows.map((row) => (
        <li key={row.name} className="flex h-full min-w-0 flex-1 flex-col justify-end">
          <Link
            to={`/${slug}/media?year=${row.name}`}
            title={`${row.name}: ${weight(row.bytes)} in ${many(row.files, 'file')}, ${weight(row.safe)} may rest`}
            className="group flex h-full flex-col justify-end text-center"
          >
            <span className="figures truncate text-[0.75rem] text-soft">{weight(row.bytes)}</span>
            <span
              className="flex flex-col justify-end overflow-hidden rounded-t-sm bg-accent/70 group-hover:bg-accent"
              style={{ height: `${(82 * row.bytes) / most}%` }}
            >
              <span
                className="block bg-idle/70"
                style={{ height: `${(100 * row.safe) / Math.max(1, row.bytes)}%` }}
              />
            </span>
            <span className="figures text-[0.85rem]">{row.name}</span>
          </Link>
        </li>
      ))}
    </ol>
  );
}

function Bars({ rows, to }: { rows: WeightRow[]; to: (row: WeightRow) => string }) {
  const slug = useSlug();
  const most = Math.max(1, ...rows.map((row) => row.bytes));
  return (
    <ul>
      {rows.slice(0, 8).map((row) => (
        <li key={row.name}>
          <Link
            to={`/${slug}/${to(row)}`}
            className="figures -mx-2 grid grid-cols-[5.5rem_minmax(0,1fr)_4.5rem_4rem] items-center gap-2 rounded px-2 py-0.5 hover:bg-tint"
          >
            <span className="truncate">{row.name}</span>
            <span className="h-1.5 overflow-hidden rounded-full bg-line" aria-hidden="true">
              <span className="block h-full bg-accent" style={{ width: `${(100 * row.bytes) / most}%` }} />
            </span>
            <span className="text-right text-[0.88rem] text-soft">{number(row.files)}</span>
            <b className="text-right">{weight(row.bytes)}</b>
          </Link>
        </li>
      ))}
    </ul>
  );
}
