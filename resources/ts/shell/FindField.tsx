import { Search } from 'lucide-react';
import { useDeferredValue, useEffect, useId, useRef, useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { useFind, useSlug } from '@/api/hooks';
import { FoundFileLine, FoundItem, FoundRecord } from '@/ui/FoundRows';
import { many } from '@/ui/words';

interface Line {
  key: string;
  to: string;
  inside: ReactNode;
}
interface Group {
  name: string;
  total: number;
  lines: Line[];
}

/**
 * Finds items, files and pages by name, path, address or words. `/` comes here from anywhere; arrows and Enter choose.
 * Only what was found for the text as it stands can be opened; Enter without a choice leads to all that is found.
 */
export function FindField() {
  const slug = useSlug();
  const navigate = useNavigate();
  const id = useId();
  const input = useRef<HTMLInputElement>(null);
  const [q, setQ] = useState('');
  const [open, setOpen] = useState(false);
  const [at, setAt] = useState(-1);
  const text = q.trim();
  const found = useFind(useDeferredValue(text), 4);
  const data = found.data?.q === text ? found.data : undefined;
  const groups: Group[] = data
    ? [
        {
          name: 'Media items',
          total: data.items.total,
          lines: data.items.items.map((item) => ({
            key: `i${item.id}`,
            to: `/${slug}/media/${item.id}`,
            inside: <FoundItem item={item} />,
          })),
        },
        {
          name: 'Pages and other records',
          total: data.records.total,
          lines: data.records.records.map((record) => ({
            key: `r${record.id}`,
            to: `/${slug}/places/${record.id}`,
            inside: <FoundRecord record={record} />,
          })),
        },
        {
          name: 'Renditions',
          total: data.files.total,
          lines: data.files.files.map((file) => ({
            key: `f${file.id}`,
            to: `/${slug}/media/${file.media_item_id ?? ''}`,
            inside: <FoundFileLine file={file} />,
          })),
        },
      ].filter((group) => group.lines.length > 0)
    : [];
  const lines = groups.flatMap((group) => group.lines);
  const shown = open && text !== '';

  useEffect(() => {
    function key(event: KeyboardEvent) {
      const on = event.target as HTMLElement;
      const isTyping = /^(INPUT|TEXTAREA|SELECT)$/.test(on.tagName) || on.isContentEditable;
      if (event.key === '/' && !event.ctrlKey && !event.metaKey && !isTyping) {
        event.preventDefault();
        input.current?.focus();
        input.current?.select();
      }
    }
    window.addEventListener('keydown', key);
    return () => window.removeEventListener('keydown', key);
  }, []);

  function go(to: string) {
    setOpen(false);
    setAt(-1);
    input.current?.blur();
    void navigate(to);
  }

  function onKeyDown(event: React.KeyboardEvent) {
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      setOpen(true);
      setAt((now) => Math.max(-1, Math.min(lines.length - 1, now + (event.key === 'ArrowDown' ? 1 : -1))));
    } else if (event.key === 'Enter' && text !== '') {
      event.preventDefault();
      go(lines[at]?.to ?? `/${slug}/find?${new URLSearchParams({ q: text })}`);
    } else if (event.key === 'Escape') {
      if (shown) setOpen(false);
      else input.current?.blur();
    }
  }

  const total = data ? data.items.total + data.records.total + data.files.total : 0;
  return (
    <div className="relative mx-auto w-full max-w-md min-w-40 max-md:order-last max-md:max-w-none">
      <Search
        size={16}
        aria-hidden="true"
        className="pointer-events-none absolute top-1/2 left-3 -translate-y-1/2 text-soft"
      />
      <input
        ref={input}
        type="search"
        role="combobox"
        aria-label="Find items, files and pages by name, path, address or words"
        aria-expanded={shown && lines.length > 0}
        aria-controls={`${id}-list`}
        aria-autocomplete="list"
        aria-activedescendant={at >= 0 ? `${id}-${at}` : undefined}
        placeholder="Find a picture, page, path or address"
        value={q}
        onChange={(e) => {
          setQ(e.target.value);
          setOpen(true);
          setAt(-1);
        }}
        onFocus={() => setOpen(true)}
        onBlur={() => setOpen(false)}
        onKeyDown={onKeyDown}
        className="w-full rounded-full border border-edge bg-paper py-1.5 pr-9 pl-9 placeholder:text-soft"
      />
      {q === '' && (
        <kbd className="path pointer-events-none absolute top-1/2 right-3 -translate-y-1/2 rounded border border-line bg-sheet px-1.5 text-soft">
          /
        </kbd>
      )}
      <p role="status" className="sr-only">
        {shown && data ? (total === 0 ? 'Nothing found.' : `${many(total, 'result')}.`) : ''}
      </p>
      {shown && (
        // A press must not take the focus, or the list would be gone before the press is over.
        <div
          onMouseDown={(e) => e.preventDefault()}
          className="sheet absolute z-40 mt-1.5 w-full min-w-[30rem] overflow-hidden py-1 shadow-lg max-sm:min-w-0"
        >
          <div id={`${id}-list`} role="listbox" aria-label="Found">
            {groups.map((group) => (
              <div key={group.name} role="group" aria-label={group.name}>
                <p
                  className="flex justify-between px-3 pt-1.5 pb-0.5 text-[0.82rem] font-semibold text-soft"
                  aria-hidden="true"
                >
                  {group.name}
                  <span className="figures font-normal">{group.total}</span>
                </p>
                {group.lines.map((line) => {
                  const i = lines.indexOf(line);
                  return (
                    <div
                      key={line.key}
                      id={`${id}-${i}`}
                      role="option"
                      aria-selected={i === at}
                      onClick={() => go(line.to)}
                      onMouseMove={() => setAt(i)}
                      className={`flex cursor-pointer items-center gap-3 px-3 py-1.5 ${i === at ? 'bg-tint' : ''}`}
                    >
                      {line.inside}
                    </div>
                  );
                })}
              </div>
            ))}
          </div>
          <p className="px-3 py-1.5 text-[0.88rem] text-soft">
            {found.isError
              ? 'The search did not work; try again.'
              : !data
                ? 'Looking…'
                : total === 0
                  ? 'Nothing of that name, path, address or text.'
                  : 'Arrows choose; Enter without a choice shows all.'}
          </p>
        </div>
      )}
    </div>
  );
}
