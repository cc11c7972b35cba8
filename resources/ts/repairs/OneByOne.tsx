import { ArrowLeft, ArrowRight } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { useFindingExcerpt, useSlug } from '@/api/hooks';
import type { FindingGroup } from '@/api/types';
import { Button } from '@/ui/Button';
import { Picture } from '@/ui/Picture';
import { many } from '@/ui/words';
import { choicesOf, type Choice } from './choices';
import type { Decision } from './useMend';

/**
 * The open findings of a family, one after another: the place on the left, what it may mean on the right. Digits
 * choose, arrows go on and back.
 */
export function OneByOne({
  cause,
  groups,
  decisions,
  onDecide,
  onClose,
}: {
  cause: string;
  groups: readonly FindingGroup[];
  decisions: ReadonlyMap<string, Decision>;
  onDecide: (asked: string, decision: Decision | undefined) => void;
  onClose: () => void;
}) {
  const [at, setAt] = useState(0);
  const box = useRef<HTMLElement>(null);
  const group = groups[Math.min(at, groups.length - 1)];
  useEffect(() => box.current?.focus(), []);
  if (!group) return null;
  const choices = choicesOf(group);
  const decision = decisions.get(group.asked);
  const go = (by: number) => setAt((now) => Math.max(0, Math.min(groups.length - 1, now + by)));
  const choose = (choice: Choice) => {
    onDecide(group.asked, choice.decision);
    go(1);
  };
  return (
    <section
      ref={box}
      tabIndex={-1}
      aria-label="One by one"
      className="sheet outline-none"
      onKeyDown={(event) => {
        if (event.target instanceof HTMLInputElement || event.target instanceof HTMLSelectElement) return;
        if (event.ctrlKey || event.metaKey || event.altKey) return;
        const choice = /^[0-9]$/.test(event.key) ? choices.find((c) => c.key === event.key) : undefined;
        if (choice) choose(choice);
        else if (event.key === 'ArrowRight' || event.key === 'ArrowDown') go(1);
        else if (event.key === 'ArrowLeft' || event.key === 'ArrowUp') go(-1);
        else if (event.key === 'Escape') onClose();
        else return;
        event.preventDefault();
      }}
    >
      <div className="flex flex-wrap items-center gap-3 border-b border-line px-4 py-2">
        <b className="figures" role="status">
          {at + 1} of {many(groups.length, 'open one')}
        </b>
        <span className="text-soft">Digits choose, arrows go on and back.</span>
        <span className="ml-auto flex gap-2">
          <Button aria-label="The one before" disabled={at === 0} onClick={() => go(-1)}>
            <ArrowLeft size={16} aria-hidden="true" />
          </Button>
          <Button aria-label="The next one" disabled={at === groups.length - 1} onClick={() => go(1)}>
            <ArrowRight size={16} aria-hidden="true" />
          </Button>
          <Button onClick={onClose}>Back to the list</Button>
        </span>
      </div>
      <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-5 p-4 max-md:grid-cols-[minmax(0,1fr)]">
        <Place key={group.asked} cause={cause} group={group} />
        <ol aria-label="What it may mean" className="flex flex-col gap-1.5">
          {choices.map((choice) => {
            const on = decision !== undefined && decision === choice.decision;
            return (
              <li key={choice.key}>
                <button
                  type="button"
                  aria-pressed={on}
                  onClick={() => choose(choice)}
                  className={`flex w-full items-center gap-3 rounded-md border px-2.5 py-1.5 text-left ${
                    on ? 'border-accent bg-tint' : 'border-line hover:border-accent'
                  }`}
                >
                  <kbd className="figures w-5 shrink-0 rounded border border-edge text-center">
                    {choice.key}
                  </kbd>
                  {choice.file && !group.leads && (
                    <Picture
                      fileId={choice.file.file_id}
                      sha={choice.file.sha256}
                      mime={choice.file.mime}
                      alt=""
                      className="h-14 w-20 shrink-0 rounded border border-line"
                    />
                  )}
                  <span className="min-w-0">
                    <span className={choice.file ? 'path block break-all' : 'block'}>{choice.words}</span>
                    {choice.more && <span className="block text-[0.9rem] text-soft">{choice.more}</span>}
                  </span>
                </button>
              </li>
            );
          })}
        </ol>
      </div>
    </section>
  );
}

function Place({ cause, group }: { cause: string; group: FindingGroup }) {
  const slug = useSlug();
  const excerpt = useFindingExcerpt(cause, group.asked, group.leads).data;
  return (
    <div className="min-w-0">
      <p className="path font-semibold break-all">
        {group.leads && '/'}
        {group.asked}
      </p>
      <p className="mt-1">{group.sentence}</p>
      {group.reason && <p className="text-alert">{group.reason}</p>}
      <p className="figures text-[0.93rem] text-soft">
        {many(group.references, 'place')} in {many(group.records, 'record')},{' '}
        {many(group.pages, 'public page')}
      </p>
      <div className="mt-3 min-h-36 rounded-md border border-line bg-paper p-3">
        {excerpt && (
          <>
            <p className="mb-1.5 text-[0.9rem] text-soft">
              <Link
                to={`/${slug}/places/${excerpt.record.id}`}
                className="text-accent underline underline-offset-2"
              >
                {excerpt.record.title}
              </Link>
              , {excerpt.field}, line {excerpt.line}
            </p>
            <pre className="path text-[0.88rem] break-all whitespace-pre-wrap">
              {excerpt.lead}
              <mark className="rounded bg-tint px-0.5 font-bold text-ink">
                {excerpt.marked.slice(0, 300)}
              </mark>
              {excerpt.tail}
            </pre>
          </>
        )}
      </div>
    </div>
  );
}
