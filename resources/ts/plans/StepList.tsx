import {
  ArrowRightLeft,
  ChevronRight,
  FilePlus2,
  FileText,
  FileX2,
  Image,
  ListPlus,
  Moon,
  Route,
} from 'lucide-react';
import { Collapsible } from 'radix-ui';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { useSlug, useSteps } from '@/api/hooks';
import type { Edit, Step, StepState } from '@/api/types';
import { Button } from '@/ui/Button';
import { Failed, Loading } from '@/ui/States';
import { kindWord, many, number } from '@/ui/words';

const LEFT: StepState[] = ['left-out', 'refused', 'kept'];

interface Props {
  plan: number;
  /** In which state the plan or its change is seen; the steps change with it. */
  state: string;
  counts: Record<string, number>;
}

/** Every step of a plan or a change, page by page: first those that were left out, each with its reason. */
export function StepList({ plan, state, counts }: Props) {
  const left = LEFT.reduce((sum, word) => sum + (counts[word] ?? 0), 0);
  const all = Object.entries(counts).reduce((sum, [word, n]) => (word === 'pages' ? sum : sum + n), 0);
  return (
    <div className="flex flex-col gap-4">
      {left > 0 && left < all && (
        <Steps plan={plan} state={state} only={LEFT} title={`${many(left, 'step')} left out`} total={left} />
      )}
      <Steps plan={plan} state={state} title={many(all, 'step')} total={all} />
    </div>
  );
}

function Steps({
  plan,
  state,
  only,
  title,
  total,
}: {
  plan: number;
  state: string;
  only?: StepState[];
  title: string;
  total: number;
}) {
  const pages = useSteps(plan, state, only);
  if (pages.isPending) return <Loading rows={6} height={38} />;
  if (pages.isError) return <Failed error={pages.error} again={pages.refetch} />;
  const steps = pages.data.pages.flatMap((page) => page.steps);
  return (
    <section aria-label={only ? 'Left out' : 'Steps'}>
      <h2 className="mb-1.5 font-semibold">{title}</h2>
      <ul className="sheet divide-y divide-line">
        {steps.map((step) => (
          <StepLine key={step.position} step={step} open={steps.length <= 2} />
        ))}
      </ul>
      {pages.hasNextPage && (
        <Button
          tone="quiet"
          className="mt-2"
          disabled={pages.isFetchingNextPage}
          onClick={() => void pages.fetchNextPage()}
        >
          {pages.isFetchingNextPage ? 'Fetching…' : `Show more (${number(steps.length)} of ${number(total)})`}
        </Button>
      )}
    </section>
  );
}

const SIGNS: Record<Step['kind'], ReactNode> = {
  'edit-record': <FileText size={16} className="text-accent" aria-hidden="true" />,
  'write-file': <Image size={16} className="text-accent" aria-hidden="true" />,
  'move-file': <ArrowRightLeft size={16} className="text-accent" aria-hidden="true" />,
  'delete-file': <FileX2 size={16} className="text-waiting" aria-hidden="true" />,
  'rest-file': <Moon size={16} className="text-waiting" aria-hidden="true" />,
  'wake-file': <FilePlus2 size={16} className="text-live" aria-hidden="true" />,
  'add-media': <ListPlus size={16} className="text-live" aria-hidden="true" />,
  'change-media': <ListPlus size={16} className="text-accent" aria-hidden="true" />,
  'remove-media': <FileX2 size={16} className="text-waiting" aria-hidden="true" />,
  redirect: <Route size={16} className="text-accent" aria-hidden="true" />,
  'drop-redirect': <Route size={16} className="text-waiting" aria-hidden="true" />,
};

