import { Link, Outlet } from 'react-router';
import { Account } from '@/shell/Account';
import { Wordmark } from '@/shell/Wordmark';

/** What stands above no site in particular: the wordmark and the account. */
export function SitesFrame() {
  return (
    <div className="flex min-h-full flex-col md:h-full">
      <header className="flex min-h-14 items-center gap-5 border-b border-line bg-sheet px-6 max-sm:px-4">
        <Link to="/sites" aria-label="Ylema, all sites">
          <Wordmark />
        </Link>
        <span className="flex-1" />
        <Account />
      </header>
      <Outlet />
    </div>
  );
}
