import { type Document, isMap, isScalar, parseDocument, stringify, type YAMLMap } from 'yaml';
import type { Gap } from '@/api/types';

/**
 * The map with lines for what it leaves out; every other byte of it stays.
 *
 * @returns null where somebody has to say more than a click does: whose rows they are, or what kind
 */
export function addGap(map: string, gap: Gap): string | null {
  const document = parseDocument(map);
  const records = document.get('records');
  if (document.errors.length > 0 || !isMap(records)) return null;
  const kinds = records.items.flatMap(({ key }) => {
    const name = isScalar(key) ? String(key.value) : String(key);
    return gap.table !== '' && document.getIn(['records', name, 'table']) === gap.table ? [name] : [];
  });
  if (kinds.length === 0) return gap.kind === '' ? null : withKind(map, records, gap);
  // Several kinds may share a table; from the last to the first, so that what stands before keeps its place.
  let text = map;
  let isAdded = false;
  for (const kind of kinds.toReversed()) {
    const added = withField(text, parseDocument(text), kind, gap);
    if (added !== null) {
      text = added;
      isAdded = true;
    }
  }
  return isAdded ? text : null;
}

function withField(map: string, document: Document, kind: string, gap: Gap): string | null {
  const rule: unknown = gap.rule.startsWith('{') ? JSON.parse(gap.rule) : gap.rule;
  const fields = ['records', kind, 'fields'];
  const column = [...fields, gap.column];
  if (gap.path !== '') {
    return withPath(map, document, gap.name === '' ? column : [...column, 'of', gap.name], gap.path, rule);
  }
  const among = document.getIn(gap.name === '' ? fields : [...column, 'of'], true);
  if (isMap(among)) return inserted(map, among, gap.name === '' ? gap.column : gap.name, rule);
  // A kind that only carried others has no fields yet.
  const section = document.getIn(['records', kind], true);
  return gap.name === '' && among === undefined && isMap(section)
    ? inserted(map, section, 'fields', { [gap.column]: rule })
    : null;
}

/** One more place inside of a structured value. */
function withPath(
  map: string,
  document: Document,
  field: string[],
  path: string,
  rule: unknown,
): string | null {
  const said = document.getIn(field, true);
  if (isScalar(said) && said.range) {
    const [start, end] = said.range;
    const long = flow({ notation: said.value, paths: { [path]: rule } });
    return map.slice(0, start) + long + map.slice(end);
  }
  if (!isMap(said)) return null;
  const paths = document.getIn([...field, 'paths'], true);
  return isMap(paths) ? inserted(map, paths, path, rule) : inserted(map, said, 'paths', { [path]: rule });
}

/** A kind of record behind the last one. */
function withKind(map: string, records: YAMLMap, gap: Gap): string | null {
  if (records.has(gap.kind)) return null;
  const section: unknown = JSON.parse(gap.section);
  return records.flow === true || records.items.length === 0
    ? inserted(map, records, gap.kind, section)
    : behind(map, records, stringify({ [gap.kind]: section }, { lineWidth: 0 }).trimEnd());
}

function flow(value: unknown): string {
  return stringify(value, { collectionStyle: 'flow', lineWidth: 0 }).trim();
}

/** One more pair behind the last of a mapping, in the style in which that is written. */
function inserted(text: string, among: YAMLMap, name: string, rule: unknown): string | null {
  const pair = flow({ [name]: rule }).replace(/^\{\s*|\s*\}$/g, '');
  if (among.flow === true) {
    const brace = text.lastIndexOf('}', among.range?.[1]);
    const before = text.slice(0, brace).trimEnd();
    return `${before}${among.items.length > 0 ? ',' : ''} ${pair} ${text.slice(brace)}`;
  }
  return among.items.length === 0 ? null : behind(text, among, pair);
}

/** Lines behind the line on which the last value of a mapping ends, with the note that may stand there. */
function behind(text: string, among: YAMLMap, lines: string): string {
  const [start, end] = among.range ?? [0, 0];
  const indent = ' '.repeat(start - (text.lastIndexOf('\n', start - 1) + 1));
  const lastByte = text.slice(0, end).trimEnd().length;
  const lineEnd = text.indexOf('\n', lastByte);
  const at = lineEnd === -1 ? text.length : lineEnd;
  return `${text.slice(0, at)}\n${lines.replace(/^/gm, indent)}${text.slice(at)}`;
}
