import { beforeEach, describe, expect, it, vi } from 'vitest';
import { groupPlaces, toggled } from '@/swap/places';
import { draftKey, forgetDraft, keepDraft, readDraft } from '@/ui/draft';
import { fact, middle, natural, pixels, roleWord } from '@/ui/words';
import { page, record, reference, trail } from './trail';

describe('drafts', () => {
  const kept = new Map<string, string>();
  beforeEach(() => {
    kept.clear();
    vi.stubGlobal('localStorage', {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, value: string) => void kept.set(key, value),
      removeItem: (key: string) => void kept.delete(key),
    });
  });
  const words = { title: 'Terns', alt: '', caption: '', credit: '' };
  const key = draftKey('korrin-bay', 'media/12/swap?to=5');

  it('are of a bench, whatever its address says of what was chosen', () => {
    expect(key).toBe(draftKey('korrin-bay', 'media/12/swap'));
    expect(key).not.toBe(draftKey('korrin-bay', 'media/13/swap'));
  });

  it('come back as they were left, until they are forgotten', () => {
    keepDraft(key, { left: [3, 4], words });
    expect(readDraft(key)).toEqual({ left: [3, 4], words });
    forgetDraft(key);
    expect(readDraft(key).left).toEqual([]);
    expect(kept.size).toBe(0);
  });

  it.each(['not json', '{"left":["x",2.5,7],"words":{"title":9}}', '[]', 'null'])('survive %s', (text) => {
    kept.set(key, text);
    expect(readDraft(key).left.every(Number.isInteger)).toBe(true);
    expect(readDraft(key).words.title).toBe('');
  });

  it('are not needed where the browser keeps nothing', () => {
    vi.stubGlobal('localStorage', {
      getItem: () => {
        throw new Error('no storage');
      },
      setItem: () => {
        throw new Error('no storage');
      },
    });
    keepDraft(key, { left: [1], words });
    expect(readDraft(key).left).toEqual([]);
  });
});

describe('places', () => {
  const posts = [12, 9, 10].map((n) => page(n, { kind: 'post', title: `No. ${n}` }));
  const data = trail({
    records: [record(1, { kind: 'setting', title: 'Logo' }), ...posts],
    references: [reference(1, 1), ...posts.map((p) => reference(p.id, 1)), reference(9, 1)],
  });

  it('stand by kind, most first, in the order in which people count', () => {
    const groups = groupPlaces(data);
    expect(groups.map((g) => [g.kind, g.references.length])).toEqual([
      ['post', 4],
      ['setting', 1],
    ]);
    expect(groups[0]?.records.map((r) => r.record.title)).toEqual(['No. 9', 'No. 10', 'No. 12']);
    expect(groups[0]?.records[0]?.references).toHaveLength(2);
  });

  it('are left out and taken in again together', () => {
    const some = toggled(new Set([7]), [1, 2], false);
    expect([...some]).toEqual([7, 1, 2]);
    expect([...toggled(some, [1, 7], true)]).toEqual([2]);
  });
});

describe('words', () => {
  it('keep both ends of what is too long', () => {
    expect(middle('https://korrinbay.example/media/people/maren-oake.w160.jpg', 24)).toBe(
      'https://korr…ke.w160.jpg',
    );
    expect(middle('short', 24)).toBe('short');
  });
  it('count as people do', () => {
    expect(['No. 10', 'no. 9', 'No. 1'].sort(natural)).toEqual(['No. 1', 'no. 9', 'No. 10']);
  });
  it('say how something is placed, plainly where that can be', () => {
    expect(roleWord('img[src]')).toBe('picture in the text');
    expect(roleWord('site-photo[wide]')).toBe('wide of site-photo');
  });
  it('say sizes in one way', () => {
    expect(pixels(6000, 4000)).toBe('6,000 × 4,000');
    expect(pixels(null, null)).toBeNull();
  });
  it('say moments in the time of the reader, and leave all else', () => {
    expect(fact('2019-08-23 09:00:00+00')).toMatch(/^23 Aug 2019, \d\d:\d\d$/);
    expect(fact('2019')).toBe('2019');
    expect(fact(12)).toBe('12');
  });
});
