import { ChevronRight } from 'lucide-react';
import type { ReactNode } from 'react';
import { useWide } from './useWide';
import { number } from './words';

/** Filters at the side of a list; on a narrow screen folded up above it, with how many are chosen. */
export function SidePanel({
  label,
  chosen,
  children,
}: {
  label: string;
  chosen: number;
  children: ReactNode;
}) {
  const wide = useWide();
  if (wide)
    return (
      <aside
        aria-label={label}
        className="w-56 shrink-0 overflow-y-auto border-r border-line bg-paper px-4 py-3"
      >
        {children}
      </aside>
    );
  return (
    <aside aria-label={label} className="border-b border-line bg-paper">
      <details className="group">
        <summary className="flex min-h-11 cursor-pointer list-none items-center gap-2 px-4 font-semibold">
          <ChevronRight size={16} aria-hidden="true" className="transition-transform group-open:rotate-90" />
          {label}
          {chosen > 0 && <span className="figures font-normal text-accent">{chosen} chosen</span>}
        </summary>
        <div className="px-4 pb-3">{children}</div>
      </details>
    </aside>
  );
}

export function SideChoice({
  on,
  press,
  count,
  children,
}: {
  on: boolean;
  press: () => void;
  count?: number | undefined;
  children: ReactNode;
}) {
  return (
    <li>
      <button
        type="button"
        aria-pressed={on}
        onClick={press}
        className={`flex min-h-[24px] w-full items-center justify-between gap-2 rounded px-2 py-0.5 text-left ${on ? 'bg-tint font-semibold text-accent' : 'hover:bg-tint/70'}`}
      >
        <span className="min-w-0 truncate">{children}</span>
        {count !== undefined && <span className="figures text-[0.85rem] text-soft">{number(count)}</span>}
      </button>
    </li>
  );
}

export function SideGroup({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="mb-4 last:mb-0" aria-label={title}>
      <h2 className="mb-1 px-2 text-[0.85rem] font-semibold text-soft">{title}</h2>
      <ul>{children}</ul>
    </section>
  );
}
