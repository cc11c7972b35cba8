import { useDeferredValue, useState } from 'react';
import { useRecords } from '@/api/hooks';
import { FoundRecord } from '@/ui/FoundRows';

const MOST = 8;

/** Chooses a page of the site by words of its title or address. */
export function PagePicker({ start, onChoose }: { start: string; onChoose: (address: string) => void }) {
  const [q, setQ] = useState(start);
  const found = useRecords({ q: useDeferredValue(q.trim()), state: 'live' });
  const pages = (found.data?.pages.flatMap((page) => page.records) ?? [])
    .filter((record) => record.is_page && record.address !== null)
    .slice(0, MOST);
  return (
    <div className="mt-2">
      <input
        autoFocus
        type="search"
        aria-label="Choose a page of the site"
        placeholder="words of its title or address"
        value={q}
        onChange={(event) => setQ(event.target.value)}
        className="w-full rounded-md border border-edge bg-paper px-2 py-1.5"
      />
      <ul className="mt-1.5 divide-y divide-line rounded-md border border-line" aria-label="Pages found">
        {pages.map((page) => (
          <li key={page.id}>
            <button
              type="button"
              onClick={() => onChoose((page.address ?? '').replace(/^\/|\/$/g, ''))}
              className="flex min-h-[32px] w-full items-center gap-2 px-2 py-1 text-left hover:bg-tint"
            >
              <FoundRecord record={page} />
            </button>
          </li>
        ))}
        {pages.length === 0 && (
          <li className="px-2 py-1.5 text-soft" role="status">
            {found.isPending ? 'Looking…' : 'No page with these words.'}
          </li>
        )}
      </ul>
    </div>
  );
}
