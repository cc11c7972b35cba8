import { Search } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { useRecordFacets, useRecords, useSlug, type RecordFilters } from '@/api/hooks';
import type { Records, StandingWord } from '@/api/types';
import { Button } from '@/ui/Button';
import { fitFor, Picture } from '@/ui/Picture';
import { PublicLink } from '@/ui/PublicLink';
import { SideChoice, SideGroup, SidePanel } from '@/ui/SidePanel';
import { Empty, Failed, Loading } from '@/ui/States';
import { Standing, StandingShape } from '@/ui/Standing';
import { useChoices } from '@/ui/useChoices';
import { useTitle } from '@/ui/useTitle';
import { WhatIs } from '@/ui/WhatIs';
import { kindWord, many, number } from '@/ui/words';

const NAMES = ['q', 'kind', 'state', 'cause', 'trouble', 'unread'] as const;
const STATES: StandingWord[] = ['live', 'waiting', 'fading'];
const ROW =
  'flex items-center gap-4 border-b border-line px-4 py-2 hover:bg-tint/50 max-sm:flex-wrap max-sm:gap-y-1.5';

/** Everything of the site that holds media: pages first, each with a strip of what it shows. */
export function PlacesPage() {
  const [params, choose] = useChoices();
  const filters: RecordFilters = {};
  for (const name of NAMES) {
    const value = params.get(name);
    if (value) filters[name] = value;
  }
  useTitle(filters.kind ? kindWord(filters.kind, 2) : 'Places');

  function set(name: string, value: string | null) {
    choose({ [name]: !value || params.get(name) === value ? null : value });
  }

  return (
    <main id="work" className="flex min-h-0 flex-1 max-md:flex-col">
      <Marks filters={filters} set={set} />
      <div className="flex min-w-0 flex-1 flex-col bg-sheet">
        <Filters key={filters.q ?? ''} filters={filters} set={set} />
        <RecordList key={JSON.stringify(filters)} filters={filters} />
      </div>
    </main>
  );
}

type Set = (name: string, value: string | null) => void;

function Marks({ filters, set }: { filters: RecordFilters; set: Set }) {
  const facets = useRecordFacets(filters).data;
  const chosen = NAMES.filter((name) => name !== 'q' && filters[name]).length;
  return (
    <SidePanel label="Filters" chosen={chosen}>
      <SideGroup title="Kind">
        {!facets && <Loading rows={6} height={22} />}
        {facets?.kind.map(({ value, count }) => (
          <SideChoice key={value} on={filters.kind === value} press={() => set('kind', value)} count={count}>
            <span className="inline-block first-letter:uppercase">{kindWord(value, 2)}</span>
          </SideChoice>
        ))}
      </SideGroup>
      <SideGroup title="State">
        {STATES.map((state) => (
          <SideChoice
            key={state}
            on={filters.state === state}
            press={() => set('state', state)}
            count={facets && (facets.state.find((f) => f.value === state)?.count ?? 0)}
          >
            <Standing standing={state} />
          </SideChoice>
        ))}
      </SideGroup>
      <SideGroup title="Trouble">
        <SideChoice on={filters.trouble === '1'} press={() => set('trouble', '1')} count={facets?.trouble}>
          broken references
        </SideChoice>
        <SideChoice on={filters.unread === '1'} press={() => set('unread', '1')} count={facets?.unread}>
          not fully read
        </SideChoice>
      </SideGroup>
    </SidePanel>
  );
}