function StepLine({ step, open }: { step: Step; open: boolean }) {
  const slug = useSlug();
  const line = (
    <>
      {SIGNS[step.kind]}
      {step.record && <span className="w-28 shrink-0 text-soft">{kindWord(step.record.kind)}</span>}
      <span
        className={`min-w-0 flex-1 truncate max-sm:basis-[75%] ${step.record ? 'font-semibold' : 'path'}`}
      >
        {step.title}
      </span>
      <span className="figures shrink-0 text-soft">{step.state === 'left-out' ? '' : step.says}</span>
      <StateWord state={step.state} />
    </>
  );
  return (
    <li>
      {step.edits.length === 0 ? (
        <div className="flex items-center gap-3 py-2 pr-4 pl-[2.75rem] max-sm:flex-wrap max-sm:pl-4">
          {line}
        </div>
      ) : (
        <Collapsible.Root defaultOpen={open}>
          <Collapsible.Trigger className="group flex w-full items-center gap-3 px-4 py-2 text-left hover:bg-tint/60 max-sm:flex-wrap">
            <ChevronRight
              size={16}
              className="shrink-0 text-soft transition-transform group-data-[state=open]:rotate-90"
              aria-hidden="true"
            />
            {line}
          </Collapsible.Trigger>
          <Collapsible.Content>
            <div className="flex flex-col gap-3 px-4 pb-3">
              {step.edits.map((edit) => (
                <EditLines
                  key={`${edit.field}:${edit.start ?? ''}`}
                  edit={edit}
                  kept={step.state === 'kept'}
                />
              ))}
            </div>
          </Collapsible.Content>
        </Collapsible.Root>
      )}
      {step.message && step.stands_on === null && (
        <p className="mx-4 mb-2 rounded bg-alert-tint px-3 py-1.5 text-alert">{step.message}</p>
      )}
      {step.stands_on !== null && (
        <p className="mx-4 mb-2 text-soft">
          <Link className="underline" to={`/${slug}/changes/${step.stands_on}`}>
            Change {step.stands_on}
          </Link>{' '}
          wrote over the same bytes later.
        </p>
      )}
    </li>
  );
}

function EditLines({ edit, kept }: { edit: Edit; kept: boolean }) {
  return (
    <figure className="overflow-hidden rounded-md border border-line bg-paper">
      <figcaption className="border-b border-line px-3 py-1 text-[0.85rem] text-soft">
        {edit.field} · {edit.role ?? 'a stated length, mended'}
        {edit.line !== null && ` · line ${edit.line}`}
        {kept && (
          <Button
            tone="quiet"
            className="ml-2 py-0"
            onClick={() =>
              void navigator.clipboard
                .writeText(edit.before)
                .then(() => toast.success('Copied as it was before the change.'))
            }
          >
            Copy what it was
          </Button>
        )}
      </figcaption>
      <div className="path grid grid-cols-[4rem_minmax(0,1fr)] gap-y-1 px-3 py-2 leading-relaxed">
        <span className="text-soft">before</span>
        <code className="break-all">
          {oneLine(edit.lead, 'end')}
          <del className="rounded-sm bg-alert-tint px-0.5 text-alert no-underline">{edit.before}</del>
          {oneLine(edit.tail, 'start')}
        </code>
        <span className="text-soft">after</span>
        <code className="break-all">
          {oneLine(edit.lead, 'end')}
          <ins className="rounded-sm bg-mark px-0.5 no-underline">{edit.after}</ins>
          {oneLine(edit.tail, 'start')}
        </code>
      </div>
    </figure>
  );
}

/** Only what stands on the same line: the rest of the record is not what this is about. */
function oneLine(text: string, side: 'start' | 'end'): string {
  const parts = text.split('\n');
  return (side === 'end' ? parts[parts.length - 1] : parts[0]) ?? '';
}

const STATES: Record<StepState, [string, string] | null> = {
  proposed: null,
  'left-out': ['left out', 'text-alert'],
  pending: ['waits', 'text-soft'],
  done: ['written', 'text-live'],
  refused: ['refused', 'text-alert'],
  undone: ['undone', 'text-idle'],
  kept: ['kept', 'text-waiting'],
};

function StateWord({ state }: { state: StepState }) {
  const word = STATES[state];
  return word && <span className={`w-20 shrink-0 text-right font-semibold ${word[1]}`}>{word[0]}</span>;
}
