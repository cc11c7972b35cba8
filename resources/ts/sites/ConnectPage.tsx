import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Check, TriangleAlert } from 'lucide-react';
import { useNavigate, useParams } from 'react-router';
import { body, client } from '@/api/client';
import { useMay } from '@/api/hooks';
import type { Draft, DraftAsked } from '@/api/types';
import { Button } from '@/ui/Button';
import { sayProblem } from '@/ui/Notice';
import { FailedPage, Page } from '@/ui/Page';
import { Empty, Loading } from '@/ui/States';
import { Kinds, MapText, Questions } from './Proposed';
import { useDraft, useDraftAct } from './useDrafts';
import { Where } from './Where';

/** Connects a site in steps that can be left and taken up again: said, tried, proposed, looked at, connected. */
export function ConnectPage() {
  const { own } = useMay();
  const named = useParams()['draft'];
  const id = named === undefined ? null : Number(named);
  const draft = useDraft(id);
  if (!own)
    return (
      <Page title="Connect a site">
        <Empty title="An owner connects sites">Ask one of them.</Empty>
      </Page>
    );
  if (id !== null && draft.isError)
    return <FailedPage title="Connect a site" error={draft.error} again={draft.refetch} />;
  if (id !== null && !draft.data)
    return (
      <Page title="Connect a site">
        <Loading rows={4} height={72} />
      </Page>
    );
  return <Steps key={id ?? 'new'} draft={draft.data ?? null} />;
}

function Steps({ draft }: { draft: Draft | null }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const number = draft?.id ?? 0;
  const path = { params: { path: { draft: number } } };
  const say = useDraftAct((asked: DraftAsked) =>
    draft === null
      ? client.POST('/drafts', { body: asked })
      : client.PUT('/drafts/{draft}', { ...path, body: asked }),
  );
  const propose = useDraftAct((answers: Record<string, string>) =>
    client.POST('/drafts/{draft}/proposal', { ...path, body: { answers } }),
  );
  const change = useDraftAct((map: string) => client.PUT('/drafts/{draft}/map', { ...path, body: { map } }));
  const connect = useMutation({
    mutationFn: () => body(client.POST('/drafts/{draft}/site', path)),
    onSuccess: async ({ slug }) => {
      await queries.invalidateQueries({ queryKey: ['sites'] });
      void navigate(`/${slug}/desk`);
    },
    onError: sayProblem,
  });
  const giveUp = useMutation({
    mutationFn: async () => {
      await client.DELETE('/drafts/{draft}', path);
    },
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ['drafts'], exact: true });
      void navigate('/sites');
    },
    onError: sayProblem,
  });
  const busy = say.isPending || propose.isPending || change.isPending || draft?.state === 'proposing';
  const isSound = draft !== null && draft.tested.length > 0 && draft.tested.every((one) => one.good);
  const where = (
    <Where
      draft={draft}
      busy={say.isPending}
      onSaid={(asked) =>
        say.mutate(asked, {
          onSuccess: (made) => {
            if (draft === null) void navigate(`/sites/connect/${made.id}`, { replace: true });
          },
          onError: sayProblem,
        })
      }
    />
  );
  return (
    <Page
      title={draft === null ? 'Connect a site' : `Connect ${draft.name}`}
      aside={
        draft !== null && (
          <Button tone="quiet" disabled={giveUp.isPending} onClick={() => giveUp.mutate()}>
            Give it up
          </Button>
        )
      }
    >
      <p className="mb-4 max-w-3xl">
        Say where the site is; Ylema tries the connection and proposes how to read it.{' '}
        <span className="text-soft">
          Nothing of the site is written, now or later, before an owner switches that on.
        </span>
      </p>
      <div className="grid gap-4">
        {draft !== null && isSound ? (
          <details className="sheet max-w-5xl">
            <summary className="flex cursor-pointer items-baseline gap-3 px-4 py-3">
              <span className="font-semibold">Where it is</span>
              <span className="path min-w-0 flex-1 truncate text-soft">{whereWords(draft)}</span>
              <span className="text-accent underline underline-offset-2">Change</span>
            </summary>
            {where}
          </details>
        ) : (
          where
        )}
        {draft !== null && draft.tested.length > 0 && <Tested draft={draft} />}
        {draft !== null && draft.map === null && (
          <div className="flex max-w-5xl items-center justify-end gap-4">
            {draft.state === 'proposing' && (
              <p role="status" className="text-soft">
                Looking at schema, rows, files and public pages. You may leave; this goes on.
              </p>
            )}
            {draft.problem !== null && (
              <p role="alert" className="text-alert">
                {draft.problem}
              </p>
            )}
            <Button
              tone="main"
              disabled={busy || !isSound}
              onClick={() => propose.mutate({}, { onError: sayProblem })}
            >
              {draft.state === 'proposing' ? 'Working it out…' : 'Propose how to read it'}
            </Button>
          </div>
        )}
        {draft !== null && draft.map !== null && draft.state !== 'proposing' && (
          <>
            <Questions
              key={draft.at ?? ''}
              draft={draft}
              busy={busy}
              onAnswered={(answers) => propose.mutate(answers, { onError: sayProblem })}
            />
            <Kinds draft={draft} />
            <MapText
              key={draft.map}
              draft={draft}
              busy={busy}
              onChanged={(map) => change.mutate(map, { onError: sayProblem })}
            />
            <div className="flex max-w-5xl justify-end">
              <Button
                tone="main"
                disabled={busy || !isSound || connect.isPending}
                onClick={() => connect.mutate()}
              >
                {connect.isPending ? 'Connecting…' : 'Connect it and read it for the first time'}
              </Button>
            </div>
          </>
        )}
        {draft?.state === 'proposing' && draft.map !== null && (
          <p role="status" className="max-w-5xl text-soft">
            Working it out again with your answers…
          </p>
        )}
      </div>
    </Page>
  );
}

function whereWords(draft: Draft) {
  const { engine, host, database, file, files, remote, address } = draft.said;
  const content =
    engine === 'folder' ? [] : [engine === 'sqlite' ? (file ?? '') : `${database ?? ''} on ${host ?? ''}`];
  const where = remote === null ? files : (remote.host ?? remote.bucket ?? remote.kind);
  return [address, ...content, where].join(' · ');
}

/** What was tried of the connection, the first thing that is wrong last. */
function Tested({ draft }: { draft: Draft }) {
  return (
    <section aria-label="The connection" className="sheet max-w-5xl p-4">
      <h2 className="mb-1 text-[1.05rem] font-semibold">The connection</h2>
      <ul>
        {draft.tested.map((one) => (
          <li key={one.what} className="flex items-start gap-2 py-0.5">
            {one.good ? (
              <Check size={18} aria-label="good" className="mt-0.5 shrink-0 text-accent" />
            ) : (
              <TriangleAlert size={18} aria-label="wrong" className="mt-0.5 shrink-0 text-alert" />
            )}
            <span>
              <span className="font-semibold">{one.what}</span>
              <span className={one.good ? 'text-soft' : ''}>: {one.words}</span>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
