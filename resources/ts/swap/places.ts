import type { TrailData, TrailRecord, TrailReference } from '@/api/types';
import { natural } from '@/ui/words';

export interface PlacedRecord {
  record: TrailRecord;
  references: TrailReference[];
}
export interface PlaceGroup {
  kind: string;
  records: PlacedRecord[];
  references: number[];
}

/** The places of an item by kind of record, most first; records as a person counts them, no. 9 before no. 10. */
export function groupPlaces(trail: TrailData): PlaceGroup[] {
  const byRecord = new Map<number, TrailReference[]>();
  for (const reference of trail.references) {
    const list = byRecord.get(reference.record_id);
    if (list) list.push(reference);
    else byRecord.set(reference.record_id, [reference]);
  }
  const groups = new Map<string, PlacedRecord[]>();
  for (const record of trail.records) {
    const references = byRecord.get(record.id);
    if (!references) continue;
    const list = groups.get(record.kind);
    if (list) list.push({ record, references });
    else groups.set(record.kind, [{ record, references }]);
  }
  return [...groups]
    .map(([kind, records]) => ({
      kind,
      records: records.sort((a, b) => natural(a.record.title, b.record.title)),
      references: records.flatMap((r) => r.references.map((reference) => reference.id)),
    }))
    .sort((a, b) => b.references.length - a.references.length);
}

export function toggled(left: ReadonlySet<number>, references: number[], on: boolean): ReadonlySet<number> {
  const next = new Set(left);
  for (const id of references) {
    if (on) next.delete(id);
    else next.add(id);
  }
  return next;
}
