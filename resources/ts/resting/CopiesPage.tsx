import { Combine, RefreshCw } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { client } from '@/api/client';
import { useAct, useMay, useSlug } from '@/api/hooks';
import { useCopies, type Likeness } from '@/api/retire';
import type { CopyGroup, CopyItem } from '@/api/types';
import { Button } from '@/ui/Button';
import { sayProblem } from '@/ui/Notice';
import { Page } from '@/ui/Page';
import { Picture } from '@/ui/Picture';
import { Standing } from '@/ui/Standing';
import { Empty, Failed, Loading } from '@/ui/States';
import { fileName, many, number, pixels, weight } from '@/ui/words';
import { usePlanned } from './usePlanned';

const HOW: Record<CopyItem['how'], string> = {
  keeper: 'stays',
  bytes: 'the same bytes',
  picture: 'the same picture',
  part: 'a part of it',
};

/** Items that show the same picture, side by side; one plan makes a group one. */
export function CopiesPage() {
  const [how, setHow] = useState<Likeness | ''>('');
  const copies = useCopies(how);
  const { maintain } = useMay();
  const look = useAct<unknown>((site) =>
    client.POST('/sites/{site}/copies/look', { params: { path: { site } } }),
  );
  const first = copies.data?.pages[0];
  const groups = copies.data?.pages.flatMap((page) => page.groups) ?? [];
  return (
    <Page
      title="Copies and look-alikes"
      words={['reference', 'rendition', 'resting']}
      aside={
        <>
          <select
            aria-label="Which likeness"
            value={how}
            onChange={(event) => setHow(event.target.value as Likeness | '')}
            className="min-h-[34px] rounded-md border border-edge bg-sheet px-2"
          >
            <option value="">all</option>
            <option value="bytes">the same bytes</option>
            <option value="picture">another size or type</option>
            <option value="part">cut out of another</option>
          </select>
          {maintain && (
            <Button disabled={look.isPending} onClick={() => look.mutate(undefined, { onError: sayProblem })}>
              <RefreshCw size={15} aria-hidden="true" /> Look again
            </Button>
          )}
        </>
      }
    >
      {copies.isPending ? (
        <Loading rows={3} height={210} />
      ) : copies.isError ? (
        <Failed error={copies.error} again={copies.refetch} />
      ) : groups.length === 0 ? (
        <Empty title="No two items are alike">
          Pictures are looked at after each reading, a few at a time; what came lately may not be among them
          yet.
        </Empty>
      ) : (
        <>
          <p className="mb-3 max-w-3xl">
            <b className="figures">{many(first?.items ?? 0, 'item')}</b> could give way to one that stays.{' '}
            <span className="text-soft">
              All references are pointed at the one that stays, with the words of their place; the others are
              laid to rest.
            </span>
          </p>
          <ul className="flex flex-col gap-3">
            {groups.map((group) => (
              <Group key={group.items.map((item) => item.id).join()} group={group} />
            ))}
          </ul>
        </>
      )}
      {copies.hasNextPage && (
        <Button
          className="mt-3"
          disabled={copies.isFetchingNextPage}
          onClick={() => void copies.fetchNextPage()}
        >
          Show more ({number(groups.length)} of {number(first?.total ?? 0)})
        </Button>
      )}
    </Page>
  );
}

function Group({ group }: { group: CopyGroup }) {
  const { maintain } = useMay();
  const planned = usePlanned();
  const [keeper, setKeeper] = useState(group.keeper);
  const [out, setOut] = useState<ReadonlySet<number>>(new Set());
  const others = group.items.filter((item) => item.id !== keeper && !out.has(item.id)).map((item) => item.id);
  const name = `keeper-${group.keeper}`;
  return (
    <li className="sheet px-4 py-3">
      <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-2">
        <p className="min-w-0 flex-1">
          <b className="figures">{many(group.items.length, 'item')}</b>{' '}
          <span className="figures text-soft">
            {weight(group.spare)} to spare
            {keeper === group.keeper ? ` · proposed to stay: ${group.reason.replace(/^It /, 'it ')}` : ''}
          </span>
        </p>
        {maintain && (
          <Button
            tone="main"
            disabled={planned.isPending || others.length === 0}
            onClick={() => planned.merge(keeper, others)}
          >
            <Combine size={16} aria-hidden="true" /> Make{' '}
            {others.length === 1 ? 'both' : `all ${others.length + 1}`} one
          </Button>
        )}
      </div>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(15rem,1fr))] gap-3">
        {group.items.map((item) => (
          <Item
            key={item.id}
            item={item}
            name={name}
            keeps={item.id === keeper}
            isOut={out.has(item.id)}
            onKeep={() => setKeeper(item.id)}
            onOut={() =>
              setOut((now) => {
                const next = new Set(now);
                if (!next.delete(item.id)) next.add(item.id);
                return next;
              })
            }
          />
        ))}
      </ul>
    </li>
  );
}

function Item({
  item,
  name,
  keeps,
  isOut,
  onKeep,
  onOut,
}: {
  item: CopyItem;
  name: string;
  keeps: boolean;
  isOut: boolean;
  onKeep: () => void;
  onOut: () => void;
}) {
  const slug = useSlug();
  return (
    <li
      className={`flex min-w-0 gap-3 rounded-md border p-2 ${keeps ? 'border-accent bg-tint' : 'border-line'} ${isOut ? 'opacity-60' : ''}`}
    >
      <Picture
        fileId={item.file_id}
        sha={item.sha256}
        mime={item.mime}
        alt=""
        className="h-20 w-24 shrink-0 rounded border border-line"
      />
      <div className="min-w-0 flex-1 text-[0.9rem] leading-snug">
        <Link
          to={`/${slug}/media/${item.id}`}
          className="block truncate font-semibold hover:text-accent hover:underline"
          title={item.path}
        >
          {item.title || fileName(item.path)}
        </Link>
        <div className="figures text-soft">
          {pixels(item.width, item.height) ?? item.mime} · {weight(item.weight)}
        </div>
        <div className="figures flex flex-wrap gap-x-2">
          <Standing standing={item.standing} />
          <span>{item.uses > 0 ? many(item.uses, 'use') : 'no use'}</span>
        </div>
        <div className="mt-0.5 flex flex-wrap items-center gap-x-3">
          <label className="flex min-h-[24px] items-center gap-1.5">
            <input type="radio" name={name} checked={keeps} onChange={onKeep} />
            stays
          </label>
          {!keeps && (
            <label className="flex min-h-[24px] items-center gap-1.5">
              <input type="checkbox" checked={!isOut} onChange={onOut} />
              {item.how === 'keeper' ? 'alike' : HOW[item.how]}
            </label>
          )}
        </div>
      </div>
    </li>
  );
}
