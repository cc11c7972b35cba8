import { useNavigate } from 'react-router';
import { useMay, useSlug } from '@/api/hooks';
import type { Gap } from '@/api/types';
import { Button } from '@/ui/Button';
import { Empty, Failed, Loading } from '@/ui/States';
import { many } from '@/ui/words';
import { addGap } from './addGap';
import { MapFrame } from './MapFrame';
import { useCoverage, useMap } from './useMap';

/** Columns that hold pictures and that no line of the map reads. */
export function CoveragePage() {
  const { own } = useMay();
  const coverage = useCoverage();
  const map = useMap();
  if (!own)
    return (
      <MapFrame>
        <Empty title="An owner looks after the map">Ask one of them what it leaves out.</Empty>
      </MapFrame>
    );
  return (
    <MapFrame>
      {coverage.isError ? (
        <Failed error={coverage.error} again={coverage.refetch} />
      ) : coverage.isPending || map.isPending ? (
        <>
          <p role="status" className="mb-3 text-soft">
            Looking at every table for pictures that no line reads…
          </p>
          <Loading rows={4} height={64} />
        </>
      ) : coverage.data.gaps.length === 0 ? (
        <Empty title="It leaves nothing out that was seen">
          Every column in which pictures were found is read by a line of the map.
        </Empty>
      ) : (
        <div className="max-w-5xl">
          <p className="mb-3">
            {many(coverage.data.total, 'column')} with pictures that no line reads, most pictures first.{' '}
            <span className="text-soft">A picture that only they name would look as if nothing used it.</span>
          </p>
          <ul className="sheet divide-y divide-line">
            {coverage.data.gaps.map((gap) => (
              <Row
                key={`${gap.table}.${gap.column}.${gap.name}`}
                gap={gap}
                added={map.data ? addGap(map.data.map, gap) : null}
              />
            ))}
          </ul>
        </div>
      )}
    </MapFrame>
  );
}

function Row({ gap, added }: { gap: Gap; added: string | null }) {
  const slug = useSlug();
  const navigate = useNavigate();
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-1 px-4 py-3">
      <div className="min-w-0 flex-1 basis-80">
        <p className="path font-semibold break-words">
          {gap.table}.{gap.column}
          {gap.name !== '' && <span className="font-normal text-soft">, rows called {gap.name}</span>}
        </p>
        <p className="text-soft">{gap.why}</p>
        {gap.passing !== null && <p className="text-soft">Most likely no content: {gap.passing}.</p>}
      </div>
      <span className="w-28 text-right tabular-nums">{many(gap.files, 'file')}</span>
      <span className="w-40 text-right">
        {added === null ? (
          <span className="text-soft" title="No kind of the map reads this table yet">
            needs a kind of its own
          </span>
        ) : (
          <Button onClick={() => void navigate(`/${slug}/map`, { state: { map: added } })}>
            Add to the map
          </Button>
        )}
      </span>
    </li>
  );
}
