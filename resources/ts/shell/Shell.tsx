import { NavLink, Outlet } from 'react-router';
import { useSite } from '@/api/hooks';
import { number } from '@/ui/words';
import { FailedPage } from '@/ui/Page';
import { Account } from './Account';
import { FindField } from './FindField';
import { ReadingStatus } from './ReadingStatus';
import { SiteMenu } from './SiteMenu';
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
    <div className="flex min-h-full flex-col md:h-full">
      <a
        href="#work"
        className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:m-2 focus:bg-sheet focus:p-2"
      >
        Skip to the work
      </a>
      <header className="border-b border-line bg-sheet">
        <div className="flex min-h-14 flex-wrap items-center gap-x-5 gap-y-2 px-6 py-2 max-md:gap-x-3 max-sm:px-4 md:flex-nowrap md:py-0">
          <NavLink
            to={`/${site.data?.slug ?? ''}`}
            aria-label="Ylema, to the desk"
            className="max-md:-order-3"
          >
            <Wordmark />
          </NavLink>
          <span aria-hidden="true" className="basis-full max-md:-order-1 md:hidden" />
          <SiteMenu />
          <FindField />
          <ReadingStatus readAt={site.data?.read_at} />
          <Account />
        </div>
        <nav aria-label="Stages" className="flex flex-wrap gap-x-1 px-5 max-sm:px-1.5">
          {STAGES.map(([to, name]) => {
            const count = to === 'desk' ? undefined : site.data?.stages[to];
            return (
              <NavLink
                key={to}
                to={to}
                className={({ isActive }) =>
                  `relative flex items-baseline gap-1.5 rounded-t-md px-3.5 pt-1.5 pb-2 font-semibold max-sm:px-2.5 ${isActive ? 'text-accent after:absolute after:inset-x-2 after:bottom-0 after:h-[3px] after:rounded-t after:bg-accent' : 'text-soft hover:text-ink'}`
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
      {site.isError ? <FailedPage title="This site" error={site.error} again={site.refetch} /> : <Outlet />}
    </div>
  );
}
