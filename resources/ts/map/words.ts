const YES_OR_NO = ['page', 'everywhere', 'distinct', 'read_only'];

/** What a map may say at a place, out of the server's list of lines: `*` there stands for any one name. */
export function wordsAt(
  lines: Record<string, readonly string[]>,
  notations: readonly string[],
  kinds: readonly string[],
): (place: string[], isValue: boolean) => readonly string[] {
  return (place, isValue) => {
    if (!isValue) return lines[matching(Object.keys(lines), place) ?? '?'] ?? [];
    const last = place.at(-1) ?? '';
    if (last === 'notation' || matching(['records.*.fields.*'], place)) return notations;
    if (last === 'names' || last === 'kind') return kinds;
    return YES_OR_NO.includes(last) ? ['true', 'false'] : [];
  };
}

function matching(patterns: readonly string[], place: readonly string[]): string | undefined {
  return patterns.find((pattern) => {
    const names = pattern === '' ? [] : pattern.split('.');
    return names.length === place.length && names.every((name, i) => name === '*' || name === place[i]);
  });
}
