import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import {
  ago,
  box,
  fileName,
  folderOf,
  kindWord,
  many,
  number,
  roleWord,
  sentence,
  weight,
  when,
} from '@/ui/words';

describe('kindWord', () => {
  it.each([
    ['page', 1, 'page'],
    ['page', 2, 'pages'],
    ['page', 0, 'pages'],
    ['gallery', 3, 'galleries'],
    ['banner-set', 1, 'banner set'],
    ['version', 2, 'past versions'],
    // A kind that only the site's own map knows.
    ['tide-table', 1, 'tide table'],
    ['tide-table', 2, 'tide tables'],
  ])('calls %s × %i "%s"', (kind, count, words) => {
    expect(kindWord(kind, count)).toBe(words);
  });

  it('speaks of one where no number is given', () => {
    expect(kindWord('post')).toBe('post');
  });
});

describe('many', () => {
  it.each([
    [0, '0 pictures'],
    [1, '1 picture'],
    [2, '2 pictures'],
    [1234, '1,234 pictures'],
  ])('counts %i', (count, words) => {
    expect(many(count, 'picture')).toBe(words);
  });

  it('takes a plural that is no plain s', () => {
    expect(many(1, 'address', 'addresses')).toBe('1 address');
    expect(many(2, 'address', 'addresses')).toBe('2 addresses');
  });
});

describe('number', () => {
  it.each([
    [0, '0'],
    [999, '999'],
    [1000, '1,000'],
    [1234567, '1,234,567'],
  ])('writes %i as %s', (value, words) => {
    expect(number(value)).toBe(words);
  });
});

describe('weight', () => {
  it.each([
    [null, '—'],
    [undefined, '—'],
    [0, '0 B'],
    [999, '999 B'],
    [1000, '1 kB'],
    [1499, '1 kB'],
    [1500, '2 kB'],
    [999_400, '999 kB'],
    [1_000_000, '1.0 MB'],
    [1_250_000, '1.3 MB'],
    [9_940_000, '9.9 MB'],
    [37_000_000, '37 MB'],
  ])('writes %s bytes as %s', (bytes, words) => {
    expect(weight(bytes)).toBe(words);
  });
});

describe('ago', () => {
  beforeEach(() => {
    vi.useFakeTimers();
    vi.setSystemTime(new Date('2026-05-05T12:00:00Z'));
  });
  afterEach(() => {
    vi.useRealTimers();
  });

  it.each([
    ['2026-05-05T12:00:00Z', 'just now'],
    ['2026-05-05T11:59:01Z', 'just now'],
    ['2026-05-05T11:59:00Z', '1 minute ago'],
    ['2026-05-05T11:15:00Z', '45 minutes ago'],
    ['2026-05-05T11:00:00Z', '1 hour ago'],
    ['2026-05-05T03:00:00Z', '9 hours ago'],
    ['2026-05-04T12:00:00Z', 'yesterday'],
    ['2026-05-01T12:00:00Z', '4 days ago'],
    // The clock of the server may be ahead.
    ['2026-05-05T12:00:20Z', 'just now'],
    ['2026-05-06T12:00:00Z', 'tomorrow'],
  ])('calls %s "%s"', (iso, words) => {
    expect(ago(iso)).toBe(words);
  });
});

describe('when', () => {
  it('writes a moment for people', () => {
    expect(when('2026-05-05T09:07:00Z')).toMatch(/^5 May 2026, 09:07$/);
  });
});

describe('sentence', () => {
  it('makes one of a clause', () => {
    expect(sentence('the file is nowhere on the site')).toBe('The file is nowhere on the site.');
  });
});

describe('paths', () => {
  it.each([
    ['media/people/maren.jpg', 'media/people/', 'maren.jpg'],
    ['maren.jpg', '', 'maren.jpg'],
    ['media/', 'media/', ''],
  ])('takes %s apart', (path, folder, name) => {
    expect(folderOf(path)).toBe(folder);
    expect(fileName(path)).toBe(name);
  });
});

describe('box', () => {
  it.each([
    ['1200 × 240', '1,200 × 240'],
    ['300 wide', '300 wide'],
    ['12000 wide', '12,000 wide'],
    ['', ''],
    [null, ''],
    [undefined, ''],
  ])('says %s in the digits of a reader', (stated, says) => {
    expect(box(stated)).toBe(says);
  });
});

describe('roleWord', () => {
  it.each([
    ['img[src]', 'picture in the text'],
    ['table[background]', 'background of table'],
    ['svg:script[xlink:href]', 'href of script'],
    ['featured', 'featured picture'],
    ['token photo[id]', 'token photo[id]'],
    ['named in text', 'named in the text'],
  ])('says %s in plain words', (role, words) => {
    expect(roleWord(role)).toBe(words);
  });
});
