import { ArrowRight } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { useSlug } from '@/api/hooks';
import type { CureFile, FindingGroup } from '@/api/types';
import { Picker } from '@/ui/Picker';
import { Picture } from '@/ui/Picture';
import { fileName, many } from '@/ui/words';
import { LetStandForm } from './LetStand';

/** All places that ask for one thing, and what they shall name instead. */
export function Group({
  group,
  cause,
  decision,
  onDecide,
  mayStand,
}: {
  group: FindingGroup;
  cause: string;
  decision: string | null;
  /** Null for whoever may only look. */
  onDecide: ((path: string | null) => void) | null;
  mayStand: boolean;
}) {
  const slug = useSlug();
  const [isStanding, setStanding] = useState(false);
  const chosen = group.cure ?? group.candidates.find((c) => c.path === decision) ?? null;
  return (
    <li
      className="grid grid-cols-[minmax(0,1fr)_1.25rem_minmax(0,1fr)] items-center gap-x-3 gap-y-1 px-4 py-2.5
        max-md:grid-cols-[minmax(0,1fr)]"
    >
      <div className="min-w-0">
        <p className="path break-all">{group.asked}</p>
        <p className="figures text-[0.9rem] text-soft">
          <Link
            to={group.records === 1 ? `/${slug}/places/${group.record}` : `/${slug}/places?cause=${cause}`}
            className="inline-block min-h-[24px] text-accent underline underline-offset-2"
          >
            {many(group.references, 'place')}
          </Link>{' '}
          in {many(group.records, 'record')}, {many(group.pages, 'public page')}
          {mayStand && !isStanding && (
            <button
              type="button"
              onClick={() => setStanding(true)}
              className="ml-3 min-h-[24px] text-accent underline underline-offset-2"
            >
              Let stand
            </button>
          )}
        </p>
        {isStanding && <LetStandForm cause={cause} asked={group.asked} onClose={() => setStanding(false)} />}
      </div>
      <ArrowRight size={18} aria-hidden="true" className="text-soft max-md:hidden" />
      {group.sure ? (
        <Cured file={group.cure} words={group.drawn ? 'is drawn again from' : null} />
      ) : (
        <Open group={group} chosen={chosen} decision={decision} onDecide={onDecide} />
      )}
    </li>
  );
}

function Cured({ file, words }: { file: CureFile | null; words: string | null }) {
  return (
    <div className="flex min-w-0 items-center gap-3">
      <Small file={file} />
      <div className="min-w-0">
        {words && <p className="text-[0.9rem] text-soft">{words}</p>}
        <p className="path break-all">{file?.path}</p>
        <p className="text-[0.88rem] font-semibold text-live">sure</p>
      </div>
    </div>
  );
}

function Open({
  group,
  chosen,
  decision,
  onDecide,
}: {
  group: FindingGroup;
  chosen: CureFile | null;
  decision: string | null;
  onDecide: ((path: string | null) => void) | null;
}) {
  const [isPicking, setPicking] = useState(false);
  const [picked, setPicked] = useState<CureFile | null>(null);
  const shown = chosen ?? (decision === null ? null : picked);
  const decide = (path: string | null) => {
    setPicking(false);
    onDecide?.(path);
  };
  return (
    <div className="flex min-w-0 items-start gap-3">
      <Small file={shown} />
      <div className="min-w-0 flex-1">
        <p className="text-[0.9rem] text-soft">
          {decision === null && <b className="text-ink">Open. </b>}
          {group.sentence}
        </p>
        {decision !== null && <p className="path break-all">{decision}</p>}
        {onDecide && group.candidates.length > 0 && (
          <select
            aria-label={`What ${group.asked} shall name`}
            value={decision ?? ''}
            onChange={(event) => decide(event.target.value === '' ? null : event.target.value)}
            className="mt-1 w-full max-w-full rounded-md border border-edge bg-sheet px-2 py-1 text-[0.93rem]"
          >
            <option value="">Leave it open</option>
            {group.candidates.map((candidate) => (
              <option key={candidate.path} value={candidate.path}>
                {candidate.path}
                {candidate.width !== null && ` (${candidate.width} × ${candidate.height ?? '?'})`}
              </option>
            ))}
          </select>
        )}
        {onDecide && (
          <p className="mt-1 flex flex-wrap gap-x-3">
            <button
              type="button"
              aria-expanded={isPicking}
              onClick={() => setPicking(!isPicking)}
              className="min-h-[24px] font-semibold text-accent underline underline-offset-2"
            >
              {isPicking ? 'Close' : 'Choose any picture'}
            </button>
            {decision !== null && (
              <button
                type="button"
                onClick={() => decide(null)}
                className="min-h-[24px] text-accent underline underline-offset-2"
              >
                Leave it open
              </button>
            )}
          </p>
        )}
        {isPicking && (
          <Picker
            item={null}
            columns={4}
            chosen={null}
            start={wordsOf(group.asked)}
            onChoose={(row) => {
              setPicked({ ...row });
              decide(row.path);
            }}
          />
        )}
      </div>
    </div>
  );
}

/** What a file that is gone was called, to look for others by. */
function wordsOf(path: string): string {
  return fileName(path)
    .replace(/\.[^.]*$/, '')
    .replace(/[\W_\d]+/g, ' ')
    .trim();
}

function Small({ file }: { file: CureFile | null }) {
  return (
    <Picture
      fileId={file?.file_id ?? null}
      sha={file?.sha256 ?? null}
      mime={file?.mime ?? null}
      alt=""
      className="h-12 w-16 shrink-0 rounded border border-line"
    />
  );
}
