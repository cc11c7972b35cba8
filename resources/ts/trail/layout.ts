import type { StandingWord, TrailData, TrailFile, TrailRecord, TrailReference } from '@/api/types';
import { box, fileName, kindWord, many, natural, pixels } from '@/ui/words';

export interface TrailNode {
  id: string;
  column: number;
  kind: 'file' | 'missing' | 'idle-files' | 'record' | 'bundle' | 'page' | 'page-bundle';
  title: string;
  sub: string;
  state: StandingWord | null;
  broken: boolean;
  everywhere: boolean;
  records: number[];
  file?: TrailFile;
  x: number;
  y: number;
  h: number;
}
export interface TrailLine {
  id: string;
  from: string;
  to: string;
  count: number;
  broken: boolean;
  quiet: boolean;
  /** Where it goes through columns that it does not stop in: between their boxes, never behind one. */
  through: { x1: number; x2: number; y: number }[];
}
export interface TrailLayout {
  nodes: TrailNode[];
  lines: TrailLine[];
  columns: { x: number; width: number; title: string }[];
  height: number;
  width: number;
}

const ROW = 46;
const SMALL = 28;
/** In narrow columns titles take two lines. */
const TALL = 62;
const GAP = 7;
const SMALL_GAP = 4;
const HEAD = 34;
/** More records of one kind than this stand together until they are opened. */
const BUNDLE = 10;
/** More nodes than this in one column stand closer, each on one line. */
const CLOSE = 12;

/**
 * Lays the trail out in columns: files, placements, one column for each step of carriers, public addresses.
 * Pure: the same data and the same opened bundles give the same drawing.
 */
