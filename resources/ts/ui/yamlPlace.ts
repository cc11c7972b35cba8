/** Where in a YAML text somebody is writing: the names above it, and what is typed of the word. */
export interface YamlPlace {
  place: string[];
  /** Behind a name and its colon. */
  isValue: boolean;
  typed: string;
}

const NAME = /^(\s*)(?:- +)?(?:"([^"]+)"|'([^']+)'|([^\s:#][^:#]*?))\s*:(?:\s|$)/;

/**
 * @param number the line in which it is, from 1
 * @param before what stands before it in that line
 */
export function placeAt(text: string, number: number, before: string): YamlPlace {
  const value = NAME.exec(before);
  const typed = /[\w-]*$/.exec(before)?.[0] ?? '';
  let indent = before.length - before.trimStart().length;
  const place: string[] = [];
  if (value) place.unshift(nameOf(value));
  const lines = text.split('\n');
  for (let i = number - 2; i >= 0 && indent > 0; i--) {
    const above = NAME.exec(lines[i] ?? '');
    const depth = above?.[1]?.length ?? 0;
    if (!above || depth >= indent) continue;
    place.unshift(nameOf(above));
    indent = depth;
  }
  return { place, isValue: value !== null, typed };
}

function nameOf(match: RegExpExecArray): string {
  return match[2] ?? match[3] ?? match[4] ?? '';
}
