import type { TrailData, TrailRecord, TrailReference } from '@/api/types';
import { natural } from '@/ui/words';

export interface TrailRow {
  reference: TrailReference;
  record: TrailRecord;
  /** Records between it and the pages, without those. */
  carriers: TrailRecord[];
  /** Public pages on which a visitor meets it. */
  pages: TrailRecord[];
}

/** Each placement of an item with all that lies above it, in the order of the records' titles. */
export function rowsOf(data: TrailData): TrailRow[] {
  const records = new Map(data.records.map((r) => [r.id, r]));
  const parents = new Map<number, number[]>();
  for (const edge of data.carries) {
    const list = parents.get(edge.to);
    if (list) list.push(edge.from);
    else parents.set(edge.to, [edge.from]);
  }
  const pages = new Set(data.pages);
  const above = new Map<number, { carriers: TrailRecord[]; pages: TrailRecord[] }>();
  function lookUp(id: number) {
    const known = above.get(id);
    if (known) return known;
    const seen = new Set([id]);
    const ring = [id];
    const found = { carriers: [] as TrailRecord[], pages: [] as TrailRecord[] };
    for (let at = ring.pop(); at !== undefined; at = ring.pop()) {
      const record = records.get(at);
      if (record && pages.has(at)) found.pages.push(record);
      else if (record && at !== id && !record.is_page) found.carriers.push(record);
      for (const parent of parents.get(at) ?? []) {
        if (!seen.has(parent)) {
          seen.add(parent);
          ring.push(parent);
        }
      }
    }
    above.set(id, found);
    return found;
  }
  return data.references
    .flatMap((reference) => {
      const record = records.get(reference.record_id);
      return record ? [{ reference, record, ...lookUp(record.id) }] : [];
    })
    .sort((a, b) => natural(a.record.title, b.record.title));
}