function Filters({ filters, set }: { filters: RecordFilters; set: Set }) {
  const [q, setQ] = useState(filters.q ?? '');
  return (
    <form
      role="search"
      onSubmit={(e) => {
        e.preventDefault();
        if (q.trim() !== (filters.q ?? '')) set('q', q.trim());
      }}
      className="flex min-h-12 flex-wrap items-center gap-x-3 gap-y-1.5 border-b border-line px-4 py-2"
    >
      <h1 className="text-lg font-bold first-letter:uppercase">
        {filters.kind ? kindWord(filters.kind, 2) : 'Places'}
      </h1>
      <WhatIs about="Places" words={['record', 'placement', 'carrier', 'finding']} />
      {filters.cause && (
        <span className="rounded-full bg-tint px-3 py-0.5 font-semibold text-accent">
          with the finding “{filters.cause.replaceAll('-', ' ')}”
        </span>
      )}
      <label className="relative ml-auto w-72 max-w-full max-sm:w-full">
        <span className="sr-only">Title or address</span>
        <Search
          size={15}
          aria-hidden="true"
          className="absolute top-1/2 left-2.5 -translate-y-1/2 text-soft"
        />
        <input
          type="search"
          value={q}
          onChange={(e) => setQ(e.target.value)}
          placeholder="Title or address, then Enter"
          className="w-full rounded-md border border-edge bg-paper py-1 pr-2 pl-8"
        />
      </label>
      {Object.keys(filters).length > 0 && (
        <Link to="?" className="font-semibold text-accent hover:underline">
          Drop all filters
        </Link>
      )}
    </form>
  );
}

function RecordList({ filters }: { filters: RecordFilters }) {
  const pages = useRecords(filters);
  if (pages.isPending)
    return (
      <div className="p-4">
        <Loading rows={9} height={52} />
      </div>
    );
  if (pages.isError) return <Failed error={pages.error} again={pages.refetch} />;
  const total = pages.data.pages[0]?.total ?? 0;
  const records = pages.data.pages.flatMap((page) => page.records);
  if (total === 0)
    return <Empty title="Nothing fits">No record has all of the chosen marks. Drop one of them.</Empty>;
  return (
    <div className="min-h-0 flex-1 overflow-y-auto">
      <p role="status" className="figures px-4 pt-2 text-[0.88rem] text-soft">
        {many(total, 'record')}
      </p>
      <ul>
        {records.map((record) => (
          <RecordRow key={record.id} record={record} />
        ))}
      </ul>
      {pages.hasNextPage && (
        <p className="px-4 py-3">
          <Button disabled={pages.isFetchingNextPage} onClick={() => void pages.fetchNextPage()}>
            {pages.isFetchingNextPage
              ? 'Fetching…'
              : `Show more (${number(records.length)} of ${number(total)})`}
          </Button>
        </p>
      )}
    </div>
  );
}

function RecordRow({ record }: { record: Records['records'][number] }) {
  const slug = useSlug();
  return (
    <li className={ROW}>
      <StandingShape standing={record.state} />
      <div className="min-w-0 flex-1 max-sm:basis-[80%]">
        <Link
          to={`/${slug}/places/${record.id}`}
          className="block min-h-[24px] truncate font-semibold hover:text-accent hover:underline"
        >
          {record.title}
        </Link>
        <div className="flex min-w-0 items-center gap-2 text-[0.9rem] text-soft">
          <span className="shrink-0">{kindWord(record.kind)}</span>
          {record.is_page && record.address !== null && <PublicLink address={record.address} />}
          {record.findings > 0 && (
            <span className="figures shrink-0 font-semibold text-alert">
              {many(record.findings, 'finding')}
            </span>
          )}
          {record.problems > 0 && (
            <span className="figures shrink-0 font-semibold text-waiting">
              {many(record.problems, 'field')} not read
            </span>
          )}
        </div>
      </div>
      <ul
        className="flex shrink-0 flex-wrap items-center gap-1 max-sm:ml-7 max-sm:shrink"
        aria-label={`Shows ${many(record.media, 'item')}`}
      >
        {record.strip.map((item) => (
          <li key={item.id}>
            <Link to={`/${slug}/media/${item.id}`} title={item.title || item.path} className="block">
              <Picture
                fileId={item.file_id}
                sha={item.sha256}
                mime={item.mime}
                alt={item.title || item.path}
                className="h-9 w-12 rounded border border-line"
                fit={fitFor(item.width, item.height)}
              />
            </Link>
          </li>
        ))}
        {record.media > record.strip.length && (
          <li className="figures w-9 text-[0.85rem] text-soft">
            +{number(record.media - record.strip.length)}
          </li>
        )}
        {record.media === 0 && <li className="text-[0.88rem] text-soft">no media</li>}
      </ul>
    </li>
  );
}
