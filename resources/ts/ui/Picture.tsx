import { FileText, Film, ImageOff, Music } from 'lucide-react';
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
  /** Of the file; what is no picture is shown by its type. */
  mime?: string | null;
  width?: 160 | 480 | 1200;
  className?: string;
  fit?: keyof typeof FITS;
}

/** A picture of the site, drawn small; an original that is missing shows as an empty frame. */
export function Picture({
  fileId,
  sha,
  alt,
  mime = null,
  width = 160,
  className = '',
  fit = 'contain',
}: Props) {
  const slug = useSlug();
  const [failed, setFailed] = useState(false);
  if (fileId !== null && mime !== null && !mime.startsWith('image/')) {
    return <TypeTile type={typeOf(mime)} className={className} />;
  }
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

/** A document, a film or a sound: its kind as a sign, its type as a word. */
export function TypeTile({ type, className = '' }: { type: string; className?: string }) {
  const Sign = FILMS.has(type) ? Film : SOUNDS.has(type) ? Music : FileText;
  return (
    <span
      className={`flex items-center justify-center gap-1.5 border border-line bg-well text-[0.8rem] font-semibold text-soft ${className}`}
      role="img"
      aria-label={`a ${type} file`}
    >
      <Sign size={16} aria-hidden="true" />
      {type}
    </span>
  );
}

const FILMS = new Set(['webm', 'mp4', 'ogv', 'mov', 'm4v']);
const SOUNDS = new Set(['wav', 'mp3', 'ogg', 'm4a', 'flac', 'mpeg']);

/** `application/pdf` → `pdf`, `audio/x-wav` → `wav`. */
export function typeOf(mime: string): string {
  return mime.replace(/^.*\//, '').replace(/^x-|\+xml$/g, '');
}
