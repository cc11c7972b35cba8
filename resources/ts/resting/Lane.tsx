import type { ReactNode } from 'react';
import { number, weight } from '@/ui/words';

/** One lane: what it holds in figures, what can be done with all of it, and its files. */
export function Lane({
  title,
  count,
  noun,
  bytes,
  more,
  action,
  children,
}: {
  title: string;
  count: number;
  noun: string;
  bytes: number;
  more: ReactNode;
  action?: ReactNode;
  children: ReactNode;
}) {
  return (
    <section className="sheet flex min-w-0 flex-col" aria-label={title}>
      <header className="border-b border-line px-4 pt-3 pb-3">
        <h2 className="font-semibold text-soft">{title}</h2>
        <p className="figures flex items-baseline gap-2">
          <b className="text-[1.9rem] leading-tight">{number(count)}</b>
          <span>{noun}</span>
          <span className="ml-auto font-semibold">{weight(bytes)}</span>
        </p>
        <div className="figures min-h-[1.5em] text-[0.93rem] text-soft">{more}</div>
        {action && <div className="mt-2 flex min-h-[34px] flex-wrap items-center gap-2">{action}</div>}
      </header>
      <div className="max-h-[27rem] min-h-40 overflow-y-auto">{children}</div>
    </section>
  );
}
