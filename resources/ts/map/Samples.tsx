import { Check, TriangleAlert } from 'lucide-react';
import type { MapSample, Tried } from '@/api/types';
import { Failed, Loading } from '@/ui/States';
import { kindWord, many, number } from '@/ui/words';

/** So far records are counted while somebody types. */
const COUNTED = 10_000;

interface Props {
  tried: Tried | undefined;
  error: unknown;
  /** Whether what is shown is of an earlier text. */
  busy: boolean;
  kind: string | null;
  onKind: (kind: string) => void;
}

/** What the map reads: a few records of one kind, with what they refer to. */
export function Samples({ tried, error, busy, kind, onKind }: Props) {
  if (error) return <Failed error={error} />;
  if (!tried) return <Loading rows={6} height={60} />;
  const shown = kind ?? tried.kind;
  const more = tried.count !== null && tried.count >= COUNTED ? ' or more' : '';
  return (
    <section aria-label="What it reads" className="sheet flex min-h-0 flex-col overflow-hidden">
      <div className="flex flex-wrap items-center gap-3 border-b border-line px-4 py-2">
        {tried.kinds.length === 0 ? (
          <h2 className="font-semibold">What it reads</h2>
        ) : (
          <label className="flex items-center gap-2">
            <span className="text-soft">What it reads of</span>
            <select
              value={shown ?? ''}
              onChange={(event) => onKind(event.target.value)}
              className="h-9 max-w-52 rounded-md border border-edge bg-sheet px-2"
            >
              {tried.kinds.map((one) => (
                <option key={one}>{one}</option>
              ))}
            </select>
          </label>
        )}
        <span role="status" className="text-soft">
          {busy
            ? 'trying it…'
            : tried.count !== null &&
              `${number(tried.count)}${more} ${kindWord(tried.kind ?? 'record', tried.count)}`}
        </span>
      </div>
      <div
        className={`min-h-0 flex-1 overflow-y-auto px-4 py-3 ${busy ? 'opacity-60' : ''}`}
        tabIndex={0}
        role="group"
        aria-label="Samples"
      >
        {tried.problem ? (
          <p className="text-soft">Once nothing is wrong with the map, samples stand here.</p>
        ) : tried.samples.length === 0 ? (
          <p className="text-soft">There are no records of this kind.</p>
        ) : (
          <ul className="grid gap-5">
            {tried.samples.map((sample) => (
              <Sample key={sample.key} sample={sample} />
            ))}
          </ul>
        )}
      </div>
    </section>
  );
}

function Sample({ sample }: { sample: MapSample }) {
  return (
    <li>
      <h3 className="font-semibold">{sample.title || sample.key}</h3>
      <p className="text-soft">
        {sample.address === null ? 'no page of its own' : <span className="path">/{sample.address}</span>} ·{' '}
        {sample.state} · key <span className="path">{sample.key}</span>
      </p>
      {sample.fields.map((field) => (
        <div key={field.name} className="mt-2 border-l-2 border-line pl-3">
          <p>
            <span className="path">{field.name}</span> <span className="text-soft">as {field.notation}</span>
            {field.references.length === 0 && <span className="text-soft">: refers to nothing</span>}
          </p>
          {field.references.map((mark, i) => (
            <div key={i} className="mt-1">
              <p className="path text-[0.82rem] break-all text-soft">
                {mark.lead}
                <mark className="rounded-sm bg-tint px-0.5 text-ink">{mark.marked}</mark>
                {mark.tail}
              </p>
              <p className="flex items-start gap-1.5 text-[0.88rem]">
                {mark.good ? (
                  <Check size={15} aria-label="good" className="mt-0.5 shrink-0 text-accent" />
                ) : (
                  <TriangleAlert size={15} aria-label="wrong" className="mt-0.5 shrink-0 text-alert" />
                )}
                <span>{mark.says}</span>
              </p>
            </div>
          ))}
          {field.more > 0 && <p className="text-soft">and {many(field.more, 'more reference')}</p>}
          {field.problems.map((problem) => (
            <p key={problem} className="text-alert">
              {problem}
            </p>
          ))}
        </div>
      ))}
    </li>
  );
}
