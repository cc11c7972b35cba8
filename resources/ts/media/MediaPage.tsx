import { Download, LayoutGrid, Rows3, X } from 'lucide-react';
import { useFacets, useSlug, type MediaFilters } from '@/api/hooks';
import { SideChoice, SideGroup, SidePanel } from '@/ui/SidePanel';
import { Standing } from '@/ui/Standing';
import { UseWord, wordsOfUse } from '@/ui/UseBar';
import type { ProofVerdict, StandingWord } from '@/api/types';
import { BECAUSE } from '@/proof/because';
import { Verdict } from '@/proof/Verdict';
import { useChoices } from '@/ui/useChoices';
import { useTitle } from '@/ui/useTitle';
import { WhatIs } from '@/ui/WhatIs';
import { ContactSheet, Ledger } from './Ledger';

const NAMES = [
  'q',
  'standing',
  'proof',
  'because',
  'year',
  'folder',
  'type',
  'use',
  'trouble',
  'copies',
  'large',
  'left',
  'unlisted',
  'mentioned',
  'sort',
] as const;

const PROOFS: Record<ProofVerdict, string> = { safe: 'safe to rest', ask: 'ask first', needed: 'needed' };

/** Marks that are set or not, as they are called while they are. */
const FLAGS: Partial<Record<(typeof NAMES)[number], string>> = {
  trouble: 'with broken references',
  copies: 'copies of others',
  large: 'far too many pixels',
  left: 'left behind by what is gone',
  unlisted: 'in no row of the site’s list',
  mentioned: 'named in a way that is not read',
};

function wordsOf(name: (typeof NAMES)[number], filters: MediaFilters): string {
  const value = filters[name] ?? '';
  if (name === 'q') return `“${value}”`;
  if (name === 'use') return wordsOfUse(value);
  if (name === 'because') return BECAUSE[value] ?? value;
  return name === 'proof' ? PROOFS[value as ProofVerdict] : (FLAGS[name] ?? value);
}

/** What of the marks of the list the map can be narrowed down by as well. */
function taken({ standing, folder }: MediaFilters): URLSearchParams {
  return new URLSearchParams({
    as: 'csv',
    ...(standing && { standing }),
    ...(folder && { path: `${folder}/` }),
  });
}

const FILTER =
  'inline-flex items-center gap-1.5 rounded-full bg-tint px-3 py-0.5 font-semibold text-accent hover:bg-line';

