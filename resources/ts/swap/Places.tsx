import { TriangleAlert } from 'lucide-react';
import { useMemo } from 'react';
import type { Fit, TrailData, TrailReference } from '@/api/types';
import { PublicLink } from '@/ui/PublicLink';
import { StandingShape } from '@/ui/Standing';
import { box, kindWord, many, middle, number, roleWord } from '@/ui/words';
import { groupPlaces, toggled, type PlacedRecord, type PlaceGroup } from './places';
import type { BenchState } from './useBench';

interface Props {
  trail: TrailData;
  bench: BenchState;
  /** With the same address, every place shows the new bytes; nothing is to be chosen. */
  fixed: boolean;
  fit: Fit | undefined;
}

/** The places that show the item, by kind of record: what is ticked will change, and what will look different says so. */
export function Places({ trail, bench, fixed, fit }: Props) {
  const groups = useMemo(() => groupPlaces(trail), [trail]);
  const says = useMemo(() => new Map(fit?.places.map((p) => [p.reference, p.says])), [fit]);
  const different = trail.references.filter((r) => says.has(r.id) && (fixed || !bench.left.has(r.id))).length;
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-5 py-2" aria-label="Places that show it" role="group">
      {different > 0 && (
        <p className="mb-1 flex items-center gap-2 rounded-md border border-waiting/60 px-3 py-2 text-[0.93rem]">
          <TriangleAlert size={15} className="shrink-0 text-waiting" aria-hidden="true" />
          {many(different, 'place')} will look different; each says how.
        </p>
      )}
      {groups.map((group) => (
        <Group key={group.kind} group={group} bench={bench} fixed={fixed} says={says} />
      ))}
      {trail.cut && (
        <p className="py-2 text-soft">
          More places than this list shows. What is left out here is left out; all others are swapped.
        </p>
      )}
    </div>
  );
}

function Group({
  group,
  bench,
  fixed,
  says,
}: {
  group: PlaceGroup;
  bench: BenchState;
  fixed: boolean;
  says: Map<number, string>;
}) {
  const on = group.references.filter((id) => !bench.left.has(id)).length;
  return (
    <section className="mb-3">
      <h2 className="sticky top-[-0.5rem] z-10 flex items-center gap-3 border-b border-line bg-sheet py-1.5 font-semibold">
        {!fixed && (
          <Tick
            label={`All ${kindWord(group.kind, 2)}`}
            on={on}
            of={group.references.length}
            set={(all) => bench.leave(toggled(bench.left, group.references, all))}
          />
        )}
        <span className="first-letter:uppercase">{kindWord(group.kind, group.records.length)}</span>
        <span className="figures font-normal text-soft">
          {fixed || on === group.references.length
            ? number(group.references.length)
            : `${number(on)} of ${number(group.references.length)}`}
        </span>
      </h2>
      <ul>
        {group.records.map((placed) => (
          <Row key={placed.record.id} placed={placed} bench={bench} fixed={fixed} says={says} />
        ))}
      </ul>
    </section>
  );
}

function Row({
  placed: { record, references },
  bench,
  fixed,
  says,
}: {
  placed: PlacedRecord;
  bench: BenchState;
  fixed: boolean;
  says: Map<number, string>;
}) {
  const ids = references.map((r) => r.id);
  const on = ids.filter((id) => !bench.left.has(id)).length;
  return (
    <li className="flex items-start gap-3 border-b border-line/70 py-1.5">
      {!fixed && (
        <Tick
          label={`${kindWord(record.kind)} ${record.title}`}
          on={on}
          of={ids.length}
          set={(all) => bench.leave(toggled(bench.left, ids, all))}
        />
      )}
      <div className={`min-w-0 flex-1 ${on === 0 && !fixed ? 'opacity-60' : ''}`}>
        <p className="flex min-w-0 items-center gap-2">
          <StandingShape standing={record.meets} />
          <span className="truncate font-semibold">{record.title}</span>
          {record.is_page && record.address !== null && (
            <span className="min-w-0 shrink text-[0.88rem]">
              <PublicLink address={record.address} />
            </span>
          )}
          {on === 0 && !fixed && (
            <span className="ml-auto shrink-0 text-[0.88rem] text-soft">left as it is</span>
          )}
        </p>
        <ul>
          {references.map((r) => (
            <Reference
              key={r.id}
              reference={r}
              says={fixed || !bench.left.has(r.id) ? says.get(r.id) : undefined}
            />
          ))}
        </ul>
      </div>
    </li>
  );
}

function Reference({ reference: r, says }: { reference: TrailReference; says: string | undefined }) {
  return (
    <li className="text-[0.9rem]">
      <p className="figures flex items-baseline gap-2">
        <span className="w-40 shrink-0 truncate text-soft" title={r.role}>
          {roleWord(r.role)}
        </span>
        <span className={`path min-w-0 flex-1 truncate ${r.broken ? 'text-alert' : ''}`} title={r.value}>
          {r.names === 'media-item' ? `item no. ${r.value}` : middle(r.value, 52)}
        </span>
        <span className="shrink-0 text-soft">{box(r.box ?? r.carrier_box)}</span>
      </p>
      {says && <p className="text-waiting">{says}</p>}
    </li>
  );
}

function Tick({ label, on, of, set }: { label: string; on: number; of: number; set: (on: boolean) => void }) {
  return (
    <input
      type="checkbox"
      aria-label={label}
      checked={on > 0}
      ref={(box) => {
        if (box) box.indeterminate = on > 0 && on < of;
      }}
      onChange={(e) => set(e.target.checked)}
      className="size-[24px] shrink-0 accent-(--accent)"
    />
  );
}
