import { ImageOff } from 'lucide-react';
import { useState } from 'react';
import { TypeTile, typeOf } from '@/ui/Picture';

/** The picture of a file that visitors cannot reach: at rest, or in a bag. */
export function KeptPicture({
  src,
  mime,
  className = '',
}: {
  src: string;
  mime: string;
  className?: string;
}) {
  const [failed, setFailed] = useState(false);
  if (mime !== '' && !mime.startsWith('image/'))
    return <TypeTile type={typeOf(mime)} className={className} />;
  if (failed)
    return (
      <span className={`grid place-items-center bg-well text-soft ${className}`} aria-hidden="true">
        <ImageOff size={16} />
      </span>
    );
  return (
    <img
      src={src}
      alt=""
      loading="lazy"
      decoding="async"
      onError={() => setFailed(true)}
      className={`bg-well object-cover ${className}`}
    />
  );
}
