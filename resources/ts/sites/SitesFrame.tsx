import { Link, NavLink, Outlet } from 'react-router';
import { useMay } from '@/api/hooks';
import { Account } from '@/shell/Account';
import { Wordmark } from '@/shell/Wordmark';

/** What stands above no site in particular: the wordmark, what the installation has, and the account. */
export function SitesFrame() {
  const { own } = useMay();
  const entry = ({ isActive }: { isActive: boolean }) =>
    `rounded-md px-3 py-1.5 font-semibold ${isActive ? 'bg-tint text-accent' : 'text-soft hover:text-ink'}`;
  return (
    <div className="flex min-h-full flex-col md:h-full">
      <header className="flex min-h-14 items-center gap-5 border-b border-line bg-sheet px-6 max-sm:px-4">
        <Link to="/sites" aria-label="Ylema, all sites">
          <Wordmark />
        </Link>
        <nav aria-label="Installation" className="flex flex-1 gap-1">
          <NavLink to="/sites" end className={entry}>
            Sites
          </NavLink>
          {own && (
            <NavLink to="/sites/people" className={entry}>
              People
            </NavLink>
          )}
        </nav>
        <Account />
      </header>
      <Outlet />
    </div>
  );
}
