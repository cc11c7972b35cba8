import { NavLink, Outlet } from 'react-router';
import { useSite } from '@/api/hooks';
import { number } from '@/ui/words';
import { Failed } from '@/ui/States';
import { Account } from './Account';
import { FindField } from './FindField';
import { ReadingStatus } from './ReadingStatus';
import { Wordmark } from './Wordmark';

const STAGES = [
  ['desk', 'Desk'],
  ['media', 'Media'],
  ['places', 'Places'],
  ['repairs', 'Repairs'],
  ['resting', 'Resting'],
  ['changes', 'Changes'],
] as const;

export function Shell() {
  const site = useSite();
  return (
    <div className="flex h-full flex-col">
      <a
        href="#work"
        className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:m-2 focus:bg-sheet focus:p-2"
      >
        Skip to the work
      </a>
      <header className="border-b border-line bg-sheet">
        <div className="flex h-14 items-center gap-5 px-6">
          <NavLink to={`/${site.data?.slug ?? ''}`} aria-label="Ylema, to the desk">
            <Wordmark />
          </NavLink>
          <div className="min-w-0 border-l border-line pl-5 leading-tight">
            <div className="truncate font-semibold">{site.data?.name ?? ' '}</div>
            <div className="path truncate text-soft">
              {site.data?.address.replace(/^https?:\/\/|\/$/g, '') ?? ' '}
            </div>
          </div>
          <FindField />
          <ReadingStatus readAt={site.data?.read_at ?? null} />
          <Account />
        </div>
        <nav aria-label="Stages" className="flex gap-1 px-5">
          {STAGES.map(([to, name]) => {
            const count = to === 'desk' ? undefined : site.data?.stages[to];
            return (
              <NavLink
                key={to}
                to={to}
                className={({ isActive }) =>
                  `relative flex items-baseline gap-1.5 rounded-t-md px-3.5 pt-1.5 pb-2 font-semibold ${isActive ? 'text-accent after:absolute after:inset-x-2 after:bottom-0 after:h-[3px] after:rounded-t after:bg-accent' : 'text-soft hover:text-ink'}`
                }
              >
                {name}
                {count !== undefined && (
                  <span className="figures text-[0.82rem] font-normal text-soft">{number(count)}</span>
                )}
              </NavLink>
            );
          })}
        </nav>
      </header>
      {site.isError ? <Failed error={site.error} again={site.refetch} /> : <Outlet />}
    </div>
  );
}
