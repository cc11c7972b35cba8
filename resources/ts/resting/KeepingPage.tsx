import { useState } from 'react';
import { client } from '@/api/client';
import { useAct, useMay } from '@/api/hooks';
import { useResting } from '@/api/retire';
import type { Keeping } from '@/api/types';
import { Button } from '@/ui/Button';
import { sayProblem } from '@/ui/Notice';
import { Page } from '@/ui/Page';
import { Empty, Failed, Loading } from '@/ui/States';

/** How the site keeps what is retired; an owner says it. */
export function KeepingPage() {
  const resting = useResting();
  const { own } = useMay();
  return (
    <Page title="How long, and where" words={['resting', 'called', 'bag']}>
      {resting.isPending ? (
        <Loading rows={5} />
      ) : resting.isError ? (
        <Failed error={resting.error} again={resting.refetch} />
      ) : own ? (
        <Form keeping={resting.data.keeping} />
      ) : (
        <Empty title="An owner decides this">
          Ask one to change how long files rest and where bags are kept.
        </Empty>
      )}
    </Page>
  );
}

function Form({ keeping }: { keeping: Keeping }) {
  const [days, setDays] = useState(String(keeping.days));
  const [leavesRows, setLeavesRows] = useState(keeping.leavesRows);
  const [restores, setRestores] = useState(keeping.restores);
  const [logs, setLogs] = useState(keeping.logs ?? '');
  const [bags, setBags] = useState(keeping.bags ?? '');
  const [widths, setWidths] = useState((keeping.widths ?? []).join(', '));
  const [saved, setSaved] = useState(false);
  const save = useAct<Keeping>((site) =>
    client.PATCH('/sites/{site}/keeping', {
      params: { path: { site } },
      body: {
        days: Number(days),
        leaves_rows: leavesRows,
        restores,
        logs: logs.trim() || null,
        bags: bags.trim() || null,
        widths: widths.trim() === '' ? null : widths.split(/[\s,]+/).map(Number),
      },
    }),
  );
  const field = 'h-10 rounded-md border border-edge bg-paper px-2';
  return (
    <form
      className="sheet flex max-w-2xl flex-col gap-5 p-5"
      onSubmit={(event) => {
        event.preventDefault();
        setSaved(false);
        save.mutate(undefined, { onSuccess: () => setSaved(true), onError: sayProblem });
      }}
    >
      <label className="flex flex-col gap-1">
        <b>Days of rest</b>
        <span className="text-soft">
          A file may go to the archive after these, unless something asked for it.
        </span>
        <input
          type="number"
          min={1}
          max={3650}
          value={days}
          onChange={(event) => setDays(event.target.value)}
          className={`${field} w-28`}
        />
      </label>
      <label className="flex items-start gap-2">
        <input
          type="checkbox"
          className="mt-1"
          checked={leavesRows}
          onChange={(event) => setLeavesRows(event.target.checked)}
        />
        <span>
          <b>Leave rows in the site’s own list of media</b>
          <span className="block text-soft">
            Otherwise a row goes along with its file, column for column, and comes back with it.
          </span>
        </span>
      </label>
      <label className="flex items-start gap-2">
        <input
          type="checkbox"
          className="mt-1"
          checked={restores}
          onChange={(event) => setRestores(event.target.checked)}
        />
        <span>
          <b>Bring called files back by themselves</b>
          <span className="block text-soft">
            Whatever a record names, a page shows or somebody asks for is restored within minutes.
          </span>
        </span>
      </label>
      <label className="flex flex-col gap-1">
        <b>Folder that is watched for access logs</b>
        <span className="text-soft">
          On this machine; read behind where it was read to, also after logs are turned over.
        </span>
        <input
          value={logs}
          onChange={(event) => setLogs(event.target.value)}
          placeholder="/var/log/nginx"
          className={`path ${field}`}
        />
      </label>
      <label className="flex flex-col gap-1">
        <b>Folder for the bags of the archive</b>
        <span className="text-soft">Outside of the public tree; empty for Ylema’s own.</span>
        <input value={bags} onChange={(event) => setBags(event.target.value)} className={`path ${field}`} />
      </label>
      <label className="flex flex-col gap-1">
        <b>Widths of the sizes that a new picture gets</b>
        <span className="text-soft">
          In pixels, apart by commas; empty for those that are usual on this site.
        </span>
        <input
          value={widths}
          onChange={(event) => setWidths(event.target.value)}
          placeholder="480, 960, 1600"
          className={`figures ${field}`}
        />
      </label>
      <div className="flex items-center gap-3">
        <Button type="submit" tone="main" disabled={save.isPending}>
          Save
        </Button>
        <span role="status" className="text-live">
          {saved && 'Saved.'}
        </span>
      </div>
    </form>
  );
}
