import { describe, expect, it } from 'vitest';
import { layoutTrail, pathThrough, type TrailLayout } from '@/trail/layout';
import { file, page, record, reference, trail } from './trail';

const none: ReadonlySet<string> = new Set();
const ids = (layout: TrailLayout, column: number): string[] =>
  layout.nodes.filter((n) => n.column === column).map((n) => n.id);
const lineIds = (layout: TrailLayout): string[] => layout.lines.map((l) => l.id).sort();
const node = (layout: TrailLayout, id: string) => {
  const found = layout.nodes.find((n) => n.id === id);
  if (!found) throw new Error(`There is no ${id}.`);
  return found;
};

describe('columns', () => {
  it('leads from files through placements to public addresses', () => {
    const layout = layoutTrail(trail({ records: [page(7)], references: [reference(7, 1)] }), none, 1000);
    expect(layout.columns.map((c) => c.title)).toEqual(['Files', 'Placements', 'Public addresses']);
    expect([ids(layout, 0), ids(layout, 1), ids(layout, 2)]).toEqual([['f1'], ['r7'], ['p7']]);
    expect(lineIds(layout)).toEqual(['f1>r7', 'r7>p7']);
  });

  it('has a column for each step of carriers', () => {
    const layout = layoutTrail(
      trail({
        records: [
          record(1, { kind: 'banner' }),
          record(2, { kind: 'banner-set' }),
          record(3, { kind: 'slot' }),
          page(4),
        ],
        references: [reference(1, null, { names: 'media-item' })],
        carries: [
          { from: 2, to: 1, role: 'in set' },
          { from: 3, to: 2, role: 'in slot' },
          { from: 4, to: 3, role: 'slot' },
        ],
      }),
      none,
      1200,
    );
    expect(layout.columns.map((c) => c.title)).toEqual([
      'Files',
      'Placements',
      'Carriers',
      '',
      'Public addresses',
    ]);
    expect([1, 2, 3, 4].map((c) => ids(layout, c))).toEqual([['r1'], ['r2'], ['r3'], ['p4']]);
    expect(lineIds(layout)).toEqual(['f1>r1', 'r1>r2', 'r2>r3', 'r3>p4']);
  });

  it('puts a carrier that is reached in two ways as far along as the longer one', () => {
    const layout = layoutTrail(
      trail({
        records: [
          record(1, { kind: 'banner' }),
          record(2, { kind: 'banner-set' }),
          record(3, { kind: 'slot' }),
        ],
        references: [reference(1, 1)],
        carries: [
          { from: 3, to: 1, role: 'in slot' },
          { from: 2, to: 1, role: 'in set' },
          { from: 3, to: 2, role: 'in slot' },
        ],
      }),
      none,
      1200,
    );
    expect(node(layout, 'r2').column).toBe(2);
    expect(node(layout, 'r3').column).toBe(3);
  });

  it('comes to an end where carriers hold each other', () => {
    const layout = layoutTrail(
      trail({
        records: [record(1, { kind: 'banner' }), record(2, { kind: 'slot' }), record(3, { kind: 'slot' })],
        references: [reference(1, 1)],
        carries: [
          { from: 2, to: 1, role: '' },
          { from: 3, to: 2, role: '' },
          { from: 2, to: 3, role: '' },
        ],
      }),
      none,
      1200,
    );
    expect(layout.nodes.filter((n) => n.kind === 'record')).toHaveLength(3);
  });

  it('fits the width that it is given, down to what can be read', () => {
    const data = trail({ records: [page(7)], references: [reference(7, 1)] });
    for (const width of [700, 1000, 1600]) {
      const layout = layoutTrail(data, none, width);
      expect(layout.width).toBeGreaterThan(width - 4);
      expect(layout.width).toBeLessThanOrEqual(width);
      const columns = layout.columns;
      columns.slice(1).forEach((c, i) => {
        const before = columns[i];
        expect(c.x).toBeGreaterThan((before?.x ?? 0) + (before?.width ?? 0));
      });
    }
    expect(layoutTrail(data, none, 100).columns.every((c) => c.width >= 104)).toBe(true);
  });
});

