import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { ArrowRight } from 'lucide-react';
import { useDeferredValue, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { body, client } from '@/api/client';
import { useAct, useMay, useSlug } from '@/api/hooks';
import type { Plan } from '@/api/types';
import { Button } from '@/ui/Button';
import { sayProblem } from '@/ui/Notice';
import { Page } from '@/ui/Page';
import { many } from '@/ui/words';

const EXAMPLES = [
  { from: 'media/2014/', to: 'media/archive/2014/', words: 'A folder, with every file in it' },
  { from: 'media/people/portrait.jpg', to: 'media/people/warden.jpg', words: 'A file and its renditions' },
  {
    from: 'https://old.example.org/',
    to: 'https://www.example.org/',
    words: 'An address, before or after the move',
  },
];

/** Who names what may move in a way that is not read. */
function useUnreadNames(typed: string) {
  const slug = useSlug();
  const { maintain } = useMay();
  const from = useDeferredValue(typed);
  return useQuery({
    queryKey: ['site', slug, 'moves', 'names', from],
    queryFn: ({ signal }) =>
      body(
        client.GET('/sites/{site}/moves/names', {
          params: { path: { site: slug }, query: { from } },
          signal,
        }),
      ),
    enabled: maintain && slug !== '' && from !== '',
    placeholderData: keepPreviousData,
  });
}

/** Asks what moves and where; the plan says what follows. */
export function MovePage() {
  const slug = useSlug();
  const navigate = useNavigate();
  const { maintain } = useMay();
  const [params] = useSearchParams();
  const [from, setFrom] = useState(params.get('from') ?? '');
  const [to, setTo] = useState(params.get('to') ?? params.get('from') ?? '');
  const [keep, setKeep] = useState(true);
  const isAddress = /^https?:\/\//i.test(from.trim());
  const names = useUnreadNames(isAddress ? '' : from.trim());
  const act = useAct<Plan>((site) =>
    client.POST('/sites/{site}/moves', {
      params: { path: { site } },
      body: { from: from.trim(), to: to.trim(), keep },
    }),
  );
  return (
    <Page title="Move or rename" words={['reference', 'plan']}>
      <p className="mb-4 max-w-3xl">
        A file, a folder or an address goes elsewhere, and every reference follows, in every notation.{' '}
        <span className="text-soft">
          The plan lists all that it touches, and what will not resolve afterwards. Nothing is written before
          you have read it.
        </span>
      </p>
      <form
        className="sheet max-w-4xl p-4"
        onSubmit={(event) => {
          event.preventDefault();
          act.mutate(undefined, {
            onSuccess: (plan) => void navigate(`/${slug}/plans/${plan.id}`),
            onError: sayProblem,
          });
        }}
      >
        <div className="grid grid-cols-[minmax(0,1fr)_1.25rem_minmax(0,1fr)] items-end gap-3 max-md:grid-cols-1">
          <label>
            <span className="block text-[0.88rem] text-soft">What moves</span>
            <input
              autoFocus={from === ''}
              value={from}
              onChange={(event) => setFrom(event.target.value)}
              placeholder="media/2014/"
              className="path h-10 w-full rounded-md border border-edge bg-paper px-2"
            />
          </label>
          <ArrowRight size={18} aria-hidden="true" className="mb-2.5 text-soft max-md:hidden" />
          <label>
            <span className="block text-[0.88rem] text-soft">Where it goes</span>
            <input
              autoFocus={from !== '' && params.has('from')}
              value={to}
              onChange={(event) => setTo(event.target.value)}
              placeholder="media/archive/2014/"
              className="path h-10 w-full rounded-md border border-edge bg-paper px-2"
            />
          </label>
        </div>
        {!isAddress && (
          <label className="mt-3 flex min-h-[24px] items-center gap-2">
            <input type="checkbox" checked={keep} onChange={(event) => setKeep(event.target.checked)} />
            Keep the old addresses as redirects, for whoever else names them
          </label>
        )}
        {(names.data?.places ?? 0) > 0 && (
          <p role="status" className="mt-3">
            <strong className="figures">{many(names.data?.places ?? 0, 'place')}</strong>{' '}
            {names.data?.places === 1 ? 'names' : 'name'} what moves in a way that is not read, and{' '}
            {names.data?.places === 1 ? 'stays as it is' : 'stay as they are'}:{' '}
            <span className="break-words text-soft">
              {names.data?.example}
              {names.data?.places === 1 ? '.' : ', for one.'}
            </span>
          </p>
        )}
        <div className="mt-4 flex justify-end">
          <Button
            type="submit"
            tone="main"
            disabled={!maintain || act.isPending || from.trim() === '' || to.trim() === '' || from === to}
          >
            {act.isPending ? 'Asking…' : 'Plan the move'}
          </Button>
        </div>
      </form>
      <h2 className="mt-6 mb-2 text-[1.05rem] font-semibold">For example</h2>
      <ul className="grid max-w-4xl gap-2">
        {EXAMPLES.map((example) => (
          <li key={example.from} className="flex flex-wrap items-baseline gap-x-3">
            <span className="min-w-72">{example.words}</span>
            <span className="path text-soft">
              {example.from} → {example.to}
            </span>
          </li>
        ))}
      </ul>
    </Page>
  );
}
