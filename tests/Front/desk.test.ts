import { describe, expect, it } from 'vitest';
import type { Desk } from '@/api/types';
import { sentencesOf } from '@/desk/sentences';

const nothing: Desk = {
  broken: { references: 0, pages: 0, families: [] },
  standing: { live: 9 },
  idle: { items: 0, files: 0, bytes: 0 },
  safe: { items: 0, files: 0, bytes: 0 },
  mentioned: 0,
  not_searched: 0,
  place_questions: 0,
  left_behind: { items: 0, records: 0, title: '' },
  resting: { called: 0, called_by: '', over: 0, over_bytes: 0, damaged: 0 },
  large: { items: 0, bytes: 0 },
  copies: { items: 0, groups: 0 },
  expired_banners: 0,
  numbers: { items: 9, files: 9, bytes: 9, rendition_bytes: 0, records: 9, pages: 9, references: 9 },
  unread: 0,
  stale_changes: [],
  unkept_changes: [],
  installation: [],
};
const family = (cause: string, broken: boolean, references: number) => ({
  cause,
  title: cause === 'former-address' ? 'Former address' : 'Foreign host',
  sentence:
    cause === 'former-address' ? 'the address is a former one' : 'the picture comes from another host',
  broken,
  references,
  sure: 0,
  records: 1,
  pages: 1,
  live: 1,
  files: 1,
  sample: null,
});
const said = (desk: Partial<Desk>, maintain = true) =>
  sentencesOf({ ...nothing, ...desk }, maintain).map((s) => `${s.counted} ${s.rest} → ${s.to}: ${s.act}`);

describe('the sentences of the desk', () => {
  it('are none where nothing needs anybody', () => {
    expect(said({})).toEqual([]);
  });

  it.each([
    [1, '1 page still shows the site as it was before a change. → changes/4: Purge it'],
    [3, '3 pages still show the site as it was before a change. → changes/4: Purge them'],
  ])('count %i stale', (stale, sentence) => {
    expect(said({ stale_changes: [{ id: 4, title: 'A swap', stale }] })).toEqual([sentence]);
  });

  it('offer nobody what the role may not do', () => {
    const [sentence] = sentencesOf(
      { ...nothing, stale_changes: [{ id: 4, title: 'A swap', stale: 2 }] },
      false,
    );
    expect(sentence?.act).toBe('See them');
  });

  it('count broken references over all their families, and lead to them', () => {
    const broken = {
      references: 5,
      pages: 2,
      families: [family('former-address', true, 4), family('former-address', true, 3)],
    };
    expect(said({ broken })).toEqual([
      '7 references do not lead where they should. → repairs: See the causes',
    ]);
    const [sentence] = sentencesOf({ ...nothing, broken }, true);
    expect(sentence?.urgent).toBe(true);
    expect(sentence?.more).toBe('5 on 2 public pages. By cause: 4 former address, 3 former address.');
    expect(sentence?.act).toBe('See the causes');
  });

  it('say how many mend themselves, to whoever may mend them', () => {
    const broken = {
      references: 5,
      pages: 2,
      families: [{ ...family('former-address', true, 4), sure: 4 }, family('missing-file', true, 3)],
    };
    const [sentence] = sentencesOf({ ...nothing, broken }, true);
    expect(sentence?.more).toMatch(/One plan mends 4\.$/);
    expect(sentence?.act).toBe('Mend them');
    expect(sentencesOf({ ...nothing, broken }, false)[0]?.act).toBe('See the causes');
  });

  it('are not urgent where no visitor meets it', () => {
    const [sentence] = sentencesOf(
      { ...nothing, broken: { references: 0, pages: 0, families: [family('former-address', true, 1)] } },
      true,
    );
    expect(sentence?.urgent).toBe(false);
    expect(sentence?.counted).toBe('1 reference');
    expect(sentence?.rest).toBe('does not lead where it should.');
    expect(sentence?.more).toContain('No public page has one.');
  });

  it('give each family that loads from elsewhere its own list', () => {
    expect(
      said({ broken: { references: 0, pages: 0, families: [family('foreign-host', false, 2)] } }),
    ).toEqual([
      '2 references load, but the picture comes from another host. → repairs/foreign-host: See them',
    ]);
  });

  it('lead to the list of exactly what they count', () => {
    expect(
      said({
        unread: 1,
        large: { items: 1, bytes: 5_000_000 },
        standing: { idle: 4 },
        safe: { items: 3, files: 9, bytes: 1_000_000 },
        resting: { called: 1, called_by: 'Somebody asked for it.', over: 2, over_bytes: 9, damaged: 1 },
        copies: { items: 5, groups: 2 },
        expired_banners: 1,
      }),
    ).toEqual([
      '1 resting file is called back. → resting: Restore it',
      '1 record could not be read in full. → places?unread=1: See it',
      '1 picture in use is wider than 2,600 pixels. → media?large=1&sort=weight: Heaviest first',
      '3 items are safe to rest: all was looked at, and nothing needs them. → resting: Lay them to rest',
      '1 item is idle, but not safe: something else may need it. → media?standing=idle&proof=ask: Look at it',
      '1 bag of the archive is damaged. → resting: See it',
      '2 resting files may go to the archive: their days are over. → resting: Look at the archive',
      '5 items are copies of one another, byte for byte. → media?copies=1&sort=same: Look at them',
      '1 banner is over or switched off. → places?kind=banner&state=fading: Show it',
    ]);
  });
});
