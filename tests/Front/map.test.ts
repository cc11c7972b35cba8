import { describe, expect, it } from 'vitest';
import type { Gap } from '@/api/types';
import { addGap } from '@/map/addGap';
import { wordsAt } from '@/map/words';
import { placeAt } from '@/ui/yamlPlace';

const MAP = `# how it is read
version: 1
records:
  page: # what visitors open
    table: entries
    fields:
      body: html
      "lead text": { notation: text }
  setting:
    table: settings
    fields:
      value:
        by: name
        of:
          logo: url
`;

const gap: Gap = {
  table: 'entries',
  column: 'teaser',
  name: '',
  path: '',
  rule: 'html',
  kind: '',
  section: '{}',
  why: '',
  files: 3,
  passing: null,
};

describe('where in a map somebody writes', () => {
  const at = (line: number, before: string) => placeAt(MAP, line, before);
  it('knows the names above, and whether a value is written', () => {
    expect(at(2, 'ver')).toEqual({ place: [], isValue: false, typed: 'ver' });
    expect(at(5, '    ta')).toEqual({ place: ['records', 'page'], isValue: false, typed: 'ta' });
    expect(at(7, '      body: ht')).toEqual({
      place: ['records', 'page', 'fields', 'body'],
      isValue: true,
      typed: 'ht',
    });
    expect(at(15, '          logo: u').place).toEqual([
      'records',
      'setting',
      'fields',
      'value',
      'of',
      'logo',
    ]);
  });
  it('is not led astray by quotes, comments and lines without a name', () => {
    expect(placeAt('a:\n  # b: c\n  "x y":\n    - one\n    q', 5, '    q').place).toEqual(['a', 'x y']);
  });
});

describe('the words that are offered', () => {
  const lines = {
    '': ['version', 'records'],
    'records.*': ['table', 'fields'],
    'records.*.fields.*': ['notation'],
  };
  const tables = { entries: ['id', 'slug', 'body'], sections: ['code', 'name'] };
  const speech = { lines, notations: ['html', 'url'], kinds: ['page', 'banner'], tables, text: MAP };
  const words = wordsAt(speech);
  it('are those of the place', () => {
    expect(words([], false)).toEqual(['version', 'records']);
    expect(words(['records', 'page'], false)).toEqual(['table', 'fields']);
    expect(words(['records', 'page', 'fields', 'body'], false)).toEqual(['notation']);
    expect(words(['media'], false)).toEqual([]);
  });
  it('are notations, kinds, or yes and no, where a value belongs', () => {
    expect(words(['records', 'page', 'fields', 'body'], true)).toEqual(['html', 'url']);
    expect(words(['records', 'page', 'fields', 'body', 'notation'], true)).toEqual(['html', 'url']);
    expect(words(['records', 'page', 'fields', 'body', 'names'], true)).toEqual(['page', 'banner']);
    expect(words(['records', 'page', 'everywhere'], true)).toEqual(['true', 'false']);
    expect(words(['records', 'page', 'where'], true)).toEqual([]);
  });
});

describe('tables and columns', () => {
  const text = `media: { table: sections, key: code }
records:
  page:
    table: entries
    joins:
      section: { table: sections, on: { code: slug } }
    fields: {}
`;
  const tables = { entries: ['id', 'slug', 'body'], sections: ['code', 'name'] };
  const words = wordsAt({ lines: {}, notations: [], kinds: ['page'], tables, text });
  it('are offered where they can be named', () => {
    expect(words(['records', 'page', 'table'], true)).toEqual(['entries', 'sections']);
    expect(words(['records', 'page', 'key'], true)).toEqual(['id', 'slug', 'body']);
    expect(words(['records', 'page', 'fields'], false)).toEqual(['id', 'slug', 'body']);
    expect(words(['records', 'page', 'state', 'column'], true)).toEqual(['id', 'slug', 'body']);
    expect(words(['media', 'path'], true)).toEqual(['code', 'name']);
  });
  it('are those of the joined table on the left of a pair, and of the own one on its right', () => {
    expect(words(['records', 'page', 'joins', 'section', 'on'], false)).toEqual(['code', 'name']);
    expect(words(['records', 'page', 'joins', 'section', 'on', 'code'], true)).toEqual([
      'id',
      'slug',
      'body',
    ]);
  });
  it('are not offered while nobody said the table', () => {
    expect(words(['records', 'other', 'fields'], false)).toEqual([]);
  });
});

