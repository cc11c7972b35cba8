import { lazy, Suspense } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { useMay, useSlug } from '@/api/hooks';
import { Button } from '@/ui/Button';
import { Empty, Failed, Loading } from '@/ui/States';
import { ago, many } from '@/ui/words';
import { MapFrame } from './MapFrame';
import { useMap, useVersion } from './useMap';

const Yaml = lazy(() => import('@/ui/Yaml'));

/** The maps that the site has had; one of them beside that of now. */
export function VersionsPage() {
  const slug = useSlug();
  const map = useMap();
  const named = useParams()['version'];
  const chosen = named === undefined ? null : Number(named);
  const versions = map.data?.versions ?? [];
  return (
    <MapFrame>
      {map.isError ? (
        <Failed error={map.error} again={map.refetch} />
      ) : map.isPending ? (
        <Loading rows={6} />
      ) : versions.length === 0 ? (
        <Empty title="This is the first map">Each change of it is kept, and stands here.</Empty>
      ) : (
        <div className="grid h-full min-h-0 grid-cols-[20rem_minmax(0,1fr)] gap-4 max-lg:h-auto max-lg:grid-cols-1">
          <ul className="sheet min-h-0 divide-y divide-line overflow-y-auto" aria-label="Versions">
            {versions.map((version) => (
              <li key={version.id}>
                <Link
                  to={`/${slug}/map/versions/${version.id}`}
                  aria-current={version.id === chosen}
                  className={`block px-4 py-2.5 hover:bg-tint ${version.id === chosen ? 'bg-tint' : ''}`}
                >
                  <span className="block truncate font-semibold">{version.reason}</span>
                  <span className="block text-soft">
                    {ago(version.at)}
                    {version.by !== null && `, ${version.by}`} · {many(version.lines, 'line')}
                  </span>
                </Link>
              </li>
            ))}
          </ul>
          {chosen === null ? (
            <p className="p-4 text-soft">Choose one to see what has changed since.</p>
          ) : (
            <Compared key={chosen} version={chosen} now={map.data.map} />
          )}
        </div>
      )}
    </MapFrame>
  );
}

function Compared({ version, now }: { version: number; now: string }) {
  const slug = useSlug();
  const navigate = useNavigate();
  const { own } = useMay();
  const then = useVersion(version);
  if (then.isError) return <Failed error={then.error} again={then.refetch} />;
  if (then.isPending) return <Loading rows={8} />;
  if (then.data.map === now) return <p className="p-4 text-soft">This is the map that holds now.</p>;
  return (
    <section aria-label="Since then" className="flex min-h-0 flex-col gap-2 max-lg:h-[32rem]">
      <div className="flex items-center gap-3">
        <p className="flex-1 text-soft">What has changed from this one to the map that holds now.</p>
        {own && (
          <Button onClick={() => void navigate(`/${slug}/map`, { state: { map: then.data.map } })}>
            Put it into the editor
          </Button>
        )}
      </div>
      <div className="min-h-0 flex-1">
        <Suspense fallback={<Loading rows={8} />}>
          <Yaml label="The map of now, with what changed" value={now} since={then.data.map} />
        </Suspense>
      </div>
    </section>
  );
}
