import type { ReactNode } from 'react';
import type { MediaItem } from '@/api/types';
import { ItemPicture } from '@/ui/ItemPicture';
import { fileName, many, pixels, weight } from '@/ui/words';
import type { BenchState } from './useBench';

/** What gives way, and how: by another reference at each place, or by other bytes behind the same address. */
export function Now({ item, bench, mayCrop }: { item: MediaItem; bench: BenchState; mayCrop: boolean }) {
  return (
    <section aria-label="Now" className="overflow-y-auto border-r border-line bg-sheet/70 px-5 py-4">
      <h2 className="mb-2 font-semibold text-soft">Now</h2>
      <ItemPicture item={item} />
      <p className="mt-2 font-semibold">{item.title || fileName(item.path)}</p>
      <p className="path break-all text-soft">{item.path}</p>
      <p className="figures mt-1 text-soft">
        {pixels(item.width, item.height) ?? 'no file'} · {weight(item.weight)} ·{' '}
        {many(item.files.length, 'file')}
      </p>
      <fieldset className="mt-5 flex flex-col gap-2">
        <legend className="mb-1 font-semibold">How</legend>
        <Choice
          name="manner"
          on={bench.manner === 'new-reference'}
          choose={() => bench.chooseManner('new-reference')}
          title="New reference"
        >
          Each chosen place is edited to name the other file. The old file stays.
        </Choice>
        <Choice
          name="manner"
          on={bench.manner === 'same-address'}
          choose={() => bench.chooseManner('same-address')}
          title="Same address"
        >
          New bytes behind the same path; {many(item.files.length - 1, 'rendition')} drawn again. No record is
          edited.
        </Choice>
      </fieldset>
      {mayCrop && (
        <fieldset className="mt-5 flex flex-col gap-2">
          <legend className="mb-1 font-semibold">The new picture has another shape</legend>
          <Choice
            name="shape"
            on={!bench.asIs}
            choose={() => bench.chooseShape(false)}
            title="Crop it to the old one"
          >
            The part around its focal point, in the proportions of now. Every box stays as it is.
          </Choice>
          <Choice
            name="shape"
            on={bench.asIs}
            choose={() => bench.chooseShape(true)}
            title="Really another shape"
          >
            All of it is shown; places may grow, shrink or stretch it.
          </Choice>
        </fieldset>
      )}
    </section>
  );
}

function Choice({
  name,
  on,
  choose,
  title,
  children,
}: {
  name: string;
  on: boolean;
  choose: () => void;
  title: string;
  children: ReactNode;
}) {
  return (
    <label
      className={`flex cursor-pointer gap-2 rounded-md border p-2.5 ${on ? 'border-accent bg-tint' : 'border-line bg-sheet hover:border-accent'}`}
    >
      <input
        type="radio"
        name={name}
        checked={on}
        onChange={choose}
        className="mt-1 size-4 shrink-0 accent-(--accent)"
      />
      <span>
        <span className="block font-semibold">{title}</span>
        <span className="block text-[0.88rem] leading-snug text-soft">{children}</span>
      </span>
    </label>
  );
}
