import { ArrowRight, ImageUp, Search } from 'lucide-react';
import { useDeferredValue, useMemo, useRef, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { body, client, Problem } from '@/api/client';
import { useAct, useFind, useMay, useMediaItem, useSlug, useTrail } from '@/api/hooks';
import type { MediaItem, MediaRow, Plan, TrailData, TrailReference, Upload as Taken } from '@/api/types';
import { Button, ButtonLink } from '@/ui/Button';
import { sayProblem } from '@/ui/Notice';
import { Picture, TypeTile } from '@/ui/Picture';
import { Empty, Failed, Loading } from '@/ui/States';
import { StandingShape } from '@/ui/Standing';
import { fileName, kindWord, many, number, weight } from '@/ui/words';

type Manner = 'same-address' | 'new-reference';
interface Upload extends Taken {
  preview: string;
}

export function SwapPage() {
  const { item: id = '' } = useParams();
  const item = useMediaItem(id);
  const trail = useTrail(id);
  const { maintain } = useMay();
  if (item.isError || trail.isError) return <Failed error={item.error ?? trail.error} />;
  if (!maintain)
    return <Empty title="Your role looks">A maintainer swaps pictures. Ask an owner for that role.</Empty>;
  if (!item.data || !trail.data)
    return (
      <main className="p-6">
        <Loading rows={6} height={70} />
      </main>
    );
  return <Bench key={id} item={item.data} trail={trail.data} />;
}

function Bench({ item, trail }: { item: MediaItem; trail: TrailData }) {
  const slug = useSlug();
  const navigate = useNavigate();
  const [manner, setManner] = useState<Manner>('new-reference');
  const [other, setOther] = useState<MediaRow | null>(null);
  const [upload, setUpload] = useState<Upload | null>(null);
  const [words, setWords] = useState({ title: '', alt: '' });
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const chosen = trail.references.filter((r) => !left.has(r.id));
  const after = upload ?? other;
  const make = useAct<Plan>((site) =>
    client.POST('/sites/{site}/plans', {
      params: { path: { site } },
      body: {
        from: item.id,
        manner,
        to: upload ? null : (other?.id ?? null),
        upload: upload?.token ?? null,
        // What is left out is named, since the places may be more than a page of them shows.
        except: manner === 'same-address' || left.size === 0 ? null : [...left],
        title: words.title,
        alt: words.alt,
      },
    }),
  );
  const records = new Set(chosen.map((r) => r.record_id)).size;
  const ready = after !== null && (manner === 'same-address' ? item.files.length > 0 : chosen.length > 0);

  return (
    <main id="work" className="flex min-h-0 flex-1 flex-col">
      <div className="grid min-h-0 flex-1 grid-cols-[16.5rem_minmax(0,1fr)_21rem] max-[1100px]:grid-cols-[13rem_minmax(0,1fr)_18rem]">
        <section aria-label="Now" className="overflow-y-auto border-r border-line px-5 py-4">
          <h2 className="mb-2 font-semibold text-soft">Now</h2>
          <Picture
            fileId={item.file_id}
            sha={item.sha256}
            mime={item.mime}
            alt={item.alt}
            width={480}
            className="max-h-56 w-full rounded-md border border-line"
          />
          <p className="mt-2 font-semibold">{item.title || fileName(item.path)}</p>
          <p className="path break-all text-soft">{item.path}</p>
          <p className="figures mt-1 text-soft">
            {item.width ? `${number(item.width)} × ${number(item.height ?? 0)}` : 'no file'} ·{' '}
            {weight(item.weight)} · {many(item.files.length, 'file')}
          </p>
          <fieldset className="mt-5 flex flex-col gap-2">
            <legend className="mb-1 font-semibold">How</legend>
            <MannerChoice
              value="new-reference"
              chosen={manner}
              set={setManner}
              title="New reference"
              says="Each chosen place is edited to name the other file. The old file stays."
            />
            <MannerChoice
              value="same-address"
              chosen={manner}
              set={setManner}
              title="Same address"
              says={`New bytes behind the same path; ${many(item.files.length - 1, 'rendition')} drawn again. No record is edited.`}
            />
          </fieldset>
        </section>

        <section aria-label="Places" className="flex min-w-0 flex-col overflow-hidden">
          <div className="flex items-center gap-3 border-b border-line px-5 py-3">
            <h1 className="text-[1.2rem] font-bold">Swap “{item.title || fileName(item.path)}”</h1>
            {manner === 'new-reference' && trail.references.length > 0 && (
              <Button
                tone="quiet"
                className="ml-auto"
                onClick={() =>
                  setLeft(left.size === 0 ? new Set(trail.references.map((r) => r.id)) : new Set())
                }
              >
                {left.size === 0 ? 'Choose none' : 'Choose all'}
              </Button>
            )}
          </div>
          {trail.references.length === 0 ? (
            <Empty title="No place refers to it">
              A swap by new reference would change nothing. New bytes behind the same address are still
              possible.
            </Empty>
          ) : (
            <PlaceList
              trail={trail}
              left={left}
              setLeft={setLeft}
              fixed={manner === 'same-address'}
              after={after}
            />
          )}
        </section>

        <section aria-label="After" className="overflow-y-auto border-l border-line bg-sheet/70 px-5 py-4">
          <h2 className="mb-2 font-semibold text-soft">After</h2>
          <After
            item={item}
            other={other}
            upload={upload}
            onOther={(row) => {
              setOther(row);
              setUpload(null);
            }}
            onUpload={(u) => {
              setUpload(u);
              setOther(null);
            }}
          />
          {upload && manner === 'new-reference' && (
            <div className="mt-4 flex flex-col gap-2">
              <label className="flex flex-col gap-0.5 text-[0.93rem] font-semibold">
                Title of the new item
                <input
                  value={words.title}
                  maxLength={300}
                  placeholder={upload.name}
                  onChange={(e) => setWords({ ...words, title: e.target.value })}
                  className="rounded-md border border-line bg-paper px-2.5 py-1.5 font-normal"
                />
              </label>
              <label className="flex flex-col gap-0.5 text-[0.93rem] font-semibold">
                Alt text of the new item
                <input
                  value={words.alt}
                  maxLength={1000}
                  onChange={(e) => setWords({ ...words, alt: e.target.value })}
                  className="rounded-md border border-line bg-paper px-2.5 py-1.5 font-normal"
                />
              </label>
            </div>
          )}
        </section>
      </div>
      <div className="flex items-center gap-4 border-t border-line bg-sheet px-6 py-3">
        <p className="figures min-w-0 flex-1 text-[1.05rem]" data-testid="bench-sentence">
          {after === null
            ? 'Choose what shall stand in: another item of the site, or an upload.'
            : manner === 'same-address'
              ? `${many(item.files.length, 'file')} get new bytes; ${many(trail.references.length, 'reference')} stay as they are.`
              : `${many(chosen.length, 'reference')} in ${many(records, 'record')} will name ${upload ? upload.name : fileName(other?.path ?? '')}.`}{' '}
          <span className="text-soft">Nothing is written before you have read the plan.</span>
        </p>
        <ButtonLink to={`/${slug}/media/${item.id}`}>Leave</ButtonLink>
        <Button
          tone="main"
          disabled={!ready || make.isPending}
          onClick={() =>
            make.mutate(undefined, {
              onSuccess: (plan) => void navigate(`/${slug}/plans/${plan.id}`),
              onError: sayProblem,
            })
          }
        >
          {make.isPending ? 'Making the plan…' : 'Make the plan'} <ArrowRight size={16} aria-hidden="true" />
        </Button>
      </div>
    </main>
  );
}

function MannerChoice({
  value,
  chosen,
  set,
  title,
  says,
}: {
  value: Manner;
  chosen: Manner;
  set: (m: Manner) => void;
  title: string;
  says: string;
}) {
  return (
    <label
      className={`flex cursor-pointer gap-2 rounded-md border p-2.5 ${chosen === value ? 'border-accent bg-tint' : 'border-line bg-sheet hover:border-accent'}`}
    >
      <input
        type="radio"
        name="manner"
        value={value}
        checked={chosen === value}
        onChange={() => set(value)}
        className="mt-1 accent-(--accent)"
      />
      <span>
        <span className="block font-semibold">{title}</span>
        <span className="block text-[0.88rem] leading-snug text-soft">{says}</span>
      </span>
    </label>
  );
}

interface PlaceListProps {
  trail: TrailData;
  left: ReadonlySet<number>;
  setLeft: (left: ReadonlySet<number>) => void;
  fixed: boolean;
  after: { width: number | null; height: number | null } | null;
}

function PlaceList({ trail, left, setLeft, fixed, after }: PlaceListProps) {
  const groups = useMemo(() => {
    const byRecord = new Map<number, TrailReference[]>();
    for (const r of trail.references) {
      const list = byRecord.get(r.record_id);
      if (list) list.push(r);
      else byRecord.set(r.record_id, [r]);
    }
    return trail.records
      .filter((r) => byRecord.has(r.id))
      .map((record) => ({ record, references: byRecord.get(record.id) ?? [] }));
  }, [trail]);

  function toggle(ids: number[], on: boolean) {
    const next = new Set(left);
    for (const id of ids) {
      if (on) next.delete(id);
      else next.add(id);
    }
    setLeft(next);
  }

  const strained = trail.references.filter((r) => strains(r, after)).length;
  return (
    <ul className="min-h-0 flex-1 overflow-y-auto px-5 py-2" aria-label="Places that show it">
      {strained > 0 && (
        <li className="mb-1 rounded-md border border-waiting/50 bg-sheet px-3 py-2 text-[0.93rem]">
          {many(strained, 'place')} {strained === 1 ? 'has' : 'have'} a fixed box of another shape than the
          new picture. Unless it has a size of that shape, it will look stretched there.
        </li>
      )}
      {groups.map(({ record, references }) => {
        const on = references.filter((r) => !left.has(r.id)).length;
        return (
          <li key={record.id} className="flex items-start gap-3 border-b border-line py-2">
            {!fixed && (
              <input
                type="checkbox"
                aria-label={`${kindWord(record.kind)} ${record.title}`}
                checked={on > 0}
                ref={(box) => {
                  if (box) box.indeterminate = on > 0 && on < references.length;
                }}
                onChange={(e) =>
                  toggle(
                    references.map((r) => r.id),
                    e.target.checked,
                  )
                }
                className="mt-1 size-4 accent-(--accent)"
              />
            )}
            <div className="min-w-0 flex-1">
              <div className="flex items-center gap-2">
                <StandingShape standing={record.state} />
                <span className="shrink-0 text-soft">{kindWord(record.kind)}</span>
                <span className="truncate font-semibold">{record.title}</span>
              </div>
              <ul>
                {references.map((r) => (
                  <li
                    key={r.id}
                    className={`figures flex items-baseline gap-2 text-[0.9rem] ${left.has(r.id) && !fixed ? 'text-soft line-through' : ''}`}
                  >
                    <span className="w-28 shrink-0 text-soft">{r.role}</span>
                    <span
                      className={`path min-w-0 flex-1 truncate ${r.broken ? 'text-alert' : ''}`}
                      title={r.value}
                    >
                      {r.names === 'media-item' ? `item no. ${r.value}` : r.value}
                    </span>
                    <span
                      className={`shrink-0 ${strains(r, after) ? 'font-semibold text-waiting' : 'text-soft'}`}
                      title={
                        strains(r, after)
                          ? 'The box is fixed and has another shape than the new picture.'
                          : undefined
                      }
                    >
                      {strains(r, after) && '⚠ '}
                      {r.box ?? ''}
                    </span>
                  </li>
                ))}
              </ul>
            </div>
          </li>
        );
      })}
    </ul>
  );
}

/** Markup that fixes both sides of a box stretches a picture of another shape; better said before than seen after. */
function strains(
  reference: TrailReference,
  after: { width: number | null; height: number | null } | null,
): boolean {
  const box = /^(\d+) × (\d+)$/.exec(reference.box ?? '');
  if (!box || !after?.width || !after.height) return false;
  return Math.abs(Math.log(Number(box[1]) / Number(box[2]) / (after.width / after.height))) >= 0.05;
}

interface AfterProps {
  item: MediaItem;
  other: MediaRow | null;
  upload: Upload | null;
  onOther: (row: MediaRow) => void;
  onUpload: (upload: Upload) => void;
}

function After({ item, other, upload, onOther, onUpload }: AfterProps) {
  const slug = useSlug();
  const [q, setQ] = useState('');
  const [refused, setRefused] = useState<string | null>(null);
  const [sending, setSending] = useState(false);
  const [over, setOver] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const found = useFind(useDeferredValue(q));

  async function send(file: File | undefined) {
    if (!file) return;
    setRefused(null);
    setSending(true);
    const form = new FormData();
    form.set('picture', file);
    try {
      const taken = await body(
        client.POST('/sites/{site}/uploads', {
          params: { path: { site: slug } },
          body: { picture: '' },
          bodySerializer: () => form,
        }),
      );
      onUpload({ ...taken, preview: URL.createObjectURL(file) });
    } catch (error) {
      setRefused(error instanceof Problem ? error.detail : 'Send it again.');
    } finally {
      setSending(false);
      if (input.current) input.current.value = '';
    }
  }

  return (
    <>
      {upload ? (
        <>
          {upload.width ? (
            <img
              src={upload.preview}
              alt="The uploaded picture"
              className="max-h-56 w-full rounded-md border border-line bg-well object-contain"
            />
          ) : (
            <TypeTile type={upload.extension} className="h-40 w-full rounded-md" />
          )}
          <p className="mt-2 font-semibold">{upload.name}</p>
          <p className="figures text-soft">
            {upload.width ? `${number(upload.width)} × ${number(upload.height ?? 0)} · ` : ''}
            {weight(upload.weight)} · uploaded
          </p>
        </>
      ) : other ? (
        <>
          <Picture
            fileId={other.file_id}
            sha={other.sha256}
            mime={other.mime}
            alt={other.alt}
            width={480}
            className="max-h-56 w-full rounded-md border border-line"
          />
          <p className="mt-2 font-semibold">{other.title || fileName(other.path)}</p>
          <p className="path break-all text-soft">{other.path}</p>
          <p className="figures text-soft">
            {other.width ? `${number(other.width)} × ${number(other.height ?? 0)} · ` : ''}
            {weight(other.weight)}
          </p>
        </>
      ) : (
        <div className="grid h-40 place-items-center rounded-md border border-dashed border-line text-soft">
          nothing chosen yet
        </div>
      )}

      <div
        className={`mt-4 rounded-md border border-dashed p-3 text-center ${over ? 'border-accent bg-tint' : 'border-line'}`}
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
        <Button onClick={() => input.current?.click()} disabled={sending}>
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
      {refused && (
        <p role="alert" className="mt-2 rounded-md bg-alert-tint px-3 py-2 text-alert">
          {refused}
        </p>
      )}

      <div className="relative mt-4">
        <Search
          size={15}
          aria-hidden="true"
          className="pointer-events-none absolute top-1/2 left-2.5 -translate-y-1/2 text-soft"
        />
        <input
          type="search"
          aria-label="Choose another item of the site"
          placeholder="or choose another item"
          value={q}
          onChange={(e) => setQ(e.target.value)}
          className="w-full rounded-md border border-line bg-paper py-1.5 pr-2 pl-8"
        />
      </div>
      <ul className="mt-2 flex flex-col" aria-label="Items found">
        {(q.trim() === '' ? [] : (found.data?.items ?? []))
          .filter((row) => row.id !== item.id)
          .map((row) => (
            <li key={row.id}>
              <button
                type="button"
                onClick={() => onOther(row)}
                aria-pressed={other?.id === row.id}
                className={`flex w-full items-center gap-2 rounded px-1.5 py-1 text-left hover:bg-tint ${other?.id === row.id ? 'bg-tint' : ''}`}
              >
                <Picture
                  fileId={row.file_id}
                  sha={row.sha256}
                  mime={row.mime}
                  alt=""
                  fit="cover"
                  className="h-9 w-12 shrink-0 rounded"
                />
                <span className="min-w-0 flex-1">
                  <span className="block truncate font-semibold">{row.title || fileName(row.path)}</span>
                  <span className="path block truncate text-soft">{row.path}</span>
                </span>
              </button>
            </li>
          ))}
        {q.trim() !== '' && found.data?.total === 0 && (
          <li className="py-2 text-soft">Nothing of that name.</li>
        )}
      </ul>
    </>
  );
}