describe('files', () => {
  it('shows the original and what is used, and the rest together', () => {
    const layout = layoutTrail(
      trail({
        files: [file(1, { is_original: true }), file(2), file(3), file(4, { width: null, height: null })],
        records: [page(7)],
        references: [reference(7, 2), reference(7, 4)],
      }),
      none,
      1000,
    );
    expect(ids(layout, 0)).toEqual(['f1', 'f2', 'f4', 'idle-files']);
    expect(node(layout, 'f1').sub).toBe('original · 300 × 200');
    expect(node(layout, 'f4').sub).toBe('no pixels');
    expect(node(layout, 'idle-files').title).toBe('1 rendition');
  });

  it('shows that a file is asked for that there is not', () => {
    const layout = layoutTrail(
      trail({
        records: [page(7)],
        references: [reference(7, null, { broken: true, outcome: 'missing-file' })],
      }),
      none,
      1000,
    );
    expect(ids(layout, 0)).toEqual(['f1', 'missing']);
    expect(node(layout, 'missing').broken).toBe(true);
    expect(layout.lines.find((l) => l.id === 'missing>r7')?.broken).toBe(true);
  });

  it('leads an id to the original', () => {
    const layout = layoutTrail(
      trail({ records: [page(7)], references: [reference(7, null, { names: 'media-item' })] }),
      none,
      1000,
    );
    expect(lineIds(layout)).toContain('f1>r7');
    expect(ids(layout, 0)).not.toContain('missing');
  });
});

describe('bundles', () => {
  const many = Array.from({ length: 31 }, (_, i) => page(100 + i));
  const data = trail({ records: many, references: many.map((r) => reference(r.id, 1)) });

  it('puts many of a kind together', () => {
    const layout = layoutTrail(data, none, 1000);
    expect(ids(layout, 1)).toEqual(['b1-page']);
    expect(ids(layout, 2)).toEqual(['p-page']);
    expect(node(layout, 'b1-page')).toMatchObject({
      title: '31 pages',
      sub: 'open to see each',
      state: 'live',
    });
    expect(node(layout, 'p-page').title).toBe('31 public pages');
    expect(layout.lines.find((l) => l.id === 'f1>b1-page')?.count).toBe(31);
  });

  it('shows each where a bundle is open', () => {
    const layout = layoutTrail(data, new Set(['b1-page']), 1000);
    expect(ids(layout, 1)).toHaveLength(32);
    expect(node(layout, 'b1-page').sub).toBe('close');
    expect(ids(layout, 2)).toEqual(['p-page']);
    expect(lineIds(layout)).toContain('r100>p-page');
  });

  it('leaves ten apart', () => {
    const ten = many.slice(0, 10);
    const layout = layoutTrail(
      trail({ records: ten, references: ten.map((r) => reference(r.id, 1)) }),
      none,
      1000,
    );
    expect(ids(layout, 1)).toHaveLength(10);
  });

  it('says of a bundle that something in it is broken, and how its best stands', () => {
    const records = many.map((r, i) => ({
      ...r,
      state: i === 3 ? ('waiting' as const) : ('fading' as const),
    }));
    const layout = layoutTrail(
      trail({ records, references: records.map((r, i) => reference(r.id, 1, { broken: i === 9 })) }),
      none,
      1000,
    );
    expect(node(layout, 'b1-page')).toMatchObject({ broken: true, state: 'waiting' });
  });
});

describe('records', () => {
  it('says how often and in which box', () => {
    const layout = layoutTrail(
      trail({
        records: [page(7), page(8)],
        references: [reference(7, 1, { box: '72 × 72' }), reference(8, 1), reference(8, 1)],
      }),
      none,
      1000,
    );
    expect(node(layout, 'r7').sub).toBe('page · 72 × 72');
    expect(node(layout, 'r8').sub).toBe('page · 2 times');
    expect(layout.lines.find((l) => l.id === 'f1>r8')?.count).toBe(2);
  });

  it('stand in the order in which people count', () => {
    const titles = ['No. 10', 'No. 9', 'No. 100'];
    const layout = layoutTrail(
      trail({
        records: titles.map((title, i) => page(i + 1, { title })),
        references: titles.map((_, i) => reference(i + 1, 1)),
      }),
      none,
      1000,
    );
    expect(layout.nodes.filter((n) => n.column === 1).map((n) => n.title)).toEqual([
      'No. 9',
      'No. 10',
      'No. 100',
    ]);
    // Their addresses stand in the same order, so that lines do not cross.
    expect(ids(layout, 2)).toEqual(['p2', 'p1', 'p3']);
  });

  it('lead to every page where the site itself shows them', () => {
    const layout = layoutTrail(
      trail({
        records: [record(1, { kind: 'setting', everywhere: true }), page(2), page(3)],
        references: [reference(1, 1)],
      }),
      none,
      1000,
    );
    expect(lineIds(layout)).toEqual(['f1>r1', 'r1>p2', 'r1>p3']);
  });

  it('are quiet on a line that no visitor follows', () => {
    const layout = layoutTrail(
      trail({
        records: [record(1, { kind: 'version', state: 'fading', meets: 'fading' }), page(2)],
        references: [reference(1, 1), reference(2, 1)],
      }),
      none,
      1000,
    );
    expect(layout.lines.find((l) => l.id === 'f1>r1')?.quiet).toBe(true);
    expect(layout.lines.find((l) => l.id === 'f1>r2')?.quiet).toBe(false);
  });

  it('that the answer does not describe are left out', () => {
    const layout = layoutTrail(trail({ references: [reference(99, 1)] }), none, 1000);
    expect(layout.nodes.map((n) => n.id)).toEqual(['f1']);
    expect(layout.lines).toEqual([]);
  });
});