describe('a line that is added with a click', () => {
  it('stands with its kind, and every other byte stays', () => {
    const line = '      "lead text": { notation: text }\n';
    expect(addGap(MAP, gap)).toBe(MAP.replace(line, `${line}      teaser: html\n`));
  });
  it('joins the others of a table with one value a row', () => {
    const of = { ...gap, table: 'settings', column: 'value', name: 'share', rule: '{"notation":"url"}' };
    expect(addGap(MAP, of)).toBe(`${MAP.trimEnd()}\n          share: { notation: url }\n`);
  });
  it('stands behind a note, and between braces', () => {
    const noted = MAP.replace('{ notation: text }', '{ notation: text } # by hand\n\n  # more');
    expect(addGap(noted, gap)).toContain('# by hand\n      teaser: html\n\n  # more');
    const braced = 'records:\n  a: { table: entries, fields: { body: html } }\n';
    expect(addGap(braced, gap)).toBe(
      'records:\n  a: { table: entries, fields: { body: html, teaser: html } }\n',
    );
  });
  it('says a place inside of a column that is read but for that', () => {
    const inside = { ...gap, column: 'body', path: 'a[].pic', rule: '{"notation":"media-id","role":"pic"}' };
    const rule = '{ notation: media-id, role: pic }';
    const json = (body: string) => MAP.replace('body: html', `body: ${body}`);
    expect(addGap(json('json # note'), inside)).toBe(
      json(`{ notation: json, paths: { "a[].pic": ${rule} } } # note`),
    );
    expect(addGap(json('{ notation: json }'), inside)).toBe(
      json(`{ notation: json, paths: { "a[].pic": ${rule} } }`),
    );
    expect(addGap(json('{ notation: json, paths: { b: html } }'), inside)).toBe(
      json(`{ notation: json, paths: { b: html, "a[].pic": ${rule} } }`),
    );
    const block = json('\n        notation: json\n        paths:\n          b: html');
    expect(addGap(block, inside)).toBe(block.replace('b: html', `b: html\n          "a[].pic": ${rule}`));
  });
  it('stands with each kind that has rows of the table', () => {
    const two = 'records:\n  page: { table: entries, fields: { body: html } }\n  post:\n    table: entries\n';
    expect(addGap(two, gap)).toBe(
      'records:\n  page: { table: entries, fields: { body: html, teaser: html } }\n' +
        '  post:\n    table: entries\n    fields: { teaser: html }\n',
    );
  });
  it('brings a kind along where none reads the table, or the files', () => {
    const kind = {
      ...gap,
      table: 'boats',
      kind: 'boat',
      section: '{"table":"boats","key":"id","fields":{"teaser":"html"}}',
    };
    expect(addGap(MAP, kind)).toBe(
      `${MAP.trimEnd()}\n  boat:\n    table: boats\n    key: id\n    fields:\n      teaser: html\n`,
    );
    const files = { ...kind, table: '', section: '{"files":"**/*.css","notation":"css"}', kind: 'sheet' };
    expect(addGap(MAP, files)).toContain('\n  sheet:\n    files: "**/*.css"\n    notation: css\n');
    expect(addGap(MAP, { ...kind, kind: 'page' })).toBeNull();
  });
  it('is left to a person where the table is no kind yet', () => {
    expect(addGap(MAP, { ...gap, table: 'boats' })).toBeNull();
    expect(addGap(MAP, { ...gap, name: 'logo' })).toBeNull();
    expect(addGap('records: [', gap)).toBeNull();
  });
});