export function layoutTrail(data: TrailData, opened: ReadonlySet<string>, width: number): TrailLayout {
  const records = new Map(data.records.map((r) => [r.id, r]));
  const pages = new Set(data.pages);
  const byRecord = new Map<number, TrailReference[]>();
  for (const r of data.references) {
    const list = byRecord.get(r.record_id);
    if (list) list.push(r);
    else byRecord.set(r.record_id, [r]);
  }
  const placed = new Set(byRecord.keys());
  const parents = new Map<number, number[]>();
  for (const edge of data.carries) {
    const list = parents.get(edge.to);
    if (list) list.push(edge.from);
    else parents.set(edge.to, [edge.from]);
  }

  // How many steps a carrier lies above the placements; a page carries too, but stands in the last column.
  const depth = new Map<number, number>();
  let ring = [...placed];
  for (let step = 1; ring.length > 0 && step < 12; step++) {
    const next: number[] = [];
    for (const id of ring) {
      for (const parent of parents.get(id) ?? []) {
        const record = records.get(parent);
        if (!record || record.is_page || placed.has(parent) || (depth.get(parent) ?? 0) >= step) continue;
        depth.set(parent, step);
        next.push(parent);
      }
    }
    ring = next;
  }
  const steps = Math.max(0, ...depth.values());
  const pageColumn = 2 + steps;

  const nodes: TrailNode[] = [];
  const nodeOf = new Map<string, TrailNode>();
  function add(node: Omit<TrailNode, 'x' | 'y' | 'h'> & { h?: number }): TrailNode {
    const full: TrailNode = { x: 0, y: 0, ...node, h: node.h ?? ROW };
    nodes.push(full);
    nodeOf.set(full.id, full);
    return full;
  }

  // Files.
  const usedFiles = new Set(data.references.map((r) => r.file_id).filter((id) => id !== null));
  const original = data.files.find((f) => f.is_original);
  for (const file of data.files) {
    if (usedFiles.has(file.id) || file === original) {
      add({
        id: `f${file.id}`,
        column: 0,
        kind: 'file',
        title: fileName(file.path),
        sub: `${file.is_original ? 'original · ' : ''}${file.width ? `${pixels(file.width, file.height)}` : 'no pixels'}`,
        state: null,
        broken: false,
        everywhere: false,
        records: [],
        file,
      });
    }
  }
  const unasked = data.files.filter((f) => !usedFiles.has(f.id) && f !== original).length;
  if (unasked > 0)
    add({
      id: 'idle-files',
      column: 0,
      kind: 'idle-files',
      title: many(unasked, 'rendition'),
      sub: 'nothing names them',
      state: 'idle',
      broken: false,
      everywhere: false,
      records: [],
    });
  if (data.references.some((r) => r.names === 'address' && r.file_id === null))
    add({
      id: 'missing',
      column: 0,
      kind: 'missing',
      title: 'no such file',
      sub: 'asked for all the same',
      state: null,
      broken: true,
      everywhere: false,
      records: [],
    });
  const fileNode = (r: TrailReference): string =>
    r.names === 'media-item' || !byFile(r)
      ? r.names === 'media-item' && original
        ? `f${original.id}`
        : 'missing'
      : `f${r.file_id ?? 0}`;
  function byFile(r: TrailReference): boolean {
    return r.file_id !== null && nodeOf.has(`f${r.file_id}`);
  }

  // Placements and carriers, in bundles of a kind where there are many.
  function recordNodes(ids: number[], column: number): Map<number, string> {
    const home = new Map<number, string>();
    const groups = new Map<string, TrailRecord[]>();
    for (const id of ids) {
      const record = records.get(id);
      if (!record) continue;
      const list = groups.get(record.kind);
      if (list) list.push(record);
      else groups.set(record.kind, [record]);
    }
    for (const [kind, list] of groups) {
      list.sort((a, b) => natural(a.title, b.title));
      const key = `b${column}-${kind}`;
      if (list.length > BUNDLE) {
        const broken = list.some((r) => byRecord.get(r.id)?.some((x) => x.broken));
        add({
          id: key,
          column,
          kind: 'bundle',
          title: many(list.length, kindWord(kind), kindWord(kind, 2)),
          sub: opened.has(key) ? 'close' : 'open to see each',
          state: best(list),
          broken,
          everywhere: false,
          records: list.map((r) => r.id),
        });
        if (!opened.has(key)) {
          for (const r of list) home.set(r.id, key);
          continue;
        }
      }
      for (const r of list) {
        const id = `r${r.id}`;
        const references = byRecord.get(r.id) ?? [];
        add({
          id,
          column,
          kind: 'record',
          title: r.title,
          sub: `${kindWord(r.kind)}${references.length > 1 ? ` · ${references.length} times` : ''}${references.length === 1 && references[0]?.box ? ` · ${box(references[0].box)}` : ''}`,
          state: r.state,
          broken: references.some((x) => x.broken),
          everywhere: r.everywhere,
          records: [r.id],
        });
        home.set(r.id, id);
      }
    }
    return home;
  }
  const home = recordNodes([...placed], 1);
  for (let step = 1; step <= steps; step++)
    for (const [id, node] of recordNodes(
      [...depth].filter(([, d]) => d === step).map(([id]) => id),
      1 + step,
    ))
      home.set(id, node);

  // Public addresses.
  const placeOrder = new Map(nodes.filter((n) => n.kind === 'record').map((n, i) => [n.records[0] ?? 0, i]));
  const pageHome = new Map<number, string>();
  const pageGroups = new Map<string, TrailRecord[]>();
  for (const id of pages) {
    const record = records.get(id);
    if (!record) continue;
    const list = pageGroups.get(record.kind);
    if (list) list.push(record);
    else pageGroups.set(record.kind, [record]);
  }
  for (const [kind, list] of pageGroups) {
    const key = `p-${kind}`;
    // In the order of the placements, so that lines do not cross more than they must.
    list.sort(
      (a, b) =>
        (placeOrder.get(a.id) ?? Infinity) - (placeOrder.get(b.id) ?? Infinity) ||
        natural(a.address ?? '', b.address ?? ''),
    );
    if (list.length > BUNDLE) {
      add({
        id: key,
        column: pageColumn,
        kind: 'page-bundle',
        title: many(list.length, `public ${kindWord(kind)}`, `public ${kindWord(kind, 2)}`),
        sub: opened.has(key) ? 'close' : 'open to see each',
        state: 'live',
        broken: false,
        everywhere: false,
        records: list.map((r) => r.id),
      });
      if (!opened.has(key)) {
        for (const r of list) pageHome.set(r.id, key);
        continue;
      }
    }
    for (const r of list) {
      add({
        id: `p${r.id}`,
        column: pageColumn,
        kind: 'page',
        title: `/${r.address ?? ''}`,
        sub: r.title,
        state: 'live',
        broken: false,
        everywhere: false,
        records: [r.id],
      });
      pageHome.set(r.id, `p${r.id}`);
    }
  }

  // Lines, added up where they share both ends.
  const lines = new Map<string, TrailLine>();
  function line(from: string | undefined, to: string | undefined, broken = false, quiet = false) {
    if (!from || !to || from === to) return;
    const id = `${from}>${to}`;
    const known = lines.get(id);
    if (known) {
      known.count++;
      known.broken ||= broken;
      known.quiet &&= quiet;
    } else lines.set(id, { id, from, to, count: 1, broken, quiet, through: [] });
  }
  for (const [id, references] of byRecord)
    for (const r of references) line(fileNode(r), home.get(id), r.broken, records.get(id)?.meets !== 'live');
  for (const id of placed) if (pages.has(id)) line(home.get(id), pageHome.get(id));
  for (const edge of data.carries) {
    const parent = records.get(edge.from);
    if (!parent) continue;
    const live = records.get(edge.to)?.meets === 'live' && parent.meets === 'live';
    if (parent.is_page) line(home.get(edge.to), pageHome.get(edge.from), false, !live);
    else line(home.get(edge.to), home.get(edge.from), false, !live);
  }
  for (const record of data.records)
    if (record.everywhere && home.has(record.id))
      for (const key of new Set(pageHome.values())) line(home.get(record.id), key);

  // Places on the sheet.
  const count = pageColumn + 1;
  const gutter = Math.max(24, Math.min(80, (width - count * 150) / Math.max(1, count - 1)));
  const columnWidth = Math.max(104, Math.floor((width - gutter * (count - 1)) / count));
  const columns = Array.from({ length: count }, (_, i) => ({
    x: i * (columnWidth + gutter),
    width: columnWidth,
    title:
      i === 0
        ? 'Files'
        : i === 1
          ? 'Placements'
          : i === pageColumn
            ? 'Public addresses'
            : i === 2
              ? 'Carriers'
              : '',
  }));
  const heights = columns.map((_, c) => {
    const own = nodes.filter((n) => n.column === c);
    const close = own.length > CLOSE;
    let y = HEAD;
    for (const node of own) {
      node.x = columns[c]?.x ?? 0;
      node.y = y;
      if (columnWidth < 150 && !close) node.h = TALL;
      if (close && node.kind !== 'bundle' && node.kind !== 'page-bundle') node.h = SMALL;
      y += node.h + (close ? SMALL_GAP : GAP);
    }
    return y;
  });
  const height = Math.max(...heights, 200);
  // Short columns stand in the middle of what they lead to, so that lines run level.
  columns.forEach((_, c) => {
    const spare = Math.min(height, 600) - (heights[c] ?? 0);
    if (spare > 0) for (const node of nodes.filter((n) => n.column === c)) node.y += spare / 2;
  });
  for (const line of lines.values()) route(line, nodeOf, nodes, columns);
  return {
    nodes,
    lines: [...lines.values()],
    columns,
    height,
    width: columnWidth * count + gutter * (count - 1),
  };
}

