import { Popover } from 'radix-ui';
import { ChevronDown } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { client } from '@/api/client';
import { useAct, useMay, useSite, useSites } from '@/api/hooks';
import type { Site } from '@/api/types';
import { sayProblem } from '@/ui/Notice';
import { PublicLink } from '@/ui/PublicLink';

/** Which site this is; behind it, the addresses it is known by and where its public pages are looked at. */
export function SiteMenu() {
  const site = useSite().data;
  const short = site?.address.replace(/^https?:\/\/|\/$/g, '') ?? '';
  // In the shape of what is coming, so that the band does not jump.
  if (!site)
    return (
      <div
        aria-hidden="true"
        className="flex w-60 flex-col gap-1.5 border-line py-1 max-md:w-40 md:border-l md:pl-5"
      >
        <span className="waiting-block h-3.5 w-48 max-w-full rounded bg-line/60" />
        <span className="waiting-block h-2.5 w-32 max-w-full rounded bg-line/60" />
      </div>
    );
  return (
    <Popover.Root>
      <div className="min-w-0 border-line max-md:-ml-2 max-md:flex-1 max-md:basis-32 md:border-l md:pl-3">
        <Popover.Trigger className="block max-w-full min-w-0 rounded px-2 py-1 text-left leading-tight hover:bg-tint">
          <span className="flex min-w-0 items-center gap-1">
            <span className="truncate font-semibold">{site.name}</span>
            <ChevronDown size={14} className="shrink-0 text-soft" aria-hidden="true" />
          </span>
          <span className="path block truncate text-soft">{short}</span>
        </Popover.Trigger>
      </div>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={8}
          className="sheet z-40 w-[28rem] max-w-[94vw] p-4 shadow-lg outline-none"
        >
          <Addresses site={site} />
          <Allowed
            on={site.ask_public}
            title="Ask the public site over the network"
            patch={(ask_public) => ({ ask_public })}
          >
            After a change its pages are looked at. Without this, only hosts that are reached from here as
            listed above are asked.
          </Allowed>
          <Allowed on={site.writes} title="Let plans be carried out" patch={(writes) => ({ writes })}>
            Without this, the site is only read. Switching it on tries a write and takes it back.
          </Allowed>
          <div className="mt-3 flex flex-col border-t border-line pt-2">
            <Popover.Close asChild>
              <Link
                to={`/${site.slug}/map`}
                className="rounded px-2 py-1.5 font-semibold text-accent hover:bg-tint"
              >
                How it is read: the field map
              </Link>
            </Popover.Close>
          </div>
          <OtherSites slug={site.slug} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Addresses({ site }: { site: Site }) {
  const reached = Object.entries(site.reach_at);
  return (
    <dl className="grid grid-cols-[7rem_minmax(0,1fr)] gap-x-3 gap-y-1.5">
      <dt className="text-soft">Address now</dt>
      <dd>
        <PublicLink address="" label={site.address} />
      </dd>
      <Several word="Before" addresses={site.former} />
      <Several word="Also served as" addresses={site.aliases} />
      {reached.length > 0 && (
        <>
          <dt className="text-soft">Reached from here</dt>
          <dd>
            {reached.map(([host, origin]) => (
              <span key={host} className="path block break-words">
                {host} at {origin}
              </span>
            ))}
          </dd>
        </>
      )}
    </dl>
  );
}

function Several({ word, addresses }: { word: string; addresses: string[] }) {
  if (addresses.length === 0) return null;
  return (
    <>
      <dt className="text-soft">{word}</dt>
      <dd>
        {addresses.map((address) => (
          <span key={address} className="path block break-words">
            {address}
          </span>
        ))}
      </dd>
    </>
  );
}

/** The owner's word on what Ylema may do with this site. */
function Allowed({
  on,
  title,
  patch,
  children,
}: {
  on: boolean;
  title: string;
  patch: (on: boolean) => { ask_public?: boolean; writes?: boolean };
  children: ReactNode;
}) {
  const { own } = useMay();
  const set = useAct<Site, boolean>((slug, wanted) =>
    client.PATCH('/sites/{site}', { params: { path: { site: slug } }, body: patch(wanted) }),
  );
  return (
    <label className="mt-3 flex min-h-6 gap-2.5 border-t border-line pt-3">
      <input
        type="checkbox"
        className="mt-0.5 size-6 shrink-0"
        checked={set.isPending ? set.variables : on}
        disabled={!own || set.isPending}
        onChange={(event) => set.mutate(event.target.checked, { onError: sayProblem })}
      />
      <span>
        <span className="font-semibold">{title}</span>
        <span className="block text-soft">
          {children}
          {!own && ' The owner decides this.'}
        </span>
      </span>
    </label>
  );
}

/** The way to another site. */
function OtherSites({ slug }: { slug: string }) {
  const others = (useSites().data?.sites ?? []).filter((site) => site.slug !== slug);
  return (
    <nav aria-label="Other sites" className="mt-3 flex flex-col border-t border-line pt-2">
      {others.slice(0, 8).map((site) => (
        <Link
          key={site.slug}
          to={`/${site.slug}/desk`}
          className="truncate rounded px-2 py-1.5 hover:bg-tint"
        >
          {site.name}
        </Link>
      ))}
      <Link to="/sites" className="rounded px-2 py-1.5 font-semibold text-accent hover:bg-tint">
        All sites
      </Link>
    </nav>
  );
}
