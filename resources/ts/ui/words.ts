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