describe('places on the sheet', () => {
  it('never overlap, open or closed, wide or narrow', () => {
    const records = Array.from({ length: 40 }, (_, i) =>
      page(i + 1, { kind: i % 2 ? 'page' : 'post', title: `Title ${i}` }),
    );
    const data = trail({ records, references: records.map((r) => reference(r.id, 1)) });
    for (const opened of [none, new Set(['b1-page', 'b1-post', 'p-page', 'p-post'])]) {
      for (const width of [400, 1000]) {
        const layout = layoutTrail(data, opened, width);
        for (let column = 0; column < layout.columns.length; column++) {
          const own = layout.nodes.filter((n) => n.column === column).sort((a, b) => a.y - b.y);
          own.slice(1).forEach((n, i) => {
            const above = own[i];
            expect(n.y).toBeGreaterThan((above?.y ?? 0) + (above?.h ?? 0));
          });
        }
        expect(Math.max(...layout.nodes.map((n) => n.y + n.h))).toBeLessThanOrEqual(layout.height + 1);
      }
    }
  });

  it('are the same for the same data', () => {
    const data = trail({ records: [page(7), page(8)], references: [reference(7, 1), reference(8, 1)] });
    expect(layoutTrail(data, none, 900)).toEqual(layoutTrail(data, none, 900));
  });

  it('puts a short column in the middle of what it leads to', () => {
    const records = Array.from({ length: 8 }, (_, i) => page(i + 1));
    const layout = layoutTrail(
      trail({ records, references: records.map((r) => reference(r.id, 1)) }),
      none,
      1000,
    );
    const first = node(layout, 'r1');
    const eighth = node(layout, 'r8');
    expect(node(layout, 'f1').y).toBeGreaterThan(first.y);
    expect(node(layout, 'f1').y).toBeLessThan(eighth.y);
  });
});

describe('lines across columns', () => {
  it('pass between the boxes of a column that they do not stop in', () => {
    // Placed on a page itself, and through a part that stands in the column between.
    const parts = [31, 32, 33].map((id) => record(id, { kind: 'page-part', title: `Part ${id}` }));
    const pages = [41, 42, 43].map((id) => page(id));
    const placed = [0, 1, 2].map((i) => record(51 + i, { kind: 'slot', title: `Slot ${i}` }));
    const data = trail({
      files: [file(1, { is_original: true })],
      records: [...parts, ...pages, ...placed, record(60, { title: 'Direct' })],
      references: [...placed.map((p) => reference(p.id, 1)), ...pages.map((p) => reference(p.id, 1))],
      carries: placed.flatMap((p, i) => [
        { from: parts[i]?.id ?? 0, to: p.id, role: 'in' },
        { from: pages[i]?.id ?? 0, to: parts[i]?.id ?? 0, role: 'part' },
      ]),
      pages: pages.map((p) => p.id),
    });
    const layout = layoutTrail(data, none, 1100);
    const crossing = layout.lines.filter((line) => line.through.length > 0);
    expect(crossing.length).toBeGreaterThan(0);
    for (const line of crossing)
      for (const stop of line.through)
        for (const box of layout.nodes.filter((n) => n.x >= stop.x1 && n.x <= stop.x2))
          expect(stop.y <= box.y || stop.y >= box.y + box.h).toBe(true);
  });
});

describe('pathThrough', () => {
  const lines = [
    ['a', 'b'],
    ['b', 'c'],
    ['x', 'b'],
    ['b', 'y'],
    ['q', 'r'],
  ].map(([from = '', to = '']) => ({
    id: `${from}>${to}`,
    from,
    to,
    count: 1,
    broken: false,
    quiet: false,
    through: [],
  }));

  it.each([
    ['b', ['a', 'b', 'c', 'x', 'y']],
    ['a', ['a', 'b', 'c', 'y']],
    ['c', ['a', 'b', 'c', 'x']],
    ['q', ['q', 'r']],
    ['alone', ['alone']],
  ])('follows %s both ways, and not back again', (id, found) => {
    expect([...pathThrough(id, lines)].sort()).toEqual(found);
  });

  it('comes to an end in a ring', () => {
    const ring = ['a>b', 'b>c', 'c>a'].map((id) => ({
      id,
      from: id.charAt(0),
      to: id.charAt(2),
      count: 1,
      broken: false,
      quiet: false,
      through: [],
    }));
    expect([...pathThrough('a', ring)].sort()).toEqual(['a', 'b', 'c']);
  });
});
