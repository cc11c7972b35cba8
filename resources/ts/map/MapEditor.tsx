import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Download, Upload } from 'lucide-react';
import { lazy, Suspense, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import type { Tried } from '@/api/types';
import { Loading } from '@/ui/States';
import { sayProblem } from '@/ui/Notice';
import { Samples } from './Samples';
import { wordsAt } from './words';

// The editor is as large as all the rest together, and few open it.
const Yaml = lazy(() => import('@/ui/Yaml'));

interface Props {
  /** Names this map among others in what was asked before. */
  id: string;
  map: string;
  /** What is written now, kept by whoever shows the editor. */
  text: string;
  onText: ((text: string) => void) | undefined;
  lines: Record<string, readonly string[]>;
  notations: readonly string[];
  /** Holds a map against the source; nobody keeps it. */
  onTry: (map: string, kind: string | null) => Promise<Tried>;
  /** Asks for the tables that may be named; without them, none are offered. */
  onTables: () => Promise<{ tables: Record<string, string[]> }>;
  fileName: string;
  /** What can be done with a map, given what was found wrong with it. */
  children: (sound: boolean) => ReactNode;
}

/** A field map while it is written: at the left its text, at the right what it reads. */
export function MapEditor({
  id,
  map,
  text,
  onText,
  lines,
  notations,
  onTry,
  onTables,
  fileName,
  children,
}: Props) {
  const [kind, setKind] = useState<string | null>(null);
  const settled = useSettled(text, 600);
  const tried = useQuery({
    queryKey: ['map-tried', id, settled, kind],
    queryFn: () => onTry(settled, kind),
    placeholderData: keepPreviousData,
    staleTime: 60_000,
    gcTime: 60_000,
  });
  const kinds = tried.data?.kinds;
  const tables = useQuery({
    queryKey: ['map-tables', id],
    queryFn: onTables,
    staleTime: 600_000,
    retry: false,
  });
  const words = useMemo(
    () => wordsAt({ lines, notations, kinds: kinds ?? [], tables: tables.data?.tables ?? {}, text }),
    [lines, notations, kinds, tables.data, text],
  );
  const isCurrent = settled === text && !tried.isPlaceholderData && tried.data !== undefined;
  const problem = tried.data?.problem ?? null;
  return (
    <div className={FRAME}>
      <section aria-label="The map" className="flex min-h-0 flex-col gap-2 max-lg:h-[32rem]">
        <div className="min-h-0 flex-1">
          <Suspense fallback={<Loading rows={8} />}>
            <Yaml
              label="Field map, in YAML"
              value={text}
              problem={isCurrent ? problem : null}
              words={words}
              {...(onText ? { onChange: onText } : {})}
            />
          </Suspense>
        </div>
        {problem && isCurrent && (
          <p role="alert" className="rounded-md bg-alert-tint px-3 py-2 text-alert">
            {problem.words}
          </p>
        )}
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          <button type="button" className={LINK} onClick={() => download(text, fileName)}>
            <Download size={14} aria-hidden="true" /> Download
          </button>
          {onText && <FromFile onText={onText} />}
          <span className="ml-auto flex flex-wrap items-center gap-2">
            {text !== map && <span className="text-soft">changed, not taken</span>}
            {children(isCurrent && problem === null)}
          </span>
        </div>
      </section>
      <Samples tried={tried.data} error={tried.error} busy={!isCurrent} kind={kind} onKind={setKind} />
    </div>
  );
}

const FRAME =
  'grid h-full min-h-0 grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)] gap-4 max-lg:h-auto max-lg:grid-cols-1';

const LINK = 'inline-flex min-h-6 items-center gap-1 text-accent underline underline-offset-2';

function FromFile({ onText }: { onText: (text: string) => void }) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        accept=".yaml,.yml,text/yaml"
        aria-label="A file with a field map"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = '';
          if (!file) return;
          if (file.size > 1_000_000) sayProblem(new Error('A field map is at most 1 MB of text.'));
          else file.text().then(onText, sayProblem);
        }}
      />
      <button type="button" className={LINK} onClick={() => input.current?.click()}>
        <Upload size={14} aria-hidden="true" /> From a file
      </button>
    </>
  );
}

function download(text: string, name: string) {
  const address = URL.createObjectURL(new Blob([text], { type: 'application/yaml' }));
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  URL.revokeObjectURL(address);
}

/** What somebody types, once they pause. */
function useSettled(value: string, after: number): string {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), after);
    return () => clearTimeout(timer);
  }, [value, after]);
  return settled;
}
