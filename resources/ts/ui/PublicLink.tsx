import { ExternalLink } from 'lucide-react';
import { useSite } from '@/api/hooks';

/** The address on the public site, opened where this machine reaches it. */
export function PublicLink({
  address,
  label,
  className = '',
}: {
  address: string;
  label?: string;
  className?: string;
}) {
  const site = useSite().data;
  if (!site) return <span className={`path ${className}`}>/{address}</span>;
  // A whole address of the site is opened where this machine reaches it, like one below its root.
  const below = address.startsWith(site.address) ? address.slice(site.address.length) : address;
  const url = below.startsWith('http') ? below : site.public_at + below;
  const path = below.startsWith('http') ? new URL(below).pathname : `/${below}`;
  return (
    <a
      href={url}
      target="_blank"
      rel="noreferrer"
      title={`Opens ${site.address}${path.slice(1)} as visitors see it`}
      className={`inline-flex min-h-[24px] max-w-full min-w-0 items-center gap-1 text-accent hover:underline ${className}`}
    >
      <span className={`truncate ${label === undefined ? 'path' : ''}`}>{label ?? path}</span>
      <ExternalLink size={13} className="shrink-0" aria-hidden="true" />
      <span className="sr-only">(opens the public page)</span>
    </a>
  );
}
