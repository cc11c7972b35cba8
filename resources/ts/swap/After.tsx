import { TriangleAlert } from 'lucide-react';
import { useSlug } from '@/api/hooks';
import type { Fit, MediaItem, Upload } from '@/api/types';
import { ItemPicture } from '@/ui/ItemPicture';
import { TypeTile } from '@/ui/Picture';
import { fileName, middle, pixels, weight } from '@/ui/words';
import type { Words } from '@/ui/draft';
import { Picker } from '@/ui/Picker';
import { Uploader } from './Uploader';
import type { BenchState } from './useBench';

interface Props {
  item: MediaItem;
  bench: BenchState;
  other: MediaItem | null;
  upload: Upload | null;
  /** Why the upload that the address names is not here any more. */
  lost: Error | null;
  fit: Fit | undefined;
}

/** What comes: an upload or another item, what will look different with it, and the words of a new item. */
export function After({ item, bench, other, upload, lost, fit }: Props) {
  return (
    <section aria-label="After" className="overflow-y-auto border-l border-line bg-sheet/70 px-5 py-4">
      <h2 className="mb-2 font-semibold text-soft">After</h2>
      <Chosen other={other} upload={upload} />
      {lost && (
        <p role="alert" className="mt-2 rounded-md bg-alert-tint px-3 py-2 text-alert">
          {lost.message}
        </p>
      )}
      {fit && fit.notes.length > 0 && (
        <ul aria-label="What will look different" className="mt-3 flex flex-col gap-1.5" role="status">
          {fit.notes.map((note) => (
            <li key={note} className="flex gap-2 text-[0.93rem] leading-snug">
              <TriangleAlert size={15} className="mt-0.5 shrink-0 text-waiting" aria-hidden="true" />
              {note}
            </li>
          ))}
        </ul>
      )}
      {upload && bench.manner === 'new-reference' && <NewWords upload={upload} bench={bench} />}
      <Uploader onTaken={(taken) => bench.chooseUpload(taken.token)} />
      <Picker item={item} chosen={bench.to} onChoose={(row) => bench.chooseItem(row.id)} />
    </section>
  );
}

function Chosen({ other, upload }: { other: MediaItem | null; upload: Upload | null }) {
  const slug = useSlug();
  const frame = 'max-h-56 w-full rounded-md border border-line';
  if (upload)
    return (
      <>
        {upload.width ? (
          <img
            src={`/api/sites/${slug}/uploads/${upload.token}/picture`}
            alt="The uploaded picture"
            className={`${frame} bg-well object-contain`}
          />
        ) : (
          <TypeTile type={upload.extension} className={`${frame} h-40`} />
        )}
        <p className="mt-2 font-semibold" title={upload.name}>
          {middle(upload.name, 40)}
        </p>
        <p className="figures text-soft">
          {[
            pixels(upload.width, upload.height),
            weight(upload.weight),
            'uploaded',
            upload.turned && 'turned upright',
          ]
            .filter(Boolean)
            .join(' · ')}
        </p>
      </>
    );
  if (other)
    return (
      <>
        <ItemPicture item={other} />
        <p className="mt-2 font-semibold">{other.title || fileName(other.path)}</p>
        <p className="path break-all text-soft">{other.path}</p>
        <p className="figures text-soft">
          {[pixels(other.width, other.height), weight(other.weight)].filter(Boolean).join(' · ')}
        </p>
      </>
    );
  return (
    <div className="grid h-32 place-items-center rounded-md border border-dashed border-line text-soft">
      nothing chosen yet
    </div>
  );
}

const FIELDS: [keyof Words, string, number][] = [
  ['title', 'Title of the new item', 300],
  ['alt', 'Alt text of the new item', 1000],
  ['caption', 'Caption', 2000],
  ['credit', 'Credit', 300],
];

function NewWords({ upload, bench }: { upload: Upload; bench: BenchState }) {
  const inside = { title: upload.title, alt: '', caption: upload.caption, credit: upload.credit };
  const offers = FIELDS.filter(([name]) => inside[name] !== '' && bench.words[name] !== inside[name]);
  return (
    <div className="mt-4 flex flex-col gap-2">
      {offers.length > 0 && (
        <p className="rounded-md bg-tint px-3 py-2 text-[0.93rem]">
          The file itself says: {offers.map(([name]) => `“${middle(inside[name], 60)}”`).join(', ')}.{' '}
          <button
            type="button"
            className="font-semibold text-accent hover:underline"
            onClick={() => bench.say(Object.fromEntries(offers.map(([name]) => [name, inside[name]])))}
          >
            Use these words
          </button>
        </p>
      )}
      {FIELDS.map(([name, label, limit]) => (
        <label key={name} className="flex flex-col gap-0.5 text-[0.93rem] font-semibold">
          {label}
          <input
            value={bench.words[name]}
            maxLength={limit}
            placeholder={name === 'title' ? upload.title || upload.name : ''}
            onChange={(e) => bench.say({ [name]: e.target.value })}
            className="rounded-md border border-edge bg-paper px-2.5 py-1.5 font-normal"
          />
        </label>
      ))}
    </div>
  );
}
