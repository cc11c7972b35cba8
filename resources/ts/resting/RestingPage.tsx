import { useMay, useSlug } from '@/api/hooks';
import { useResting } from '@/api/retire';
import { ButtonLink } from '@/ui/Button';
import { Page } from '@/ui/Page';
import { Failed, Loading } from '@/ui/States';
import { ArchiveLane } from './ArchiveLane';
import { IdleLane } from './IdleLane';
import { Looked } from './Looked';
import { RestingLane } from './RestingLane';

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
