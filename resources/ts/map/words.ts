import { type Document, parseDocument } from 'yaml';

const YES_OR_NO = ['page', 'everywhere', 'distinct', 'read_only'];

/** Lines whose value is a column. */
const COLUMN = new Set(
  (
    'key title path alt caption credit tags folder width height focus_x focus_y renditions media from to until ' +
    'code column by keep address on'
  ).split(' '),
);

/** Lines under which each name is a column. */
const COLUMNS = new Set(['fields', 'part_of', 'dates', 'spell', 'on']);

/** What can be said in a map of a site. */
export interface MapSpeech {
  /** The server's list of lines: `*` there stands for any one name. */
  lines: Record<string, readonly string[]>;
  notations: readonly string[];
  kinds: readonly string[];
  /** Table → columns. */
  tables: Record<string, readonly string[]>;
  /** The map as it is written now. */
  text: string;
}

/** What a map may say at a place. */
export function wordsAt(speech: MapSpeech): (place: string[], isValue: boolean) => readonly string[] {
  const { lines, notations, kinds, tables } = speech;
  return (place, isValue) => {
    const last = place.at(-1) ?? '';
    const columns = () => tables[tableOf(parseDocument(speech.text), place) ?? ''] ?? [];
    if (!isValue) {
      const known = lines[matching(Object.keys(lines), place) ?? '?'] ?? [];
      return COLUMNS.has(last) ? [...known, ...columns()] : known;
    }
    if (last === 'notation' || matching(['records.*.fields.*'], place)) return notations;
    if (last === 'names' || last === 'kind' || place.at(-2) === 'part_of') return kinds;
    if (last === 'table') return Object.keys(tables);
    if (YES_OR_NO.includes(last)) return ['true', 'false'];
    return COLUMN.has(last) || ['facts', 'on'].includes(place.at(-2) ?? '') ? columns() : [];
  };
}

/** The table whose columns stand at a place: that of the section nearest above. */
function tableOf(map: Document, place: string[]): string | null {
  // On the right of a pair that ties two tables stands a column of the kind's own.
  const from = place.at(-2) === 'on' ? place.slice(0, place.indexOf('joins')) : place;
  for (let depth = from.length; depth > 0; depth--) {
    const table = map.getIn([...from.slice(0, depth), 'table']);
    if (typeof table === 'string') return table;
  }
  return null;
}

function matching(patterns: readonly string[], place: readonly string[]): string | undefined {
  return patterns.find((pattern) => {
    const names = pattern === '' ? [] : pattern.split('.');
    return names.length === place.length && names.every((name, i) => name === '*' || name === place[i]);
  });
}