/** Finds for each column that a line only crosses the gap that lies nearest to its straight way. */
function route(
  line: TrailLine,
  nodeOf: Map<string, TrailNode>,
  nodes: TrailNode[],
  columns: { x: number; width: number }[],
): void {
  const a = nodeOf.get(line.from);
  const b = nodeOf.get(line.to);
  if (!a || !b) return;
  for (let c = a.column + 1; c < b.column; c++) {
    const column = columns[c];
    if (!column) continue;
    const share = (c - a.column) / (b.column - a.column);
    const straight = a.y + a.h / 2 + share * (b.y + b.h / 2 - a.y - a.h / 2);
    const own = nodes.filter((n) => n.column === c).sort((m, n) => m.y - n.y);
    const gaps = [
      (own[0]?.y ?? straight + 6) - 6,
      ...own.map((n, i) => {
        const next = own[i + 1];
        return next ? (n.y + n.h + next.y) / 2 : n.y + n.h + 6;
      }),
    ];
    const free = own.every((n) => straight < n.y - 3 || straight > n.y + n.h + 3);
    const y = free
      ? straight
      : gaps.reduce((best, gap) => (Math.abs(gap - straight) < Math.abs(best - straight) ? gap : best));
    line.through.push({ x1: column.x - 4, x2: column.x + column.width + 4, y });
  }
}

function best(list: TrailRecord[]): StandingWord {
  const order: StandingWord[] = ['live', 'waiting', 'fading', 'idle'];
  return order.find((word) => list.some((r) => r.state === word)) ?? 'idle';
}

/** Everything that lies on a path through a node, both ways. */
export function pathThrough(id: string, lines: TrailLine[]): Set<string> {
  const found = new Set([id]);
  for (const [near, far] of [
    ['from', 'to'],
    ['to', 'from'],
  ] as const) {
    const queue = [id];
    const seen = new Set([id]);
    while (queue.length > 0) {
      const at = queue.pop();
      for (const line of lines) {
        if (line[near] === at && !seen.has(line[far])) {
          seen.add(line[far]);
          found.add(line[far]);
          queue.push(line[far]);
        }
      }
    }
  }
  return found;
}
