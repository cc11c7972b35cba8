import type { ReactNode } from 'react';
import type { MediaItem } from '@/api/types';
import { many, number, weight } from '@/ui/words';

/** A label and what stands behind it; what is null is not said. */
export type Fact = [string, ReactNode];

/** What an item says of itself, without what leads elsewhere. */
export function plainFacts(item: MediaItem): Fact[] {
  const renditions = item.files.filter((f) => !f.is_original);
  const rendered = renditions.reduce((sum, f) => sum + f.weight, 0);
  return [
    ['Pixels', item.width ? `${number(item.width)} × ${number(item.height ?? 0)}` : null],
    ['Type', item.mime],
    [
      'Weight',
      item.weight === null
        ? null
        : `${weight(item.weight)} + ${weight(rendered)} in ${many(renditions.length, 'rendition')}`,
    ],
    [
      'Alt text',
      item.alt || (
        <span key="a" className="text-soft">
          none
        </span>
      ),
    ],
    ['Caption', item.caption || null],
    ['Credit', item.credit || null],
    ['Tags', item.tags.join(', ') || null],
    [
      'Seen',
      item.seen_on > 0
        ? `on ${many(item.seen_on, 'page')}, where no record that was read names it: the site’s own code puts it there`
        : null,
    ],
    ['Media row', item.source_id === null ? 'none: the file lies there unlisted' : `no. ${item.source_id}`],
  ];
}

export function FactList({ facts, className = '' }: { facts: readonly Fact[]; className?: string }) {
  return (
    <dl className={`figures grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 text-[0.95rem] ${className}`}>
      {facts.map(([label, value]) =>
        value === null ? null : (
          <div key={label} className="contents">
            <dt className="text-soft">{label}</dt>
            <dd className="min-w-0 break-words">{value}</dd>
          </div>
        ),
      )}
    </dl>
  );
}
