import type { MediaItem } from '@/api/types';
import { Picture } from './Picture';

/** An item's original, as large as a side column shows it. */
export function ItemPicture({ item, className = '' }: { item: MediaItem; className?: string }) {
  return (
    <Picture
      fileId={item.file_id}
      sha={item.sha256}
      mime={item.mime}
      alt={item.alt}
      width={480}
      className={`max-h-56 w-full rounded-md border border-line ${className}`}
    />
  );
}
