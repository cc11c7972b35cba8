import { isMap, isScalar, parseDocument, stringify, type YAMLMap } from 'yaml';
import type { Gap } from '@/api/types';

/**
 * The map with a line for what it leaves out; every other byte of it stays.
 *
 * @returns null where somebody has to say more than a click does: whose rows they are, or what kind
 */
export function addGap(map: string, gap: Gap): string | null {
  const document = parseDocument(map);
  const records = document.get('records');
  if (document.errors.length > 0 || !isMap(records)) return null;
  const rule: unknown = gap.rule.startsWith('{') ? JSON.parse(gap.rule) : gap.rule;
  for (const kind of records.items) {
    const name = isScalar(kind.key) ? kind.key.value : kind.key;
    if (document.getIn(['records', name, 'table']) !== gap.table) continue;
    const path = ['records', name, 'fields', ...(gap.name === '' ? [] : [gap.column, 'of'])];
    const among = document.getIn(path, true);
    if (isMap(among)) return inserted(map, among, gap.name === '' ? gap.column : gap.name, rule);
  }
  return null;
}

/** One more pair behind the last of a mapping, in the style in which that is written. */
function inserted(text: string, among: YAMLMap, name: string, rule: unknown): string | null {
  const [start, end] = among.range ?? [0, 0];
  const pair = stringify({ [name]: rule }, { collectionStyle: 'flow', lineWidth: 0 })
    .trim()
    .replace(/^\{\s*|\s*\}$/g, '');
  if (among.flow === true) {
    const brace = text.lastIndexOf('}', end);
    const before = text.slice(0, brace).trimEnd();
    return `${before}${among.items.length > 0 ? ',' : ''} ${pair} ${text.slice(brace)}`;
  }
  if (among.items.length === 0) return null;
  const indent = start - (text.lastIndexOf('\n', start - 1) + 1);
  // Behind the line on which the last value ends, with the note that may stand there.
  const lastByte = text.slice(0, end).trimEnd().length;
  const lineEnd = text.indexOf('\n', lastByte);
  const at = lineEnd === -1 ? text.length : lineEnd;
  return `${text.slice(0, at)}\n${' '.repeat(indent)}${pair}${text.slice(at)}`;
}
