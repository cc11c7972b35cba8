import { X } from 'lucide-react';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { Link } from 'react-router';
import { useExcerpt, useSlug } from '@/api/hooks';
import type { Excerpt, TrailData } from '@/api/types';
import { Failed, Loading } from '@/ui/States';
import { PublicLink } from '@/ui/PublicLink';
import { useGiveBack } from '@/ui/useGiveBack';
import { fact, kindWord, many, roleWord } from '@/ui/words';

const FETCH: Record<string, string> = {
  always: 'a browser fetches it with the page',
  'on-condition': 'a browser fetches it on a condition',
  'when-followed': 'fetched only when followed',
  'by-site': 'the site’s own code follows it',
  never: 'by nobody: it stands there as plain words',
};

const PANEL =
  'fixed inset-y-0 right-0 z-50 flex w-[36rem] max-w-full flex-col overflow-y-auto border-l border-line ' +
  'bg-sheet p-5 shadow-2xl';
const CHOICE =
  'flex w-full items-baseline gap-2 rounded border border-line px-2 py-1 text-left hover:border-accent ' +
  'aria-pressed:border-accent aria-pressed:bg-tint';
const RAW =
  'path max-h-72 overflow-auto rounded-md border border-line bg-paper p-3 leading-relaxed break-all ' +
  'whitespace-pre-wrap';

/** The places of one record: the raw text with the referencing bytes marked, its box, and its words. */
export function ExcerptDrawer({
  data,
  record,
  onClose,
}: {
  data: TrailData;
  record: number | null;
  onClose: () => void;
}) {
  const own = data.references.filter((r) => r.record_id === record);
  const about = data.records.find((r) => r.id === record);
  const [chosen, setChosen] = useState<number | null>(null);
  const current = own.find((r) => r.id === chosen) ?? own[0];
  const excerpt = useExcerpt(record === null ? null : (current?.id ?? null));
  const slug = useSlug();
  const giveBack = useGiveBack();
  const carries = data.carries
    .filter((c) => c.from === record)
    .map((c) => data.records.find((r) => r.id === c.to))
    .filter((r) => r !== undefined);

  return (
    <Dialog.Root open={record !== null} onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/25" />
        <Dialog.Content aria-describedby={undefined} onCloseAutoFocus={giveBack} className={PANEL}>
          <div className="flex items-start gap-3">
            <div className="min-w-0 flex-1">
              <p className="text-soft">{kindWord(about?.kind ?? '')}</p>
              <Dialog.Title className="text-lg leading-tight font-bold">{about?.title}</Dialog.Title>
              {about?.address != null && about.is_page && <PublicLink address={about.address} />}
              {about && (
                <Link
                  to={`/${slug}/places/${about.id}`}
                  className="ml-3 text-[0.93rem] text-accent hover:underline"
                >
                  All that it shows
                </Link>
              )}
            </div>
            <Dialog.Close aria-label="Close" className="rounded p-1 hover:bg-tint">
              <X size={20} />
            </Dialog.Close>
          </div>
          {about && Object.values(about.facts).some((v) => v !== null) && (
            <dl className="figures mt-3 grid grid-cols-[auto_1fr] gap-x-4 text-[0.93rem]">
              {Object.entries(about.facts).map(([label, value]) =>
                value === null ? null : (
                  <div key={label} className="contents">
                    <dt className="text-soft">{label}</dt>
                    <dd>{fact(value)}</dd>
                  </div>
                ),
              )}
            </dl>
          )}
          {own.length > 1 && (
            <div className="mt-4">
              <p className="mb-1 text-soft">It names this item {many(own.length, 'time')}:</p>
              <ul className="flex flex-col gap-1">
                {own.map((r) => (
                  <li key={r.id}>
                    <button
                      type="button"
                      onClick={() => setChosen(r.id)}
                      aria-pressed={r.id === current?.id}
                      className={CHOICE}
                    >
                      <span className="w-36 shrink-0 truncate text-[0.88rem] text-soft" title={r.role}>
                        {roleWord(r.role)}
                      </span>
                      <span className={`path min-w-0 flex-1 truncate ${r.broken ? 'text-alert' : ''}`}>
                        {r.value}
                      </span>
                    </button>
                  </li>
                ))}
              </ul>
            </div>
          )}
          {own.length === 0 && (
            <p className="mt-4 text-soft">
              It does not name this item itself; it carries{' '}
              {carries.map((c) => `the ${kindWord(c.kind)} “${c.title}”`).join(', ') || 'it'}.
            </p>
          )}
          {own.length > 0 && (
            <div className="mt-4">
              {excerpt.isError ? (
                <Failed error={excerpt.error} again={excerpt.refetch} />
              ) : excerpt.data ? (
                <ExcerptBody excerpt={excerpt.data} />
              ) : (
                <Loading rows={4} height={34} />
              )}
            </div>
          )}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function ExcerptBody({ excerpt: e }: { excerpt: Excerpt }) {
  const attributes = e.context.attributes ?? {};
  // What the site finds by a record's values has no bytes in any text.
  const isNamed = e.length > 0;
  const where = e.context.path
    ? `${e.context.path} (line ${e.line})`
    : `line ${e.line}, column ${e.column}; bytes ${e.start} to ${e.start + e.length}`;
  const facts: [string, string | undefined][] = [
    [
      'Placed as',
      isNamed
        ? `${roleWord(e.role)} (${e.role}) in the field “${e.field}”`
        : 'found by what the record is called; no text names it, so a swap puts new bytes behind the same address',
    ],
    ['Where', isNamed ? where : undefined],
    [
      'Written in',
      e.layers.split('>').join(' in ') === e.layers
        ? e.layers
        : e.layers.split('>').reverse().join(' inside '),
    ],
    ['Loaded', FETCH[e.fetch]],
    [
      'Box',
      [
        attributes['width'] && `${attributes['width']} wide`,
        attributes['height'] && `${attributes['height']} high`,
        e.context.descriptor,
      ]
        .filter(Boolean)
        .join(', ') || undefined,
    ],
    [
      'Shown by',
      [
        attributes['class'] && `class “${attributes['class']}”`,
        attributes['style'] && `style “${attributes['style']}”`,
        attributes['align'] && `align ${attributes['align']}`,
      ]
        .filter(Boolean)
        .join(', ') || undefined,
    ],
    ['Alt text', attributes['alt']],
    ['Caption', e.context.caption],
    ['Links to', e.context.link],
    ['Under', e.context.heading],
    ['In the style', e.context.within],
  ];
  return (
    <>
      {e.outcome && e.outcome !== 'found' && (
        <p className="mb-2 rounded-md bg-alert-tint px-3 py-2 text-alert">{e.sentence}</p>
      )}
      {e.changed ? (
        <p className="rounded-md bg-tint px-3 py-2">
          This record was changed since the site was read, so its text is not shown. Read the site again.
        </p>
      ) : (
        <pre tabIndex={0} aria-label="The raw text" role="region" data-testid="excerpt" className={RAW}>
          {e.cut_before && <span className="text-soft">… </span>}
          {e.lead}
          <mark className="rounded-sm bg-mark px-0.5 font-medium text-ink">{e.marked}</mark>
          {e.tail}
          {e.cut_after && <span className="text-soft"> …</span>}
        </pre>
      )}
      <dl className="mt-3 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 text-[0.93rem]">
        {facts.map(([label, value]) =>
          value === undefined || value === '' ? null : (
            <div key={label} className="contents">
              <dt className="text-soft">{label}</dt>
              <dd className="min-w-0 break-words">{value}</dd>
            </div>
          ),
        )}
      </dl>
    </>
  );
}
