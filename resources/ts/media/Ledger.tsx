import { useQueries, useQuery } from '@tanstack/react-query';
import {
  type Column,
  createColumnHelper,
  flexRender,
  getCoreRowModel,
  useReactTable,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { LEDGER_PAGE, mediaPageQuery, useSlug, type MediaFilters } from '@/api/hooks';
import type { MediaRow } from '@/api/types';
import { fitFor, Picture } from '@/ui/Picture';
import { Empty, Failed, Loading } from '@/ui/States';
import { Standing, StandingShape } from '@/ui/Standing';
import { UseBar } from '@/ui/UseBar';
import { fileName, folderOf, many, number, weight } from '@/ui/words';

/** Thousands of rows scroll without paging: only the pages of rows that are in view are asked for. */
function useHead(filters: MediaFilters) {
  const head = useQuery(mediaPageQuery(useSlug(), filters, 0));
  return { head, total: head.data?.total ?? 0 };
}

/** Outside of the component and so always the same, or every render would make new rows of the same answers. */
const itemsOf = (pages: { data?: { items: MediaRow[] } | undefined }[]) =>
  pages.map((page) => page.data?.items);

/** The rows from one number to another, those that have come; the same list as long as nothing about it changes. */
function useRows(filters: MediaFilters, first: number, last: number): (MediaRow | undefined)[] {
  const slug = useSlug();
  const from = Math.floor(first / LEDGER_PAGE);
  const to = Math.floor(last / LEDGER_PAGE);
  const pages = useQueries({
    queries: Array.from({ length: to - from + 1 }, (_, i) => mediaPageQuery(slug, filters, from + i)),
    combine: itemsOf,
  });
  return useMemo(
    () =>
      Array.from({ length: last - first + 1 }, (_, i) => {
        const index = first + i;
        return pages[Math.floor(index / LEDGER_PAGE) - from]?.[index % LEDGER_PAGE];
      }),
    [pages, first, last, from],
  );
}

const HEAD =
  'sticky top-0 z-10 flex items-center border-b border-line bg-sheet px-4 py-1.5 text-[0.85rem] text-soft';

/** As wide as its column says; only the name gives way. */
const cellClass = ({ id, columnDef }: Column<MediaRow>) =>
  `${columnDef.meta as string} shrink-0 px-1 ${id === 'path' ? 'shrink' : ''}`;

const column = createColumnHelper<MediaRow>();
const COLUMNS = [
  column.display({
    id: 'picture',
    header: '',
    cell: ({ row }) => (
      <Picture
        fileId={row.original.file_id}
        sha={row.original.sha256}
        mime={row.original.mime}
        alt=""
        fit={fitFor(row.original.width, row.original.height)}
        className="h-11 w-16 rounded"
      />
    ),
    meta: 'w-20',
  }),
  column.accessor('path', {
    header: 'Name and path',
    cell: ({ row: { original: r } }) => (
      <div className="min-w-0">
        <div className="truncate font-semibold">{r.title || fileName(r.path)}</div>
        <div className="path truncate text-soft">
          {folderOf(r.path)}
          <span className="text-ink">{fileName(r.path)}</span>
        </div>
      </div>
    ),
    meta: 'flex-1 min-w-0 max-w-[48rem]',
  }),
  column.accessor('width', {
    header: 'Pixels',
    cell: ({ row: { original: r } }) => (
      <div className="figures">
        <div>
          {r.width ? (
            `${number(r.width)} × ${number(r.height ?? 0)}`
          ) : r.file_id === null ? (
            <span className="text-alert">no file</span>
          ) : (
            <span className="text-soft">no pixels</span>
          )}
        </div>
        <div className="text-[0.85rem] text-soft">
          {r.mime?.replace(/^.*\//, '').replace('svg+xml', 'svg') ?? '—'} · {many(r.file_count, 'file')}
        </div>
      </div>
    ),
    meta: 'w-32 max-md:hidden',
  }),
  column.accessor('weight', {
    header: 'Weight',
    cell: ({ getValue }) => <span className="figures">{weight(getValue())}</span>,
    meta: 'w-18 text-right pr-4 max-md:hidden',
  }),
  column.accessor('uses', {
    header: 'Used',
    cell: ({ row: { original: r } }) => (
      <div>
        <UseBar kinds={r.use_kinds} />
        {r.broken > 0 && (
          <div className="figures mt-0.5 ml-10 text-[0.85rem] font-semibold text-alert">
            {number(r.broken)} broken
          </div>
        )}
      </div>
    ),
    meta: 'w-44 max-md:hidden',
  }),
  column.accessor('reach', {
    header: 'Reach',
    cell: ({ getValue }) => (
      <span className="figures">
        {getValue() > 0 ? many(getValue(), 'page') : <span className="text-soft">no page</span>}
      </span>
    ),
    meta: 'w-20 max-sm:hidden',
  }),
  column.accessor('standing', {
    header: 'Standing',
    cell: ({ getValue }) => <Standing standing={getValue()} />,
    meta: 'w-20',
  }),
];

export function Ledger({ filters }: { filters: MediaFilters }) {
  const slug = useSlug();
  const navigate = useNavigate();
  const box = useRef<HTMLDivElement>(null);
  const { head, total } = useHead(filters);
  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualizer is meant to be read on each render
  const virtual = useVirtualizer({
    count: total,
    getScrollElement: () => box.current,
    estimateSize: () => 60,
    overscan: 8,
  });
  const lines = virtual.getVirtualItems();
  const first = lines[0]?.index ?? 0;
  const last = lines[lines.length - 1]?.index ?? 30;
  const visible = useRows(filters, first, last);
  const data = useMemo(() => visible.filter((r): r is MediaRow => r !== undefined), [visible]);
  const table = useReactTable({
    data,
    columns: COLUMNS,
    getCoreRowModel: getCoreRowModel(),
    getRowId: (r) => String(r.id),
  });

  if (head.isPending)
    return (
      <div className="p-4">
        <Loading rows={9} height={52} />
      </div>
    );
  if (head.isError) return <Failed error={head.error} again={head.refetch} />;
  if (total === 0) return <NothingFound />;

  return (
    <div
      ref={box}
      className="min-h-0 flex-1 overflow-y-auto max-md:h-[75dvh] max-md:flex-none"
      role="table"
      aria-label="Media"
      aria-rowcount={total}
    >
      <div role="row" className={HEAD}>
        {table.getHeaderGroups()[0]?.headers.map((h) => (
          <div key={h.id} role="columnheader" className={`${cellClass(h.column)} font-semibold`}>
            {h.id === 'path' ? many(total, 'item') : flexRender(h.column.columnDef.header, h.getContext())}
          </div>
        ))}
      </div>
      <div style={{ height: virtual.getTotalSize(), position: 'relative' }}>
        {lines.map((line) => {
          const item = visible[line.index - first];
          const cells = item ? table.getRow(String(item.id)).getVisibleCells() : null;
          return (
            <div
              key={line.key}
              role="row"
              aria-rowindex={line.index + 1}
              onClick={() => item && void navigate(`/${slug}/media/${item.id}`)}
              className="absolute inset-x-0 flex cursor-pointer items-center border-b border-line px-4 hover:bg-tint"
              style={{ height: line.size, transform: `translateY(${line.start}px)` }}
            >
              {cells && item ? (
                cells.map((cell) => (
                  <div key={cell.id} role="cell" className={cellClass(cell.column)}>
                    {cell.column.id === 'path' ? (
                      <Link
                        to={`/${slug}/media/${item.id}`}
                        onClick={(e) => e.stopPropagation()}
                        className="block min-w-0"
                      >
                        {flexRender(cell.column.columnDef.cell, cell.getContext())}
                      </Link>
                    ) : (
                      flexRender(cell.column.columnDef.cell, cell.getContext())
                    )}
                  </div>
                ))
              ) : (
                <div role="cell" className="waiting-block h-9 flex-1 rounded bg-line/60" />
              )}
            </div>
          );
        })}
      </div>
    </div>
  );
}

function NothingFound() {
  return <Empty title="Nothing fits">No item has all of the chosen marks. Drop one of them above.</Empty>;
}

const TILE = 172;

export function ContactSheet({ filters }: { filters: MediaFilters }) {
  const slug = useSlug();
  const box = useRef<HTMLDivElement>(null);
  const [columns, setColumns] = useState(5);
  const { head, total } = useHead(filters);
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const watch = new ResizeObserver(
      ([entry]) => entry && setColumns(Math.max(2, Math.floor((entry.contentRect.width - 20) / TILE))),
    );
    watch.observe(element);
    return () => watch.disconnect();
  }, [head.isPending, total]);
  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualizer is meant to be read on each render
  const virtual = useVirtualizer({
    count: Math.ceil(total / columns),
    getScrollElement: () => box.current,
    estimateSize: () => 168,
    overscan: 3,
  });
  const lines = virtual.getVirtualItems();
  const first = (lines[0]?.index ?? 0) * columns;
  const last = Math.max(0, Math.min(total - 1, ((lines[lines.length - 1]?.index ?? 6) + 1) * columns));
  const visible = useRows(filters, first, last);

  if (head.isPending)
    return (
      <div className="p-4">
        <Loading rows={5} height={150} />
      </div>
    );
  if (head.isError) return <Failed error={head.error} again={head.refetch} />;
  if (total === 0) return <NothingFound />;
  return (
    <div ref={box} className="min-h-0 flex-1 overflow-y-auto px-4 py-3 max-md:h-[75dvh] max-md:flex-none">
      <p role="status" className="figures mb-2 text-[0.85rem] text-soft">
        {many(total, 'item')}
      </p>
      <ul style={{ height: virtual.getTotalSize(), position: 'relative' }}>
        {lines.map((line) => (
          <li
            key={line.key}
            className="absolute inset-x-0 grid gap-3"
            style={{
              transform: `translateY(${line.start}px)`,
              gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`,
              height: line.size - 10,
            }}
          >
            {Array.from({ length: Math.min(columns, total - line.index * columns) }, (_, i) => {
              const item = visible[line.index * columns + i - first];
              return item ? (
                <Link
                  key={item.id}
                  to={`/${slug}/media/${item.id}`}
                  className="sheet flex min-w-0 flex-col overflow-hidden hover:border-accent"
                >
                  <Picture
                    fileId={item.file_id}
                    sha={item.sha256}
                    mime={item.mime}
                    alt={item.alt}
                    width={480}
                    fit={fitFor(item.width, item.height)}
                    className="min-h-0 flex-1"
                  />
                  <span className="flex items-center gap-1.5 px-2 py-1">
                    <StandingShape standing={item.standing} />
                    <span className="min-w-0 flex-1 truncate text-[0.88rem]">
                      {item.title || fileName(item.path)}
                    </span>
                    <span className="figures text-[0.85rem] text-soft">{number(item.uses)}</span>
                  </span>
                </Link>
              ) : (
                <div key={`waits-${i}`} className="waiting-block rounded-lg bg-line/60" />
              );
            })}
          </li>
        ))}
      </ul>
    </div>
  );
}
