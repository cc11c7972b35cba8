import { ArrowRight } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { useSlug } from '@/api/hooks';
import type { CureFile, FindingGroup } from '@/api/types';
import { Picker } from '@/ui/Picker';
import { Picture } from '@/ui/Picture';
import { fileName, many, when } from '@/ui/words';
import { LetStandForm } from './LetStand';
import { PagePicker } from './PagePicker';
import type { Decision } from './useMend';

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
  /** Undefined as long as it is open. */
  decision: Decision | undefined;
  /** Null for whoever may only look. */
  onDecide: ((decision: Decision | undefined) => void) | null;
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
        <p className="path break-all">
          {group.leads && '/'}
          {group.asked}
        </p>
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
        <Cured file={group.cure} leads={group.leads} words={group.drawn ? 'is drawn again from' : null} />
      ) : (
        <Open group={group} chosen={chosen} decision={decision} onDecide={onDecide} />
      )}
    </li>
  );
}

function Cured({ file, words, leads }: { file: CureFile | null; words: string | null; leads: boolean }) {
  return (
    <div className="flex min-w-0 items-center gap-3">
      {!leads && <Small file={file} />}
      <div className="min-w-0">
        {words && <p className="text-[0.9rem] text-soft">{words}</p>}
        {file?.title && <p>{file.title}</p>}
        <p className="path break-all">
          {leads && !/^https?:/.test(file?.path ?? '') && '/'}
          {file?.path}
        </p>
        <p className="text-[0.88rem] font-semibold text-live">sure</p>
      </div>
    </div>
  );
}

const OUT = '\0out';

function Open({
  group,
  chosen,
  decision,
  onDecide,
}: {
  group: FindingGroup;
  chosen: CureFile | null;
  decision: Decision | undefined;
  onDecide: ((decision: Decision | undefined) => void) | null;
}) {
  const [isPicking, setPicking] = useState(false);
  const [picked, setPicked] = useState<CureFile | null>(null);
  const shown = chosen ?? (typeof decision === 'string' ? picked : null);
  const decide = (next: Decision | undefined) => {
    setPicking(false);
    onDecide?.(next);
  };
  return (
    <div className="flex min-w-0 items-start gap-3">
      {!group.leads && <Small file={shown} />}
      <div className="min-w-0 flex-1">
        <p className="text-[0.9rem] text-soft">
          {decision === undefined && <b className="text-ink">Open. </b>}
          {group.sentence}
          {group.back_at && (
            <b className="text-alert"> It was mended, and is back since {when(group.back_at)}.</b>
          )}
        </p>
        {group.reason && <p className="text-[0.9rem] text-alert">{group.reason}</p>}
        {typeof decision === 'string' && decision !== group.asked && (
          <p className="path break-all">{decision}</p>
        )}
        {decision === group.asked && <p className="font-semibold">The file is put back where it was.</p>}
        {decision === null && (
          <p className="font-semibold">
            {group.leads
              ? 'The link goes, its words stay.'
              : 'It is taken out, with what would be empty around it.'}
          </p>
        )}
        {onDecide && (
          <select
            aria-label={`What ${group.asked} shall ${group.leads ? 'lead to' : 'name'}`}
            value={decision === undefined ? '' : (decision ?? OUT)}
            onChange={(event) =>
              decide(
                event.target.value === ''
                  ? undefined
                  : event.target.value === OUT
                    ? null
                    : event.target.value,
              )
            }
            className="mt-1 w-full max-w-full rounded-md border border-edge bg-sheet px-2 py-1 text-[0.93rem]"
          >
            <option value="">Leave it open</option>
            {group.bytes && (
              <option value={group.asked}>
                Put the file back:{' '}
                {group.bytes === 'kept' ? 'its bytes are kept here' : `as ${group.bytes} has it`}
              </option>
            )}
            {(group.choosable ? group.candidates : []).map((candidate) => (
              <option key={candidate.path} value={candidate.path}>
                {nameOf(candidate)}
              </option>
            ))}
            {typeof decision === 'string' &&
              decision !== group.asked &&
              !group.candidates.some((c) => c.path === decision) && (
                <option value={decision}>{decision}</option>
              )}
            <option value={OUT}>{group.leads ? 'Take the link out, keep its words' : 'Take it out'}</option>
          </select>
        )}
        {onDecide && group.choosable && (
          <p className="mt-1 flex flex-wrap gap-x-3">
            <button
              type="button"
              aria-expanded={isPicking}
              onClick={() => setPicking(!isPicking)}
              className="min-h-[24px] font-semibold text-accent underline underline-offset-2"
            >
              {isPicking ? 'Close' : group.leads ? 'Choose any page' : 'Choose any picture'}
            </button>
          </p>
        )}
        {isPicking &&
          (group.leads ? (
            <PagePicker start={wordsOf(group.asked)} onChoose={(address) => decide(address)} />
          ) : (
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
          ))}
      </div>
    </div>
  );
}

function nameOf(candidate: CureFile): string {
  if (candidate.title) return `${candidate.title} – /${candidate.path}`;
  return candidate.width === null
    ? candidate.path
    : `${candidate.path} (${candidate.width} × ${candidate.height ?? '?'})`;
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
