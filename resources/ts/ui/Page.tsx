import type { ReactNode } from 'react';
import { useTitle } from './useTitle';

/** The frame of a stage: a title line that stays, and below it what scrolls. */
export function Page({
  title,
  aside,
  children,
  wide = false,
}: {
  title: ReactNode;
  aside?: ReactNode;
  children: ReactNode;
  wide?: boolean;
}) {
  useTitle(typeof title === 'string' ? title : null);
  return (
    <main className="flex min-h-0 flex-1 flex-col" id="work">
      <div className="flex min-h-14 items-center gap-4 px-6 pt-4 pb-3">
        <h1 className="text-[1.45rem] leading-tight font-bold tracking-tight">{title}</h1>
        <div className="ml-auto flex items-center gap-2">{aside}</div>
      </div>
      <div className={`min-h-0 flex-1 overflow-y-auto px-6 pb-8 ${wide ? '' : 'max-w-[1500px]'}`}>
        {children}
      </div>
    </main>
  );
}
