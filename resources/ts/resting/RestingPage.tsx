import { useSearchParams } from 'react-router';
import { useMay, useSlug } from '@/api/hooks';
import { useResting } from '@/api/retire';
import { Button, ButtonLink } from '@/ui/Button';
import { Page } from '@/ui/Page';
import { Failed, Loading } from '@/ui/States';
import { ArchiveLane } from './ArchiveLane';
import { IdleLane } from './IdleLane';
import { Looked } from './Looked';
import { RestingLane } from './RestingLane';
import { usePlanned } from './usePlanned';

/** Three lanes, from left to right the way that a file goes: idle, resting, gone to the archive. */
export function RestingPage() {
  const slug = useSlug();
  const resting = useResting();
  const { own } = useMay();
  return (
    <Page
      title="Resting"
      words={['proof', 'resting', 'called', 'bag', 'rendition']}
      wide
      aside={
        <>
          <ButtonLink tone="quiet" to={`/${slug}/resting/weight`}>
            Weight
          </ButtonLink>
          <ButtonLink tone="quiet" to={`/${slug}/resting/renditions`}>
            Renditions
          </ButtonLink>
          <ButtonLink tone="quiet" to={`/${slug}/resting/copies`}>
            Copies
          </ButtonLink>
          <ButtonLink tone="quiet" to={`/${slug}/resting/logs`}>
            Access logs
          </ButtonLink>
          {own && (
            <ButtonLink tone="quiet" to={`/${slug}/resting/keeping`}>
              How long, and where
            </ButtonLink>
          )}
        </>
      }
    >
      {resting.isPending ? (
        <Loading rows={4} height={120} />
      ) : resting.isError ? (
        <Failed error={resting.error} again={resting.refetch} />
      ) : (
        <>
          <Elsewhere />
          <Looked resting={resting.data} />
          <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 lg:grid-cols-3">
            <IdleLane resting={resting.data} />
            <RestingLane resting={resting.data} />
            <ArchiveLane resting={resting.data} />
          </div>
        </>
      )}
    </Page>
  );
}

/** Another file lies where one lay: it can come back under a free name beside it. */
function Elsewhere() {
  const [params] = useSearchParams();
  const planned = usePlanned();
  const numbers = (name: string) => (params.get(name) ?? '').split(',').map(Number).filter(Boolean);
  const [files, bagged] = [numbers('elsewhere'), numbers('elsewhere-bagged')];
  if (files.length + bagged.length === 0) return null;
  return (
    <p className="sheet mb-4 flex flex-wrap items-center gap-3 px-4 py-3">
      <span className="min-w-0 flex-1">
        Where another file lies by now, what rests can come back under a free name beside it. What names the
        old address goes on showing the other one.
      </span>
      <Button
        tone="main"
        disabled={planned.isPending}
        onClick={() => planned.restore({ ...(files.length > 0 ? { files } : { bagged }), elsewhere: true })}
      >
        Restore under free names
      </Button>
    </p>
  );
}
