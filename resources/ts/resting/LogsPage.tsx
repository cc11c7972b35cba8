import { useQueryClient } from '@tanstack/react-query';
import { CircleHelp, FileUp, FolderSync } from 'lucide-react';
import { useRef, useState } from 'react';
import { body, client, Problem } from '@/api/client';
import { useAct, useMay, useSlug } from '@/api/hooks';
import { useLogs, useResting } from '@/api/retire';
import type { AccessLog } from '@/api/types';
import { Button } from '@/ui/Button';
import { sayProblem } from '@/ui/Notice';
import { Page } from '@/ui/Page';
import { Empty, Failed, Loading } from '@/ui/States';
import { ago, many, number } from '@/ui/words';

/** Access logs: sent, or watched; what they held, and what of them could not be read. */
export function LogsPage() {
  const logs = useLogs();
  const { maintain } = useMay();
  const folder = useResting().data?.keeping.logs ?? null;
  const [said, setSaid] = useState('');
  const watched = useAct<{ said?: string }>((site) =>
    client.POST('/sites/{site}/logs/watched', { params: { path: { site } } }),
  );
  const rows = logs.data?.logs ?? [];
  return (
    <Page title="Access logs" words={['proof', 'called']}>
      <p className="mb-4 max-w-3xl">
        Logs tell what visitors, other sites and mail ask for, though no record names it. Common and Combined
        Log Format, plain or packed by gzip, each request counted once.{' '}
        <span className="text-soft">Only counts are kept: no address of anybody, no agent, no query.</span>
      </p>
      {maintain && (
        <div className="mb-4 flex flex-wrap items-center gap-3">
          <SendLog onSaid={setSaid} />
          {folder && (
            <Button
              disabled={watched.isPending}
              onClick={() =>
                watched.mutate(undefined, {
                  onSuccess: (answer) => setSaid(answer.said || 'Nothing that was not read before.'),
                  onError: sayProblem,
                })
              }
            >
              <FolderSync size={16} aria-hidden="true" /> Read the watched folder now
            </Button>
          )}
          <span className="text-soft">
            {folder ? (
              <>
                Watched: <span className="path">{folder}</span>
              </>
            ) : (
              'No folder is watched; an owner names one under “How long, and where”.'
            )}
          </span>
        </div>
      )}
      <p role="status" className={said ? 'sheet mb-4 max-w-4xl px-4 py-2' : 'sr-only'}>
        {said}
      </p>
      {logs.isPending ? (
        <Loading rows={4} />
      ) : logs.isError ? (
        <Failed error={logs.error} again={logs.refetch} />
      ) : rows.length === 0 ? (
        <Empty title="No access log was read">
          Without one, nobody knows whether other sites or mails show a file, and nothing is safe to rest.
        </Empty>
      ) : (
        <ul className="sheet max-w-5xl divide-y divide-line">
          {rows.map((log) => (
            <LogRow key={log.id} log={log} onSaid={setSaid} />
          ))}
        </ul>
      )}
    </Page>
  );
}

function LogRow({ log, onSaid }: { log: AccessLog; onSaid: (said: string) => void }) {
  const { maintain } = useMay();
  const accept = useAct<{ said?: string }>((site) =>
    client.POST('/sites/{site}/logs/{log}/ours', { params: { path: { site, log: log.id } } }),
  );
  const day = (iso: string | null) => (iso ?? '').slice(0, 10);
  return (
    <li className="px-4 py-2">
      <div className="figures flex flex-wrap items-baseline gap-x-4">
        <span className="path min-w-0 flex-1 truncate font-semibold">{log.name}</span>
        <span>{log.from ? `${day(log.from)} – ${day(log.until)}` : 'no day of this site'}</span>
        <span>{many(log.lines, 'line')}</span>
        <span>{number(log.requests)} for files</span>
        <span className="text-soft">read {ago(log.read_at)}</span>
      </div>
      {log.doubt && (
        <p className="flex flex-wrap items-center gap-x-3 gap-y-1 text-[0.9rem]">
          <CircleHelp size={16} aria-label="not known" className="shrink-0 text-waiting" />
          <span className="min-w-0 flex-1">{log.doubt}</span>
          {maintain && log.can_accept && (
            <Button
              disabled={accept.isPending}
              onClick={() =>
                accept.mutate(undefined, {
                  onSuccess: (answer) => onSaid(answer.said ?? ''),
                  onError: sayProblem,
                })
              }
            >
              It is this site’s own
            </Button>
          )}
        </p>
      )}
      {log.broken > 0 && (
        <p className="text-[0.9rem] text-soft">
          {many(log.broken, 'line')} could not be read, such as{' '}
          <span className="path break-all">{log.example}</span>
        </p>
      )}
    </li>
  );
}

function SendLog({ onSaid }: { onSaid: (said: string) => void }) {
  const slug = useSlug();
  const input = useRef<HTMLInputElement>(null);
  const [sending, setSending] = useState(false);
  const queries = useQueryClient();
  async function send(file: File | undefined) {
    if (!file) return;
    setSending(true);
    onSaid('');
    const form = new FormData();
    form.set('log', file);
    try {
      const answer = await body(
        client.POST('/sites/{site}/logs', {
          params: { path: { site: slug } },
          body: { log: '' },
          bodySerializer: () => form,
        }),
      );
      onSaid(answer.said ?? '');
      await queries.invalidateQueries({ queryKey: ['site', slug] });
    } catch (error) {
      onSaid(error instanceof Problem ? error.detail : 'Send it again.');
    } finally {
      setSending(false);
      if (input.current) input.current.value = '';
    }
  }
  return (
    <>
      <Button tone="main" onClick={() => sending || input.current?.click()} aria-disabled={sending}>
        <FileUp size={16} aria-hidden="true" /> {sending ? 'Reading…' : 'Send a log'}
      </Button>
      <input
        ref={input}
        type="file"
        name="log"
        aria-label="Access log to send"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => void send(event.target.files?.[0])}
      />
    </>
  );
}
