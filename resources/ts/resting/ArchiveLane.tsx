import { Archive, ChevronRight, Image, ShieldAlert, ShieldCheck } from 'lucide-react';
import { useRef, useState } from 'react';
import { client } from '@/api/client';
import { sendPicture, useAct, useMay, useSlug } from '@/api/hooks';
import { useBagFiles, useBags } from '@/api/retire';
import type { Bag, BagFile, Resting } from '@/api/types';
import { Button } from '@/ui/Button';
import { sayProblem } from '@/ui/Notice';
import { Empty, Failed, Loading } from '@/ui/States';
import { ago, fileName, many, number, weight } from '@/ui/words';
import { EndBag } from './EndBag';
import { KeptPicture } from './KeptPicture';
import { Lane } from './Lane';
import { usePlanned } from './usePlanned';

export function ArchiveLane({ resting }: { resting: Resting }) {
  const { own, maintain } = useMay();
  const planned = usePlanned();
  const bags = useBags();
  const [q, setQ] = useState('');
  const [look, setLook] = useState('');
  const over = resting.resting.over;
  const lane = resting.archived;
  return (
    <Lane
      title="Gone to archive"
      count={lane.files}
      noun={lane.files === 1 ? 'file' : 'files'}
      bytes={lane.bytes}
      more={
        lane.bags === 0 ? (
          over > 0 ? (
            `${many(over, 'file')} may go: ${over === 1 ? 'its' : 'their'} days are over.`
          ) : (
            'What rested long enough goes into a bag that any tool can read.'
          )
        ) : lane.damaged > 0 ? (
          <b className="text-alert">
            {many(lane.damaged, 'bag')} of {number(lane.bags)} damaged
          </b>
        ) : (
          `in ${many(lane.bags, 'bag')}`
        )
      }
      action={
        (lane.files > 0 || (own && over > 0)) && (
          <>
            {own && over > 0 && (
              <Button disabled={planned.isPending} onClick={() => planned.archive()}>
                <Archive size={15} aria-hidden="true" /> Archive {many(over, 'file')}
              </Button>
            )}
            {lane.files > 0 && (
              <input
                type="search"
                value={q}
                onChange={(event) => setQ(event.target.value)}
                aria-label="Find in the archive"
                placeholder="Find in all bags"
                className="min-h-[34px] w-24 min-w-0 flex-1 rounded-md border border-edge bg-sheet px-2"
              />
            )}
            {lane.files > 0 && maintain && <ByLook look={look} onLook={setLook} />}
          </>
        )
      }
    >
      {bags.isPending ? (
        <div className="p-3">
          <Loading rows={3} height={64} />
        </div>
      ) : bags.isError ? (
        <Failed error={bags.error} again={bags.refetch} />
      ) : q !== '' || look !== '' ? (
        <BagFiles bag="" q={q} upload={look} />
      ) : bags.data.bags.length === 0 ? (
        <Empty title="Nothing is archived">
          An owner sends files here once their days of rest are over. They can still be restored.
        </Empty>
      ) : (
        <ul className="divide-y divide-line">
          {bags.data.bags.map((bag) => (
            <BagRow key={bag.name} bag={bag} />
          ))}
        </ul>
      )}
    </Lane>
  );
}

/** A picture that somebody has is looked for among all that is archived. */
function ByLook({ look, onLook }: { look: string; onLook: (token: string) => void }) {
  const slug = useSlug();
  const input = useRef<HTMLInputElement>(null);
  async function send(file: File | undefined) {
    if (!file) return;
    try {
      onLook((await sendPicture(slug, file)).token);
    } catch (error) {
      sayProblem(error);
    } finally {
      if (input.current) input.current.value = '';
    }
  }
  return (
    <>
      <Button onClick={() => (look === '' ? input.current?.click() : onLook(''))}>
        <Image size={15} aria-hidden="true" /> {look === '' ? 'By a picture' : 'All again'}
      </Button>
      <input
        ref={input}
        type="file"
        accept="image/*"
        aria-label="Picture to look for in the archive"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => void send(event.target.files?.[0])}
      />
    </>
  );
}

