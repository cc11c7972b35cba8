import type { ReactNode } from 'react';
import { NavLink } from 'react-router';
import { useMay, useSlug } from '@/api/hooks';
import { Page } from '@/ui/Page';

/** The pages about the field map, beside each other. */
export function MapFrame({ aside, children }: { aside?: ReactNode; children: ReactNode }) {
  const slug = useSlug();
  const { own } = useMay();
  const pages = [
    ['map', 'The map'],
    ...(own ? [['map/coverage', 'What it leaves out']] : []),
    ['map/unread', 'What could not be read'],
    ['map/versions', 'Versions'],
  ] as const;
  return (
    <Page title="Field map" aside={aside} wide>
      <div className="flex h-full min-h-0 flex-col">
        <nav aria-label="Field map" className="mb-4 flex flex-wrap gap-1 border-b border-line">
          {pages.map(([to, words]) => (
            <NavLink
              key={to}
              to={`/${slug}/${to}`}
              end
              className={({ isActive }) =>
                `-mb-px border-b-2 px-3 py-1.5 font-semibold ${
                  isActive ? 'border-accent text-accent' : 'border-transparent text-soft hover:text-ink'
                }`
              }
            >
              {words}
            </NavLink>
          ))}
        </nav>
        <div className="min-h-0 flex-1">{children}</div>
      </div>
    </Page>
  );
}
