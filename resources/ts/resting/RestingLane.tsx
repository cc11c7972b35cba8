import { BellRing, RotateCcw } from 'lucide-react';
import { useState } from 'react';
import { client } from '@/api/client';
import { useAct, useMay, useSlug } from '@/api/hooks';
import { useRestingFiles, type RestingState } from '@/api/retire';
import type { Resting, RestingFile } from '@/api/types';
import { Button } from '@/ui/Button';
import { sayProblem } from '@/ui/Notice';
import { Empty, Failed, Loading } from '@/ui/States';
import { fileName, many, number, weight } from '@/ui/words';
import { KeptPicture } from './KeptPicture';
import { Lane } from './Lane';
import { usePlanned } from './usePlanned';

export function RestingLane({ resting }: { resting: Resting }) {
  const { maintain } = useMay();
  const planned = usePlanned();
  const [state, setState] = useState<RestingState>('all');
  const [q, setQ] = useState('');
  const files = useRestingFiles(state, q);
  const rows = files.data?.pages.flatMap((page) => page.rows) ?? [];
  const lane = resting.resting;
  const first = lane.first;
  return (
    <Lane
      title="Resting"
      count={lane.items}
      noun={lane.items === 1 ? 'item' : 'items'}
      bytes={lane.bytes}
      more={
        lane.files === 0
          ? `Each rests ${number(resting.keeping.days)} days, whole and out of reach.`
          : `${many(lane.files, 'file')}${first ? `, the first may go on ${first}` : ''}`
      }
      action={
        lane.files > 0 && (
          <>
            {maintain && lane.called > 0 && (
              <Button
                tone="alert"
                disabled={planned.isPending}
                onClick={() => planned.restore({ called: true })}
              >
                <BellRing size={15} aria-hidden="true" /> Restore {many(lane.called, 'called file')}
              </Button>
            )}
            <select
              aria-label="Which of them"
              value={state}
              onChange={(event) => setState(event.target.value as RestingState)}
              className="min-h-[34px] rounded-md border border-edge bg-sheet px-2"
            >
              <option value="all">all</option>
              <option value="called">called ({number(lane.called)})</option>
              <option value="over">days over ({number(lane.over)})</option>
            </select>
            <input
              type="search"
              value={q}
              onChange={(event) => setQ(event.target.value)}
              aria-label="Find among what rests"
              placeholder="Find"
              className="min-h-[34px] w-24 min-w-0 flex-1 rounded-md border border-edge bg-sheet px-2"
            />
          </>
        )
      }
    >
      {files.isPending ? (
        <div className="p-3">
          <Loading rows={4} height={56} />
        </div>
      ) : files.isError ? (
        <Failed error={files.error} again={files.refetch} />
      ) : rows.length === 0 ? (
        <Empty title={lane.files === 0 ? 'No file rests' : 'None of these'}>
          {lane.files === 0
            ? 'What you lay to rest waits here, and is watched: whatever asks for it calls it back.'
            : 'Nothing that rests fits what you chose.'}
        </Empty>
      ) : (
        <ul className="divide-y divide-line">
          {rows.map((row) => (
            <RestingRow key={row.id} row={row} days={resting.keeping.days} />
          ))}
        </ul>
      )}
      {files.hasNextPage && (
        <div className="p-3">
          <Button disabled={files.isFetchingNextPage} onClick={() => void files.fetchNextPage()}>
            Show more
          </Button>
        </div>
      )}
    </Lane>
  );
}

function RestingRow({ row, days }: { row: RestingFile; days: number }) {
  const slug = useSlug();
  const { maintain } = useMay();
  const planned = usePlanned();
  const restOn = useAct<Resting, number>((site, id) =>
    client.DELETE('/sites/{site}/resting/{id}/call', { params: { path: { site, id } } }),
  );
  const name = row.title || fileName(row.path);
  return (
    <li className={`flex gap-3 px-4 py-2 ${row.called_by ? 'bg-alert-tint' : ''}`}>
      <KeptPicture
        src={`/api/sites/${slug}/pictures/resting/${row.id}`}
        mime={row.mime}
        className="h-10 w-14 shrink-0 rounded border border-line"
      />
      <div className="min-w-0 flex-1">
        <div className="truncate font-semibold" title={row.path}>
          {name}
        </div>
        {row.called_by ? (
          <div className="text-[0.88rem] wrap-anywhere text-alert">{row.called_by}</div>
        ) : (
          <div className="figures text-[0.88rem] text-soft">
            {row.days === 0 ? 'its days are over' : `${many(row.days, 'day')} left`} ·{' '}
            {many(row.files, 'file')}, {weight(row.bytes)}
            <span className="mt-1 block h-1 overflow-hidden rounded-full bg-line" aria-hidden="true">
              <span
                className="block h-full rounded-full bg-accent"
                style={{ width: `${Math.min(100, (100 * row.days) / Math.max(1, days))}%` }}
              />
            </span>
          </div>
        )}
        {row.called_by && maintain && (
          <button
            type="button"
            disabled={restOn.isPending}
            onClick={() => restOn.mutate(row.id, { onError: sayProblem })}
            className="min-h-[24px] text-[0.88rem] text-accent underline underline-offset-2"
          >
            Let it rest on
          </button>
        )}
      </div>
      {maintain && (
        <Button
          className="self-center"
          disabled={planned.isPending}
          aria-label={`Restore ${name}`}
          onClick={() => planned.restore({ files: [row.id] })}
        >
          <RotateCcw size={15} aria-hidden="true" /> Restore
        </Button>
      )}
    </li>
  );
}
