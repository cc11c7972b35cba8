import { ChevronRight, FilePlus2, FileText, Image } from 'lucide-react';
import { Collapsible } from 'radix-ui';
import type { PlanEdit, Write } from '@/api/types';
import { kindWord, many, weight } from '@/ui/words';

/** Every write of a plan or a change, each opening to its bytes before and after. */
export function WriteList({ writes }: { writes: Write[] }) {
  const files = writes.filter((w) => w.target !== 'record');
  const records = writes.filter((w) => w.target === 'record');
  return (
    <div className="flex flex-col gap-4">
      {records.length > 0 && (
        <section aria-label="Records">
          <h2 className="mb-1.5 font-semibold">{many(records.length, 'record')}</h2>
          <ul className="sheet divide-y divide-line">
            {records.map((w) => (
              <RecordWrite key={w.id} write={w} open={records.length <= 2} />
            ))}
          </ul>
        </section>
      )}
      {files.length > 0 && (
        <section aria-label="Files">
          <h2 className="mb-1.5 font-semibold">
            {many(files.filter((f) => f.target === 'file').length, 'file')}
          </h2>
          <ul className="sheet divide-y divide-line">
            {files.map((w) => (
              <li key={w.id} className="flex items-center gap-3 px-4 py-2">
                {w.new ? (
                  <FilePlus2 size={16} className="text-live" aria-hidden="true" />
                ) : (
                  <Image size={16} className="text-accent" aria-hidden="true" />
                )}
                <span className="path min-w-0 flex-1 truncate">{w.title}</span>
                <span className="figures text-soft">
                  {w.target === 'media-row'
                    ? 'new row in the site’s media list'
                    : `${w.detail.width ? `${w.detail.width} × ${w.detail.height ?? '?'} · ` : ''}${w.new ? 'new' : `${weight(w.detail.weight_before)} →`} ${weight(w.detail.weight_after)}`}
                </span>
                <StateWord write={w} />
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

function RecordWrite({ write, open }: { write: Write; open: boolean }) {
  const fields = Object.entries(write.detail.fields ?? {});
  const count = fields.reduce((sum, [, f]) => sum + f.edits.filter((e) => e.role !== 'length').length, 0);
  const problem = write.problem ?? write.message;
  return (
    <li>
      <Collapsible.Root defaultOpen={open}>
        <Collapsible.Trigger className="group flex w-full items-center gap-3 px-4 py-2 text-left hover:bg-tint/60">
          <ChevronRight
            size={16}
            className="text-soft transition-transform group-data-[state=open]:rotate-90"
            aria-hidden="true"
          />
          <FileText size={16} className="text-accent" aria-hidden="true" />
          <span className="w-28 shrink-0 text-soft">{kindWord(write.kind ?? '')}</span>
          <span className="min-w-0 flex-1 truncate font-semibold">{write.title}</span>
          <span className="figures text-soft">{problem && count === 0 ? '' : many(count, 'edit')}</span>
          <StateWord write={write} />
        </Collapsible.Trigger>
        {problem && <p className="mx-4 mb-2 rounded bg-alert-tint px-3 py-1.5 text-alert">{problem}</p>}
        <Collapsible.Content>
          <div className="flex flex-col gap-3 px-4 pb-3">
            {fields.map(([name, field]) =>
              field.edits.map((edit) => <EditLines key={`${name}:${edit.start}`} field={name} edit={edit} />),
            )}
          </div>
        </Collapsible.Content>
      </Collapsible.Root>
    </li>
  );
}

function EditLines({ field, edit }: { field: string; edit: PlanEdit }) {
  return (
    <figure className="overflow-hidden rounded-md border border-line bg-paper">
      <figcaption className="border-b border-line px-3 py-1 text-[0.85rem] text-soft">
        {field} · {edit.role === 'length' ? 'a stated length, mended' : edit.role}
        {edit.line !== null && ` · line ${edit.line}`}
      </figcaption>
      <div className="path grid grid-cols-[4rem_1fr] gap-y-1 px-3 py-2 leading-relaxed">
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

function StateWord({ write }: { write: Write }) {
  const word = write.state ?? (write.problem ? 'left out' : null);
  if (!word || word === 'pending')
    return word ? <span className="w-20 text-right text-soft">waits</span> : null;
  const colour = {
    written: 'text-live',
    undone: 'text-idle',
    refused: 'text-alert',
    kept: 'text-waiting',
    'left out': 'text-alert',
  }[word];
  return (
    <span className={`w-20 shrink-0 text-right font-semibold ${colour}`}>
      {word === 'refused' ? 'left out' : word}
    </span>
  );
}
