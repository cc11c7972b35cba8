import { Search } from 'lucide-react';
import { useDeferredValue, useId, useState } from 'react';
import { useMediaList } from '@/api/hooks';
import type { MediaItem, MediaRow } from '@/api/types';
import { Picture } from './Picture';
import { fileName, number, pixels } from './words';

const COLUMNS = 3;

/**
 * Chooses another item of the site from a small contact sheet: at first items of like shape, then what is typed for.
 * From the field, arrows move over the sheet and Enter chooses.
 */
export function Picker({
  item,
  chosen,
  onChoose,
  start = '',
  columns = COLUMNS,
}: {
  /** The one that is given up, which is no choice; null where nothing is there to be like. */
  item: MediaItem | null;
  chosen: number | null;
  onChoose: (row: MediaRow) => void;
  /** What is looked for at first. */
  start?: string;
  columns?: number;
}) {
  const id = useId();
  const [q, setQ] = useState(start);
  const [at, setAt] = useState(-1);
  const text = useDeferredValue(q.trim());
  const found = useMediaList(text === '' && item ? { like: String(item.id) } : { q: text }, 24);
  const isFresh = text === q.trim() && !found.isPlaceholderData;
  const rows = (found.data?.items ?? []).filter((row) => row.id !== item?.id);

  function onKeyDown(event: React.KeyboardEvent) {
    const step = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: at < 0 ? 1 : columns, ArrowUp: -columns }[
      event.key
    ];
    // Within the words, left and right belong to the words.
    const inWords = at < 0 && (event.key === 'ArrowRight' || event.key === 'ArrowLeft');
    if (step !== undefined && !inWords) {
      event.preventDefault();
      setAt((now) => Math.max(-1, Math.min(rows.length - 1, now + step)));
    } else if (event.key === 'Enter') {
      event.preventDefault();
      const row = isFresh ? rows[at < 0 ? (rows.length === 1 ? 0 : -1) : at] : undefined;
      if (row) onChoose(row);
    }
  }

  return (
    <div className="mt-4">
      <div className="relative">
        <Search
          size={15}
          aria-hidden="true"
          className="pointer-events-none absolute top-1/2 left-2.5 -translate-y-1/2 text-soft"
        />
        <input
          type="search"
          role="combobox"
          aria-label="Choose another item of the site"
          aria-expanded={rows.length > 0}
          aria-controls={`${id}-sheet`}
          aria-activedescendant={at >= 0 ? `${id}-${at}` : undefined}
          placeholder="or choose another item"
          value={q}
          onChange={(e) => {
            setQ(e.target.value);
            setAt(-1);
          }}
          onKeyDown={onKeyDown}
          className="w-full rounded-md border border-edge bg-paper py-1.5 pr-2 pl-8"
        />
      </div>
      <p className="mt-1.5 text-[0.88rem] text-soft" role="status">
        {!isFresh || found.isPending
          ? 'Looking…'
          : rows.length === 0
            ? text === ''
              ? 'No other item has this shape; type a name.'
              : 'Nothing of that name.'
            : text === '' && item
              ? 'Of the same shape:'
              : `${number(found.data?.total ?? 0)} found:`}
      </p>
      <div
        id={`${id}-sheet`}
        role="listbox"
        aria-label="Items found"
        className={`mt-1.5 grid gap-2 ${isFresh ? '' : 'opacity-50'}`}
        style={{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}
      >
        {rows.map((row, i) => (
          <Tile
            key={row.id}
            id={`${id}-${i}`}
            row={row}
            on={row.id === chosen}
            active={i === at}
            choose={() => onChoose(row)}
          />
        ))}
      </div>
    </div>
  );
}

function Tile({
  id,
  row,
  on,
  active,
  choose,
}: {
  id: string;
  row: MediaRow;
  on: boolean;
  active: boolean;
  choose: () => void;
}) {
  return (
    <div
      id={id}
      role="option"
      aria-selected={on}
      onClick={choose}
      title={`${row.path}\n${pixels(row.width, row.height) ?? ''}`}
      className={`cursor-pointer overflow-hidden rounded-md border ${on ? 'border-accent bg-tint' : 'border-line bg-sheet hover:border-accent'} ${active ? 'outline-2 outline-accent' : ''}`}
    >
      <Picture
        fileId={row.file_id}
        sha={row.sha256}
        mime={row.mime}
        alt=""
        className="h-16 w-full"
        fit="contain"
      />
      <span className="block truncate px-1.5 py-0.5 text-[0.85rem]">{row.title || fileName(row.path)}</span>
    </div>
  );
}
