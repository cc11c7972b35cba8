import { useState } from 'react';
import { Link } from 'react-router';
import { useMay, useMediaList, useSlug } from '@/api/hooks';
import type { MediaRow, Resting } from '@/api/types';
import { Verdict } from '@/proof/Verdict';
import { Button } from '@/ui/Button';
import { Picture } from '@/ui/Picture';
import { Empty, Failed, Loading } from '@/ui/States';
import { fileName, many, number, weight } from '@/ui/words';
import { BECAUSE } from '@/proof/because';
import { Lane } from './Lane';
import { usePlanned } from './usePlanned';

const SHOWN = 40;

export function IdleLane({ resting }: { resting: Resting }) {
  const slug = useSlug();
  const { maintain } = useMay();
  const planned = usePlanned();
  const [chosen, choose] = useState<'safe' | 'ask' | null>(null);
  const which = chosen ?? (resting.safe.items > 0 ? 'safe' : 'ask');
  const list = useMediaList({ proof: which }, SHOWN);
  const shown = resting[which];
  return (
    <Lane
      title="Idle"
      count={shown.items}
      noun={which === 'safe' ? 'safe to rest' : 'to ask about first'}
      bytes={shown.bytes}
      more={`${many(shown.files, 'file')}, renditions included`}
      action={
        <>
          <div className="flex rounded-md border border-line" role="group" aria-label="Which">
            {(['safe', 'ask'] as const).map((name) => (
              <button
                key={name}
                type="button"
                aria-pressed={which === name}
                onClick={() => choose(name)}
                className={`figures min-h-[32px] px-2.5 text-[0.93rem] first:rounded-l-md last:rounded-r-md ${which === name ? 'bg-tint font-semibold text-accent' : 'text-soft'}`}
              >
                {name === 'safe' ? 'Safe' : 'Ask first'} {number(resting[name].items)}
              </button>
            ))}
          </div>
          {maintain && which === 'safe' && shown.items > 0 && (
            <Button
              tone="main"
              disabled={planned.isPending}
              onClick={() => planned.rest({ marks: { proof: 'safe' } })}
            >
              Lay {shown.items === 1 ? 'it' : `all ${number(shown.items)}`} to rest
            </Button>
          )}
        </>
      }
    >
      {list.isPending ? (
        <div className="p-3">
          <Loading rows={5} height={48} />
        </div>
      ) : list.isError ? (
        <Failed error={list.error} again={list.refetch} />
      ) : list.data.items.length === 0 ? (
        <Empty title={which === 'safe' ? 'Nothing is safe to rest' : 'Nothing to ask about'}>
          {which === 'safe'
            ? 'Something needs each file, or something was not looked at yet: the line above says what.'
            : 'Everything that was looked at is clear.'}
        </Empty>
      ) : (
        <>
          <ul className="divide-y divide-line">
            {list.data.items.map((item) => (
              <IdleRow key={item.id} item={item} />
            ))}
          </ul>
          {shown.items > list.data.items.length && (
            <p className="p-3">
              <Link to={`/${slug}/media?proof=${which}`} className="text-accent underline underline-offset-2">
                All {number(shown.items)} in the ledger
              </Link>
            </p>
          )}
        </>
      )}
    </Lane>
  );
}

function IdleRow({ item }: { item: MediaRow }) {
  const slug = useSlug();
  return (
    <li>
      <Link
        to={`/${slug}/media/${item.id}?as=proof`}
        className="flex items-center gap-3 px-4 py-2 hover:bg-tint"
      >
        <Picture
          fileId={item.file_id}
          sha={item.sha256}
          mime={item.mime}
          alt=""
          className="h-10 w-14 shrink-0 rounded border border-line"
        />
        <span className="min-w-0 flex-1">
          <span className="block truncate font-semibold">{item.title || fileName(item.path)}</span>
          <span className="block truncate text-[0.88rem] text-soft">
            {item.verdict === 'ask' ? (
              (BECAUSE[item.because ?? ''] ?? 'ask first')
            ) : (
              <span className="path">{item.path}</span>
            )}
          </span>
        </span>
        <span className="figures shrink-0 text-right text-[0.88rem]">
          <span className="block">{weight(item.weight)}</span>
          {item.verdict === 'needed' && <Verdict verdict="needed" />}
          <span className="block text-soft">{many(item.file_count, 'file')}</span>
        </span>
      </Link>
    </li>
  );
}
