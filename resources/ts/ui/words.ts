const KINDS: Record<string, [string, string]> = {
  page: ['page', 'pages'],
  post: ['post', 'posts'],
  version: ['past version', 'past versions'],
  banner: ['banner', 'banners'],
  'banner-set': ['banner set', 'banner sets'],
  slot: ['slot', 'slots'],
  gallery: ['gallery', 'galleries'],
  'page-part': ['page part', 'page parts'],
  layout: ['layout', 'layouts'],
  'style-sheet': ['style sheet', 'style sheets'],
  setting: ['setting', 'settings'],
};

export function kindWord(kind: string, count = 1): string {
  const words = KINDS[kind] ?? [kind.replaceAll('-', ' '), `${kind.replaceAll('-', ' ')}s`];
  return count === 1 ? words[0] : words[1];
}

const ROLES: Record<string, string> = {
  'img[src]': 'picture in the text',
  'img[srcset]': 'picture in several sizes',
  'source[srcset]': 'picture in several sizes',
  'img[data-src]': 'picture loaded late',
  'a[href]': 'link to the file',
  'video[src]': 'film in the text',
  'video[poster]': 'still of a film',
  'audio[src]': 'sound in the text',
  'css url': 'background in a style',
  'css import': 'style sheet in a style',
  'css image-set': 'background in several sizes',
  'link[href]': 'file of the page',
  'meta[content]': 'picture for sharing',
  'input[src]': 'picture of a button',
  'iframe[src]': 'page in a frame',
  'object[data]': 'embedded file',
  'embed[src]': 'embedded file',
  'image[href]': 'picture in a drawing',
  'use[href]': 'part of a drawing',
  image: 'picture in the text',
  link: 'link to the file',
  script: 'named in a script',
  url: 'address in a field',
  featured: 'featured picture',
  setting: 'setting',
  'named in text': 'named in the text',
  key: 'name of an entry',
  call: 'named in a call',
  import: 'imported file',
};

/** How something is placed, in plain words: `background of a table` where the markup has no better ones. */
export function roleWord(role: string): string {
  const plain = ROLES[role];
  if (plain) return plain;
  const [, element, attribute] = /^([\w:.-]+)\[([\w:-]+)\]$/.exec(role) ?? [];
  return element && attribute
    ? `${attribute.replace(/^xlink:/, '')} of ${element.replace(/^svg:/, '')}`
    : role;
}

/** `3 pictures`, `1 picture`; the plural may be given where it is not a plain s. */
export function many(count: number, one: string, more = `${one}s`): string {
  return `${number(count)} ${count === 1 ? one : more}`;
}

const plain = new Intl.NumberFormat('en');
export function number(value: number): string {
  return plain.format(value);
}

export function weight(bytes: number | null | undefined): string {
  if (bytes === null || bytes === undefined) return '—';
  if (bytes < 1000) return `${bytes} B`;
  if (bytes < 1_000_000) return `${Math.round(bytes / 1000)} kB`;
  return `${(bytes / 1_000_000).toFixed(bytes < 10_000_000 ? 1 : 0)} MB`;
}

const relative = new Intl.RelativeTimeFormat('en', { numeric: 'auto' });
export function ago(iso: string): string {
  const seconds = (Date.parse(iso) - Date.now()) / 1000;
  for (const [unit, size] of [
    ['day', 86400],
    ['hour', 3600],
    ['minute', 60],
  ] as const) {
    if (Math.abs(seconds) >= size) return relative.format(Math.round(seconds / size), unit);
  }
  return 'just now';
}

const moment = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
export function when(iso: string): string {
  return moment.format(new Date(iso));
}

/** What a record says of itself: a moment in the reader's own time, all else as it is. */
export function fact(value: string | number): string {
  const isMoment = typeof value === 'string' && /^\d{4}-\d\d-\d\d[ T]\d\d:\d\d/.test(value);
  const moment = isMoment ? value.replace(' ', 'T').replace(/([+-]\d\d)$/, '$1:00') : '';
  return isMoment && !Number.isNaN(Date.parse(moment)) ? when(moment) : String(value);
}

/** `800 × 600`, in the reader's digits; null for what has no pixels. */
export function pixels(width: number | null, height: number | null): string | null {
  return width === null ? null : `${number(width)} × ${number(height ?? 0)}`;
}

/** A box as the site states it, `1200 × 240` or `300 wide`, in the reader's digits. */
export function box(stated: string | null | undefined): string {
  return stated?.replace(/\d{4,}/g, (digits) => number(Number(digits))) ?? '';
}

/** A long text without its middle, since the ends of an address tell most. */
export function middle(text: string, most: number): string {
  if (text.length <= most) return text;
  const end = Math.floor((most - 1) / 2);
  return `${text.slice(0, most - 1 - end)}…${text.slice(-end)}`;
}

const collator = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });
/** As a person counts: no. 9 before no. 10. */
export function natural(a: string, b: string): number {
  return collator.compare(a, b);
}

/** A clause as a sentence of its own. */
export function sentence(clause: string): string {
  return clause.charAt(0).toUpperCase() + clause.slice(1) + '.';
}

export function fileName(path: string): string {
  return path.slice(path.lastIndexOf('/') + 1);
}
export function folderOf(path: string): string {
  return path.slice(0, path.lastIndexOf('/') + 1);
}