function BagRow({ bag }: { bag: Bag }) {
  const { maintain, own } = useMay();
  const [isOpen, setOpen] = useState(false);
  const verify = useAct<unknown>((site) =>
    client.POST('/sites/{site}/bags/{bag}/verify', { params: { path: { site, bag: bag.name } } }),
  );
  const isSound = bag.trouble.length === 0;
  return (
    <li className="px-4 py-2.5">
      <button
        type="button"
        aria-expanded={isOpen}
        onClick={() => setOpen(!isOpen)}
        className="flex w-full items-center gap-1.5 text-left font-semibold hover:text-accent"
      >
        <ChevronRight
          size={16}
          aria-hidden="true"
          className={`shrink-0 transition-transform ${isOpen ? 'rotate-90' : ''}`}
        />
        <span className="path min-w-0 flex-1 truncate">{bag.name}</span>
        <span className="figures text-[0.88rem] font-normal text-soft">
          {many(bag.files, 'file')}, {weight(bag.weight)}
        </span>
      </button>
      <div className="mt-1 flex flex-wrap items-center gap-x-3 gap-y-1 pl-[1.4rem] text-[0.9rem]">
        {bag.state === 'open' ? (
          <span className="text-waiting">not sealed: its change did not come to its end</span>
        ) : isSound ? (
          <span className="inline-flex items-center gap-1 text-live">
            <ShieldCheck size={15} aria-hidden="true" /> whole
            {bag.verified_at && `, verified ${ago(bag.verified_at)}`}
          </span>
        ) : (
          <span className="inline-flex items-center gap-1 font-semibold text-alert">
            <ShieldAlert size={15} aria-hidden="true" /> damaged
          </span>
        )}
        {maintain && bag.state === 'sealed' && (
          <button
            type="button"
            disabled={verify.isPending}
            onClick={() => verify.mutate(undefined, { onError: sayProblem })}
            className="min-h-[24px] text-accent underline underline-offset-2"
          >
            Verify
          </button>
        )}
        {own && <EndBag bag={bag} />}
      </div>
      {bag.trouble.length > 0 && (
        <ul className="mt-1 ml-[1.4rem] list-disc pl-4 text-[0.9rem] text-alert">
          {bag.trouble.slice(0, 5).map((one) => (
            <li key={one} className="break-words">
              {one}
            </li>
          ))}
        </ul>
      )}
      {isOpen && <BagFiles bag={bag.name} q="" />}
    </li>
  );
}

function BagFiles({ bag, q, upload = '' }: { bag: string; q: string; upload?: string }) {
  const files = useBagFiles(bag, q, upload);
  const rows = files.data?.pages.flatMap((page) => page.rows) ?? [];
  if (files.isPending) return <Loading rows={3} height={48} />;
  if (files.isError) return <Failed error={files.error} again={files.refetch} />;
  if (rows.length === 0)
    return <Empty title="Nothing fits">No file of the archive has that in its name.</Empty>;
  return (
    <>
      <ul className="mt-1.5 divide-y divide-line border-t border-line">
        {rows.map((row) => (
          <BagFileRow key={row.id} row={row} />
        ))}
      </ul>
      {files.hasNextPage && (
        <Button
          className="m-3"
          disabled={files.isFetchingNextPage}
          onClick={() => void files.fetchNextPage()}
        >
          Show more
        </Button>
      )}
    </>
  );
}

function BagFileRow({ row }: { row: BagFile }) {
  const slug = useSlug();
  const { maintain } = useMay();
  const planned = usePlanned();
  return (
    <li className="flex items-center gap-3 py-1.5 pr-1 pl-3">
      <KeptPicture
        src={`/api/sites/${slug}/pictures/bagged/${row.id}`}
        mime={row.mime}
        className="h-9 w-12 shrink-0 rounded border border-line"
      />
      <span className="min-w-0 flex-1">
        <span className="block truncate">
          {row.is_original ? row.title || fileName(row.path) : fileName(row.path)}
        </span>
        <span className="figures block truncate text-[0.85rem] text-soft">{weight(row.size)}</span>
      </span>
      {maintain && (
        <Button
          disabled={planned.isPending}
          aria-label={`Restore ${row.path}`}
          onClick={() => planned.restore({ bagged: [row.id] })}
        >
          Restore
        </Button>
      )}
    </li>
  );
}
