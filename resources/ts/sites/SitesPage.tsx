import { Plus } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useMay, useSites } from '@/api/hooks';
import { ButtonLink } from '@/ui/Button';
import { FailedPage, Page } from '@/ui/Page';
import { Empty, Loading } from '@/ui/States';
import { ago } from '@/ui/words';
import { useDrafts } from './useDrafts';

const DRAFT_WORDS = {
  new: 'connection said',
  proposing: 'its map is being worked out',
  proposed: 'map proposed, to be looked at',
  failed: 'the map could not be worked out',
};

/** All sites that this installation looks after, and those that are being connected. */
export function SitesPage() {
  const sites = useSites();
  const drafts = useDrafts().data?.drafts ?? [];
  const { own } = useMay();
  if (sites.isError) return <FailedPage title="Sites" error={sites.error} again={sites.refetch} />;
  const connect = own && (
    <ButtonLink tone="main" to="/sites/connect">
      <Plus size={16} aria-hidden="true" /> Connect a site
    </ButtonLink>
  );
  return (
    <Page title="Sites" aside={connect}>
      {sites.isPending ? (
        <Loading rows={3} height={64} />
      ) : sites.data.sites.length === 0 ? (
        <Empty title="No site is connected yet" action={connect}>
          {own
            ? 'It takes a database password and a folder; Ylema proposes the rest.'
            : 'An owner connects the first one.'}
        </Empty>
      ) : (
        <ul className="sheet max-w-5xl divide-y divide-line">
          {sites.data.sites.map((site) => (
            <Entry
              key={site.slug}
              to={`/${site.slug}/desk`}
              columns="grid-cols-[minmax(0,1fr)_12rem_11rem]"
              name={site.name}
              address={site.address}
            >
              <span className="text-soft">
                {site.read_at === null ? 'never read' : `read ${ago(site.read_at)}`}
              </span>
              <span className="text-soft">{site.writes ? 'read and written' : 'only read'}</span>
            </Entry>
          ))}
        </ul>
      )}
      {drafts.length > 0 && (
        <section aria-label="Being connected" className="mt-6 max-w-5xl">
          <h2 className="mb-2 text-[1.05rem] font-semibold">Being connected</h2>
          <ul className="sheet divide-y divide-line">
            {drafts.map((draft) => (
              <Entry
                key={draft.id}
                to={`/sites/connect/${draft.id}`}
                columns="grid-cols-[minmax(0,1fr)_23rem]"
                name={draft.name}
                address={draft.address}
              >
                <span className="text-soft">
                  {DRAFT_WORDS[draft.state]}
                  {draft.at === null ? '' : `, ${ago(draft.at)}`}
                </span>
              </Entry>
            ))}
          </ul>
        </section>
      )}
    </Page>
  );
}

interface EntryProps {
  to: string;
  /** Widths of the name and of what is said beside it, as a class of the grid. */
  columns: string;
  name: string;
  address: string;
  children: ReactNode;
}

function Entry({ to, columns, name, address, children }: EntryProps) {
  return (
    <li>
      <Link
        to={to}
        className={`grid ${columns} items-center gap-4 px-4 py-3 hover:bg-tint max-md:grid-cols-1 max-md:gap-1`}
      >
        <span className="min-w-0">
          <span className="block truncate font-semibold">{name}</span>
          <span className="path block truncate text-soft">{address}</span>
        </span>
        {children}
      </Link>
    </li>
  );
}
