import { describe, expect, it } from 'vitest';
import { pattern, proposed } from '../../resources/ts/repairs/rules';

describe('what a decision changes at the beginning', () => {
  it.each([
    ['media/old/a.jpg', 'media/archive/a.jpg', { from: 'media/old/', to: 'media/archive/' }],
    ['old/2014/a.jpg', 'media/2014/a.jpg', { from: 'old/', to: 'media/' }],
    ['media/old/a.jpg', 'media/a.jpg', { from: 'media/old/', to: 'media/' }],
    ['media/a.jpg', 'media/b.jpg', null],
    ['media/a.jpg', 'media/a.jpg', null],
    ['a.jpg', 'media/a.jpg', null],
  ])('%s → %s', (asked, path, rule) => {
    expect(pattern(asked, path)).toEqual(rule);
  });
});

describe('a rule', () => {
  const alike = new Map<string, string | null>([
    ['media/old/a.jpg', 'media/archive/a.jpg'],
    ['media/old/b.jpg', 'media/archive/b.jpg'],
    ['media/old/c.jpg', null],
    ['media/x/d.jpg', 'media/y/d.jpg'],
  ]);

  it('is proposed once three decisions are alike', () => {
    expect(proposed(alike, [])).toBeNull();
    const more = new Map([...alike, ['media/old/deep/e.jpg', 'media/archive/deep/e.jpg']]);
    expect(proposed(more, [])).toEqual({ from: 'media/old/', to: 'media/archive/' });
  });

  it('is not proposed again once it is in force', () => {
    const more = new Map([...alike, ['media/old/e.jpg', 'media/archive/e.jpg']]);
    expect(proposed(more, [{ from: 'media/old/', to: 'media/archive/' }])).toBeNull();
  });
});
