import { Combine, RefreshCw } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { client } from '@/api/client';
import { useAct, useMay, useSlug } from '@/api/hooks';
import { useCopies, useDifferences, type Likeness } from '@/api/retire';
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
  alike: 'looks alike',
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
            <option value="picture">the same picture</option>
            <option value="part">a part of it</option>
            <option value="alike">looks alike</option>
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
            <b className="figures">{many(first?.same ?? 0, 'item')}</b> with the same bytes could give way to
            one that stays.{' '}
            <span className="text-soft">
              All references are pointed at it, with the words of their place. Of the others, pictures in
              which nothing at the size of letters differs are called the same; none of them is chosen for
              you.
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
  // What a person said of an item; without a word, only what is the same to the last byte goes.
  const [said, say] = useState<ReadonlyMap<number, boolean>>(new Map());
  const [compared, compare] = useState<CopyItem | null>(null);
  const stays = group.items.find((item) => item.id === keeper);
  const isSame = (item: CopyItem) => item.sha256 !== '' && item.sha256 === stays?.sha256;
  // What was found holds for the one that is proposed to stay; of another, nobody looked closely.
  const howOf = (item: CopyItem): CopyItem['how'] =>
    isSame(item) ? 'bytes' : keeper !== group.keeper || item.how === 'bytes' ? 'alike' : item.how;
  const goes = (item: CopyItem) => item.id !== keeper && (said.get(item.id) ?? isSame(item));
  const others = group.items.filter(goes);
  const sure = others.every(isSame);
  const name = `keeper-${group.keeper}`;
  return (
    <li className="sheet px-4 py-3">
      <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-2">
        <p className="min-w-0 flex-1">
          <b className="figures">{many(group.items.length, 'item')}</b>{' '}
          <span className="figures text-soft">
            {weight(group.spare)}{' '}
            {group.items.every((item) => item.id === keeper || isSame(item)) ? 'to spare' : 'if all are one'}
            {keeper === group.keeper ? ` · proposed to stay: ${group.reason.replace(/^It /, 'it ')}` : ''}
          </span>
        </p>
        {maintain && (
          <Button
            tone={sure && others.length > 0 ? 'main' : 'plain'}
            disabled={planned.isPending || others.length === 0}
            onClick={() =>
              planned.merge(
                keeper,
                others.map((item) => item.id),
              )
            }
          >
            <Combine size={16} aria-hidden="true" />{' '}
            {others.length === 0
              ? 'Choose what is the same'
              : `Make ${others.length === 1 ? 'both' : `all ${others.length + 1}`} one`}
            {!sure &&
              (others.every((item) => howOf(item) !== 'alike')
                ? ', though their bytes differ'
                : ', though they only look alike')}
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
            how={howOf(item)}
            goes={goes(item)}
            onKeep={() => setKeeper(item.id)}
            onGoes={(now) => say((before) => new Map(before).set(item.id, now))}
            onCompare={() => compare((now) => (now?.id === item.id ? null : item))}
          />
        ))}
      </ul>
      {stays && compared && compared.id !== keeper && <Compared one={stays} other={compared} />}
    </li>
  );
}

function Item({
  item,
  name,
  keeps,
  how,
  goes,
  onKeep,
  onGoes,
  onCompare,
}: {
  item: CopyItem;
  name: string;
  keeps: boolean;
  how: CopyItem['how'];
  goes: boolean;
  onKeep: () => void;
  onGoes: (now: boolean) => void;
  onCompare: () => void;
}) {
  const slug = useSlug();
  return (
    <li
      className={`flex min-w-0 gap-3 rounded-md border p-2 ${keeps ? 'border-accent bg-tint' : 'border-line'} `}
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
              <input type="checkbox" checked={goes} onChange={(event) => onGoes(event.target.checked)} />
              {HOW[how]}
            </label>
          )}
          {!keeps && how !== 'bytes' && (
            <button
              type="button"
              className="min-h-[24px] font-semibold text-accent underline underline-offset-2"
              onClick={onCompare}
            >
              Compare
            </button>
          )}
        </div>
      </div>
    </li>
  );
}

/** Two pictures large and side by side, with what differs marked on both. */
function Compared({ one, other }: { one: CopyItem; other: CopyItem }) {
  const found = useDifferences(one.id, other.id);
  const places = found.data?.places ?? [];
  return (
    <section aria-label="Side by side" className="mt-3 border-t border-line pt-3">
      <p role="status" className="mb-2">
        {found.isPending
          ? 'Comparing…'
          : found.isError || !found.data.compared
            ? 'These two cannot be compared here: their shapes differ, or one cannot be opened. Look for yourself.'
            : found.data.part
              ? 'One is a part of the other; in what both show, no difference was found at the size of letters.'
              : found.data.marked
                ? 'They differ by a translucent mark over one of them, and show the same beneath.'
                : places.length === 0
                  ? 'No difference was found at the size of letters. Look for yourself before you make them one.'
                  : `They differ in ${many(places.length, 'place')}, marked on both.`}
      </p>
      <div className="grid gap-3 sm:grid-cols-2">
        {[one, other].map((item) => (
          <figure key={item.id} className="min-w-0">
            <div
              className="relative border border-line bg-well"
              style={{ aspectRatio: `${item.width ?? 4} / ${item.height ?? 3}` }}
            >
              <Picture
                fileId={item.file_id}
                sha={item.sha256}
                mime={item.mime}
                alt={item.title || fileName(item.path)}
                width={1200}
                className="absolute inset-0 h-full w-full"
              />
              {places.map((place) => (
                <span
                  key={`${place.x} ${place.y}`}
                  aria-hidden="true"
                  className="absolute border-2 border-alert outline outline-2 outline-sheet"
                  style={{
                    left: `${place.x * 100}%`,
                    top: `${place.y * 100}%`,
                    width: `${place.width * 100}%`,
                    height: `${place.height * 100}%`,
                  }}
                />
              ))}
            </div>
            <figcaption className="path truncate text-soft">{item.path}</figcaption>
          </figure>
        ))}
      </div>
    </section>
  );
}
