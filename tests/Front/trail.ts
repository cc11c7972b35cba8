import type { TrailData, TrailFile, TrailRecord, TrailReference } from '@/api/types';

/** Parts of trails for the tests: what is not said is as it mostly is. */
export function file(id: number, more: Partial<TrailFile> = {}): TrailFile {
  return {
    id,
    path: `media/pier-${id}.jpg`,
    width: 300,
    height: 200,
    size: 1000,
    is_original: false,
    sha256: '',
    ...more,
  };
}

export function record(id: number, more: Partial<TrailRecord> = {}): TrailRecord {
  return {
    id,
    kind: 'page',
    key: String(id),
    title: `Record ${id}`,
    address: null,
    is_page: false,
    everywhere: false,
    state: 'live',
    meets: 'live',
    facts: {},
    ...more,
  };
}

export function page(id: number, more: Partial<TrailRecord> = {}): TrailRecord {
  return record(id, { is_page: true, address: `page-${id}`, title: `Page ${id}`, ...more });
}

let last = 0;
export function reference(
  record_id: number,
  file_id: number | null,
  more: Partial<TrailReference> = {},
): TrailReference {
  return {
    id: ++last,
    record_id,
    field: 'body',
    role: 'img[src]',
    carrier_box: null,
    fetch: 'always',
    names: 'address',
    value: '/media/pier.jpg',
    line: 1,
    file_id,
    outcome: 'found',
    sentence: null,
    broken: false,
    box: null,
    words: null,
    ...more,
  };
}

export function trail(more: Partial<TrailData>): TrailData {
  const records = more.records ?? [];
  return {
    files: [file(1, { is_original: true })],
    references: [],
    records,
    carries: [],
    mentions: { total: 0, rows: [] },
    pages: records.filter((r) => r.is_page).map((r) => r.id),
    reach: 0,
    cut: false,
    ...more,
  };
}
