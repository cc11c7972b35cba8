import { ImageUp } from 'lucide-react';
import { useRef, useState } from 'react';
import { Problem } from '@/api/client';
import { sendPicture, useSlug } from '@/api/hooks';
import type { Upload } from '@/api/types';
import { Button } from '@/ui/Button';

/** Sends a file that shall stand in, chosen or dropped; what is refused says why. */
export function Uploader({ onTaken }: { onTaken: (upload: Upload) => void }) {
  const slug = useSlug();
  const [refused, setRefused] = useState<string | null>(null);
  const [sending, setSending] = useState(false);
  const [taken, setTaken] = useState('');
  const [over, setOver] = useState(false);
  const input = useRef<HTMLInputElement>(null);

  async function send(file: File | undefined) {
    if (!file) return;
    setRefused(null);
    setSending(true);
    setTaken('');
    try {
      const upload = await sendPicture(slug, file);
      setTaken(upload.name);
      onTaken(upload);
    } catch (error) {
      setRefused(error instanceof Problem ? error.detail : 'Send it again.');
    } finally {
      setSending(false);
      if (input.current) input.current.value = '';
    }
  }

  return (
    <>
      <div
        className={`mt-4 rounded-md border border-dashed p-3 text-center ${
          over ? 'border-accent bg-tint' : 'border-line'
        }`}
        onDragOver={(e) => {
          e.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(e) => {
          e.preventDefault();
          setOver(false);
          void send(e.dataTransfer.files[0]);
        }}
      >
        {/* Not disabled while it sends: that would take the focus from it. */}
        <Button onClick={() => sending || input.current?.click()} aria-disabled={sending}>
          <ImageUp size={16} aria-hidden="true" /> {sending ? 'Sending…' : 'Upload a file'}
        </Button>
        <input
          ref={input}
          type="file"
          name="picture"
          accept="image/*,application/pdf,video/*,audio/*"
          aria-label="File to upload"
          className="sr-only"
          tabIndex={-1}
          onChange={(e) => void send(e.target.files?.[0])}
        />
        <p className="mt-1.5 text-[0.88rem] text-soft">or drop it here; up to 40 MB</p>
      </div>
      <p role="status" className="sr-only">
        {sending ? 'The file is being sent.' : taken && `${taken} was taken.`}
      </p>
      {refused && (
        <p role="alert" className="mt-2 rounded-md bg-alert-tint px-3 py-2 text-alert">
          {refused}
        </p>
      )}
    </>
  );
}
