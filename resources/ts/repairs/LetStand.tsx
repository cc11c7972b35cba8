import { useState } from 'react';
import { client } from '@/api/client';
import { useAct, useLetStand, useMay } from '@/api/hooks';
import type { LetStand as Decision } from '@/api/types';
import { Button } from '@/ui/Button';
import { sayProblem } from '@/ui/Notice';
import { ago, many, number } from '@/ui/words';

/** Asks why findings shall stay as they are, and lets them. */
export function LetStandForm({
  cause,
  asked,
  onClose,
}: {
  cause: string;
  asked: string;
  onClose: () => void;
}) {
  const [reason, setReason] = useState('');
  const act = useAct<Decision>((site) =>
    client.POST('/sites/{site}/findings/{cause}/let-stand', {
      params: { path: { site, cause } },
      body: { asked, reason: reason.trim() },
    }),
  );
  return (
    <form
      className="mt-2 flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        act.mutate(undefined, { onSuccess: onClose, onError: sayProblem });
      }}
    >
      <input
        autoFocus
        aria-label={`Why ${asked} is let stand`}
        placeholder="Why does it stay as it is?"
        value={reason}
        maxLength={500}
        onChange={(event) => setReason(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Escape') onClose();
        }}
        className="min-w-0 flex-1 rounded-md border border-edge bg-paper px-2 py-1"
      />
      <Button type="submit" disabled={reason.trim() === '' || act.isPending}>
        Let it stand
      </Button>
      <Button tone="quiet" onClick={onClose}>
        Never mind
      </Button>
    </form>
  );
}

/** All that was decided to stay as it is; any of it can be taken back. */
export function LetStandList() {
  const { maintain } = useMay();
  const pages = useLetStand();
  const back = useAct<unknown, number>((site, decision) =>
    client.DELETE('/sites/{site}/let-stand/{decision}', { params: { path: { site, decision } } }),
  );
  const decisions = pages.data?.pages.flatMap((page) => page.decisions) ?? [];
  const total = pages.data?.pages[0]?.total ?? 0;
  if (total === 0) return null;
  return (
    <section className="mt-6" aria-label="Let stand">
      <h2 className="mb-2 text-[1.1rem] font-semibold">
        Let stand <span className="figures font-normal text-soft">{number(total)}</span>
      </h2>
      <ul className="sheet divide-y divide-line">
        {decisions.map((d) => (
          <li key={d.id} className="flex items-center gap-4 px-4 py-2 max-md:flex-wrap">
            <div className="min-w-0 flex-1">
              <p className="path break-all">{d.asked}</p>
              <p className="text-[0.9rem] text-soft">
                {d.title}; {d.by ?? 'somebody'}, {ago(d.at)}
              </p>
            </div>
            <p className="min-w-0 flex-1 max-md:basis-full">{d.reason}</p>
            {maintain && (
              <Button disabled={back.isPending} onClick={() => back.mutate(d.id, { onError: sayProblem })}>
                Take back
              </Button>
            )}
          </li>
        ))}
      </ul>
      {pages.hasNextPage && (
        <Button className="mt-3" onClick={() => void pages.fetchNextPage()}>
          Show more ({many(total - decisions.length, 'decision')})
        </Button>
      )}
    </section>
  );
}
