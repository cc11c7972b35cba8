import { ArrowRight } from 'lucide-react';
import { Fragment } from 'react';
import { useMediaItem } from '@/api/hooks';
import type { PlanPictures } from '@/api/types';
import { Picture } from '@/ui/Picture';

/** What gives way and what comes, as the plan itself names them. */
export function Pair({ pictures }: { pictures: PlanPictures }) {
  if (pictures.length === 0) return null;
  return (
    <div className="mb-3 flex items-center gap-2 border-b border-line pb-3">
      {pictures.map((picture, i) => (
        <Fragment key={picture.label}>
          {i > 0 && <ArrowRight size={18} className="shrink-0 text-accent" aria-hidden="true" />}
          <figure className="min-w-0 flex-1">
            {picture.item === null ? (
              <span className="grid h-24 place-items-center rounded bg-well px-1 text-center text-[0.88rem] break-all text-soft">
                {picture.words}
              </span>
            ) : (
              <Side item={picture.item} alt={`${picture.label}: ${picture.words}`} />
            )}
            <figcaption className="mt-1 truncate text-[0.85rem] text-soft" title={picture.words}>
              {picture.label}: {picture.words}
            </figcaption>
          </figure>
        </Fragment>
      ))}
    </div>
  );
}

function Side({ item, alt }: { item: number; alt: string }) {
  const media = useMediaItem(item).data;
  if (!media) return <div className="h-24" />;
  return (
    <Picture
      fileId={media.file_id}
      sha={media.sha256}
      mime={media.mime}
      alt={alt}
      width={480}
      className="h-24 w-full rounded"
    />
  );
}
