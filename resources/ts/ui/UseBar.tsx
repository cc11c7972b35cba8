import { number } from './words';

const ORDER = ['page', 'post', 'featured', 'banner', 'part', 'gallery', 'style', 'version'] as const;
const NAMES: Record<string, string> = {
  page: 'in pages',
  post: 'in posts',
  featured: 'as featured picture',
  banner: 'in banners',
  part: 'in page parts',
  gallery: 'in galleries',
  style: 'in style sheets',
  version: 'in past versions',
};

export function wordsOfUse(kind: string): string {
  return NAMES[kind] ?? kind;
}

/** A kind of use beside the colour that it has in the bars. */
export function UseWord({ kind }: { kind: string }) {
  return (
    <span className="inline-flex items-center gap-1.5">
      <span
        aria-hidden="true"
        className="keeps-colour size-2.5 shrink-0 rounded-[2px]"
        style={{ background: `var(--${kind}-use, var(--part-use))` }}
      />
      {wordsOfUse(kind)}
    </span>
  );
}

/** How often and in what an item is used. Length grows with the logarithm, so that 3 and 300 can both be seen. */
export function UseBar({ kinds, max = 120 }: { kinds: Record<string, number>; max?: number }) {
  const total = Object.values(kinds).reduce((a, b) => a + b, 0);
  if (total === 0) return <span className="text-soft">no use</span>;
  const length = Math.min(1, 0.16 + Math.log10(total) / 2.1);
  const parts = [...ORDER, ...Object.keys(kinds).filter((k) => !(ORDER as readonly string[]).includes(k))]
    .map((kind) => [kind, kinds[kind] ?? 0] as const)
    .filter(([, count]) => count > 0);
  const words = parts.map(([kind, count]) => `${number(count)} ${wordsOfUse(kind)}`).join(', ');
  return (
    <span className="flex items-center gap-2" title={words}>
      <span className="figures w-8 shrink-0 text-right font-semibold">{number(total)}</span>
      <span
        role="img"
        aria-label={words}
        className="keeps-colour flex h-3 overflow-hidden rounded-[3px]"
        style={{ width: Math.max(10, max * length) }}
      >
        {parts.map(([kind, count]) => (
          <span
            key={kind}
            style={{ flexGrow: count, background: `var(--${kind}-use, var(--part-use))` }}
            className="min-w-[3px] border-r border-sheet last:border-r-0"
          />
        ))}
      </span>
    </span>
  );
}