export function MediaPage() {
  const [params, choose] = useChoices();
  const filters: MediaFilters = {};
  for (const name of NAMES) {
    const value = params.get(name);
    if (value) filters[name] = value;
  }
  const slug = useSlug();
  const sheet = params.get('as') === 'sheet';
  useTitle('Media');

  function set(name: string, value: string | null) {
    // Each is a step of the history, so that Back leads to the list as it was.
    choose({ [name]: params.get(name) === value ? null : value });
  }

  const chosen = NAMES.filter((n) => n !== 'sort' && filters[n]);
  return (
    <main id="work" className="flex min-h-0 flex-1 max-md:flex-col">
      <FacetPanel filters={filters} set={set} />
      <div className="flex min-w-0 flex-1 flex-col bg-sheet">
        <div className="flex min-h-12 flex-wrap items-center gap-2 border-b border-line px-4 py-2">
          {chosen.length === 0 && <h1 className="text-lg font-bold">All media</h1>}
          {chosen.length > 0 && <h1 className="sr-only">Media, filtered</h1>}
          <WhatIs about="Media" words={['item', 'file', 'rendition', 'reference', 'reach', 'standing']} />
          {chosen.map((name) => (
            <button
              key={name}
              type="button"
              onClick={() => set(name, null)}
              className={FILTER}
              aria-label={`Drop the filter ${name}`}
            >
              {wordsOf(name, filters)}
              <X size={14} aria-hidden="true" />
            </button>
          ))}
          <div className="ml-auto flex flex-wrap items-center justify-end gap-x-3 gap-y-2">
            <a
              href={`/api/sites/${slug}/map/export?${taken(filters)}`}
              title="A row for each place that refers to these: record, field, how, file, standing, pages"
              className="inline-flex min-h-[24px] items-center gap-1 text-accent underline underline-offset-2"
            >
              <Download size={14} aria-hidden="true" /> Map as CSV
            </a>
            <label className="flex items-center gap-1.5 text-soft">
              Order
              <select
                value={filters.sort ?? 'reach'}
                onChange={(e) => set('sort', e.target.value === 'reach' ? null : e.target.value)}
                className="rounded-md border border-edge bg-sheet px-2 py-1 text-ink"
              >
                <option value="reach">widest reach first</option>
                <option value="uses">most used first</option>
                <option value="broken">most broken first</option>
                <option value="weight">heaviest first</option>
                <option value="name">by path</option>
              </select>
            </label>
            <div className="flex rounded-md border border-line" role="group" aria-label="Density">
              <button
                type="button"
                aria-pressed={!sheet}
                onClick={() => set('as', null)}
                className={`rounded-l-md p-1.5 ${sheet ? 'text-soft' : 'bg-tint text-accent'}`}
                aria-label="Ledger"
              >
                <Rows3 size={18} />
              </button>
              <button
                type="button"
                aria-pressed={sheet}
                onClick={() => !sheet && set('as', 'sheet')}
                className={`rounded-r-md p-1.5 ${sheet ? 'bg-tint text-accent' : 'text-soft'}`}
                aria-label="Contact sheet"
              >
                <LayoutGrid size={18} />
              </button>
            </div>
          </div>
        </div>
        {sheet ? (
          <ContactSheet key={JSON.stringify(filters)} filters={filters} />
        ) : (
          <Ledger key={JSON.stringify(filters)} filters={filters} />
        )}
      </div>
    </main>
  );
}

function FacetPanel({
  filters,
  set,
}: {
  filters: MediaFilters;
  set: (name: string, value: string | null) => void;
}) {
  const facets = useFacets(filters).data;
  const row = (
    name: keyof MediaFilters,
    value: string,
    count: number | undefined,
    label: React.ReactNode,
  ) => (
    <SideChoice key={value} on={filters[name] === value} press={() => set(name, value)} count={count}>
      {label}
    </SideChoice>
  );
  const chosen = NAMES.filter((name) => !['sort', 'q'].includes(name) && filters[name]).length;
  return (
    <SidePanel label="Filters" chosen={chosen}>
      <SideGroup title="Standing">
        {(['live', 'waiting', 'fading', 'idle'] as StandingWord[]).map((word) =>
          row(
            'standing',
            word,
            facets && (facets.standing.find((f) => f.value === word)?.count ?? 0),
            <Standing standing={word} />,
          ),
        )}
      </SideGroup>
      <SideGroup title="Proof">
        {(['safe', 'ask', 'needed'] as ProofVerdict[]).map((word) =>
          row(
            'proof',
            word,
            facets && (facets.proof.find((f) => f.value === word)?.count ?? 0),
            <Verdict verdict={word} />,
          ),
        )}
      </SideGroup>
      <SideGroup title="Trouble">
        {row('trouble', '1', facets?.trouble, 'broken references')}
        {row('copies', '1', facets?.copies, 'copies, byte for byte')}
        {row('large', '1', facets?.large, 'far too many pixels')}
        {row('left', '1', facets?.left, 'left behind')}
        {row('mentioned', '1', facets?.mentioned, 'named, not read')}
        {row('unlisted', '1', facets?.unlisted, 'unlisted')}
      </SideGroup>
      <SideGroup title="Used">
        {facets?.use.map((f) => row('use', f.value, f.count, <UseWord kind={f.value} />))}
      </SideGroup>
      <SideGroup title="Type">{facets?.type.map((f) => row('type', f.value, f.count, f.value))}</SideGroup>
      <SideGroup title="Folder">
        {facets?.folder.map((f) => row('folder', f.value, f.count, <span className="path">{f.value}</span>))}
      </SideGroup>
    </SidePanel>
  );
}
