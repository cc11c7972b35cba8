import { Search } from 'lucide-react';
import { useDeferredValue, useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { useFind, useSlug } from '@/api/hooks';
import { Picture } from '@/ui/Picture';
import { StandingShape } from '@/ui/Standing';
import { many } from '@/ui/words';

/** Finds a picture by name, path, address or words. `/` comes here from anywhere; arrows and Enter choose. */
export function FindField() {
  const slug = useSlug();
  const navigate = useNavigate();
  const input = useRef<HTMLInputElement>(null);
  const [q, setQ] = useState('');
  const [open, setOpen] = useState(false);
  const [at, setAt] = useState(-1);
  const found = useFind(useDeferredValue(q));
  const items = q.trim() === '' ? [] : (found.data?.items ?? []);

  useEffect(() => {
    function key(event: KeyboardEvent) {
      const on = event.target as HTMLElement;
      if (
        event.key === '/' &&
        !event.ctrlKey &&
        !event.metaKey &&
        !/^(INPUT|TEXTAREA|SELECT)$/.test(on.tagName) &&
        !on.isContentEditable
      ) {
        event.preventDefault();
        input.current?.focus();
        input.current?.select();
      }
    }
    window.addEventListener('keydown', key);
    return () => window.removeEventListener('keydown', key);
  }, []);

  function go(index: number) {
    const item = items[index];
    setOpen(false);
    input.current?.blur();
    if (item) void navigate(`/${slug}/media/${item.id}`);
    else void navigate(`/${slug}/media?${new URLSearchParams({ q })}`);
  }

  return (
    <div className="relative mx-auto w-full max-w-md min-w-40">
      <Search
        size={16}
        aria-hidden="true"
        className="pointer-events-none absolute top-1/2 left-3 -translate-y-1/2 text-soft"
      />
      <input
        ref={input}
        type="search"
        role="combobox"
        aria-label="Find a picture by name, path, address or words"
        aria-expanded={open && items.length > 0}
        aria-controls="found"
        aria-activedescendant={at >= 0 ? `found-${at}` : undefined}
        placeholder="Find a picture, path or address"
        value={q}
        onChange={(e) => {
          setQ(e.target.value);
          setOpen(true);
          setAt(-1);
        }}
        onFocus={() => setOpen(true)}
        onBlur={() => window.setTimeout(() => setOpen(false), 150)}
        onKeyDown={(e) => {
          if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
            e.preventDefault();
            setAt((now) => Math.max(-1, Math.min(items.length - 1, now + (e.key === 'ArrowDown' ? 1 : -1))));
          } else if (e.key === 'Enter') go(at);
          else if (e.key === 'Escape') {
            setOpen(false);
            input.current?.blur();
          }
        }}
        className="w-full rounded-full border border-line bg-paper py-1.5 pr-9 pl-9 placeholder:text-soft"
      />
      {q === '' && (
        <kbd className="path pointer-events-none absolute top-1/2 right-3 -translate-y-1/2 rounded border border-line bg-sheet px-1.5 text-soft">
          /
        </kbd>
      )}
      {open && q.trim() !== '' && (
        <ul
          id="found"
          role="listbox"
          aria-label="Found"
          className="sheet absolute z-40 mt-1.5 w-full min-w-96 overflow-hidden py-1 shadow-lg"
        >
          {items.map((item, i) => (
            <li key={item.id} id={`found-${i}`} role="option" aria-selected={i === at}>
              <button
                type="button"
                tabIndex={-1}
                onMouseDown={() => go(i)}
                onMouseEnter={() => setAt(i)}
                className={`flex w-full items-center gap-3 px-3 py-1.5 text-left ${i === at ? 'bg-tint' : ''}`}
              >
                <Picture
                  fileId={item.file_id}
                  sha={item.sha256}
                  mime={item.mime}
                  alt=""
                  className="h-9 w-12 rounded"
                  fit="cover"
                />
                <span className="min-w-0 flex-1">
                  <span className="block truncate font-semibold">{item.title || item.path}</span>
                  <span className="path block truncate text-soft">{item.path}</span>
                </span>
                <StandingShape standing={item.standing} />
                <span className="figures w-16 text-right text-[0.85rem] text-soft">
                  {many(item.uses, 'use')}
                </span>
              </button>
            </li>
          ))}
          <li className="px-3 py-1.5 text-[0.88rem] text-soft" role="presentation">
            {found.data
              ? found.data.total === 0
                ? 'Nothing of that name, path or text.'
                : `${many(found.data.total, 'item')}; Enter shows all`
              : 'Looking…'}
          </li>
        </ul>
      )}
    </div>
  );
}
