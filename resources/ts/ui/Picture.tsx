import { ImageOff } from 'lucide-react';
import { useState } from 'react';
import { useSlug } from '@/api/hooks';

interface Props {
  fileId: number | null;
  sha: string | null;
  alt: string;
  width?: 160 | 480 | 1200;
  className?: string;
  fit?: 'cover' | 'contain';
}

/** A picture of the site, drawn small; an original that is missing shows as an empty frame. */
export function Picture({ fileId, sha, alt, width = 160, className = '', fit = 'contain' }: Props) {
  const slug = useSlug();
  const [failed, setFailed] = useState(false);
  if (fileId === null || failed) {
    return (
      <span
        className={`grid place-items-center border border-dashed border-line bg-well text-soft ${className}`}
        role="img"
        aria-label={alt || 'no picture'}
      >
        <ImageOff size={16} aria-hidden="true" />
      </span>
    );
  }
  return (
    <img
      src={`/api/sites/${slug}/files/${fileId}/picture?w=${width}&v=${(sha ?? '').slice(0, 12)}`}
      alt={alt}
      loading="lazy"
      decoding="async"
      onError={() => setFailed(true)}
      className={`bg-well ${fit === 'cover' ? 'object-cover' : 'object-contain'} ${className}`}
    />
  );
}
