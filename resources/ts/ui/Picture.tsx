import { ImageOff } from 'lucide-react';
import { useState } from 'react';
import { useSlug } from '@/api/hooks';

const FITS = { cover: 'object-cover', contain: 'object-contain', own: 'object-scale-down' };

/** Fills the frame unless that would hide most of the picture, or blow up a small one. */
export function fitFor(width: number | null, height: number | null): keyof typeof FITS {
  if (!width || !height) return 'contain';
  if (width < 140 && height < 140) return 'own';
  return width / height > 2.2 || width / height < 0.5 ? 'contain' : 'cover';
}

interface Props {
  fileId: number | null;
  sha: string | null;
  alt: string;
  width?: 160 | 480 | 1200;
  className?: string;
  fit?: keyof typeof FITS;
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
      className={`bg-well ${FITS[fit]} ${className}`}
    />
  );
}
