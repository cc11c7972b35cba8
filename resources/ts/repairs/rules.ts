import type { Decision } from './useMend';

/** Whatever begins with the one is to begin with the other. */
export interface Rule {
  from: string;
  to: string;
}

/** As many decisions as make a pattern. */
const ALIKE = 3;

/**
 * What a decision changes at the beginning, if the rest stays: `old/` and `archive/` of `old/a.jpg` and
 * `archive/a.jpg`.
 */
export function pattern(asked: string, path: string): Rule | null {
  const [from, to] = [asked.split('/'), path.split('/')];
  let same = 0;
  while (same < from.length && same < to.length && from.at(-1 - same) === to.at(-1 - same)) same++;
  if (same === 0 || (same === from.length && same === to.length)) return null;
  const head = (parts: string[]) =>
    parts
      .slice(0, parts.length - same)
      .map((part) => `${part}/`)
      .join('');
  return head(from) === '' ? null : { from: head(from), to: head(to) };
}

/** The rule that most decisions follow and that is not in force yet; null where too few are alike. */
export function proposed(decisions: ReadonlyMap<string, Decision>, rules: readonly Rule[]): Rule | null {
  const counted = new Map<string, { rule: Rule; count: number }>();
  for (const [asked, path] of decisions) {
    const rule = typeof path === 'string' ? pattern(asked, path) : null;
    if (!rule || rules.some((r) => r.from === rule.from)) continue;
    const key = `${rule.from}\n${rule.to}`;
    const seen = counted.get(key);
    counted.set(key, { rule, count: (seen?.count ?? 0) + 1 });
  }
  const best = [...counted.values()].sort((a, b) => b.count - a.count)[0];
  return best && best.count >= ALIKE ? best.rule : null;
}
