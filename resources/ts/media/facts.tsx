import type { MediaItem } from '@/api/types';
import type { Fact } from '@/ui/FactList';
import { many, number, weight } from '@/ui/words';

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
