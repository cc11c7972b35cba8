import { Check, Copy, X } from 'lucide-react';
import { useState } from 'react';
import type { WayIn } from '@/api/types';
import { Button } from '@/ui/Button';

/** A link that was just made, or that it went out by mail. */
export function WayOut({ way, onClose }: { way: WayIn; onClose: () => void }) {
  const [copied, setCopied] = useState(false);
  return (
    <section aria-label={`Link for ${way.person.name}`} className="sheet mb-4 border-accent/50 p-4">
      <div className="flex items-start gap-3">
        <p role="status" className="flex-1">
          <span className="font-semibold">{way.person.name}.</span> {way.said}
        </p>
        <button
          type="button"
          aria-label="Put it away"
          onClick={onClose}
          className="rounded p-1 hover:bg-tint"
        >
          <X size={16} aria-hidden="true" />
        </button>
      </div>
      {way.link !== null && (
        <div className="mt-2 flex items-center gap-2">
          <input
            readOnly
            aria-label="The link"
            value={way.link}
            onFocus={(event) => event.target.select()}
            className="path h-10 min-w-0 flex-1 rounded-md border border-edge bg-paper px-2"
          />
          {/* Browsers let pages write to the clipboard only where they came over https, or from this machine. */}
          {window.isSecureContext && (
            <Button
              onClick={() => {
                void navigator.clipboard.writeText(way.link ?? '').then(() => setCopied(true));
              }}
            >
              {copied ? <Check size={16} aria-hidden="true" /> : <Copy size={16} aria-hidden="true" />}
              {copied ? 'Copied' : 'Copy'}
            </Button>
          )}
        </div>
      )}
    </section>
  );
}
