import { Check, Wrench } from 'lucide-react';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { useFindingGroups, useMay, useSlug } from '@/api/hooks';
import { Button } from '@/ui/Button';
import { FailedPage, Page } from '@/ui/Page';
import { Failed, Loading } from '@/ui/States';
import { many, number, sentence } from '@/ui/words';
import { Group } from './Group';
import { useMend } from './useMend';

/** One family: its findings by what they ask for, sure ones mended by themselves, open ones to be decided. */
export function FamilyPage() {
  const { cause = '' } = useParams();
  const slug = useSlug();
  const { maintain } = useMay();
  const pages = useFindingGroups(cause);
  const mend = useMend();
  const [decisions, setDecisions] = useState<ReadonlyMap<string, string>>(new Map());
  if (pages.isError) return <FailedPage title="Repairs" error={pages.error} again={pages.refetch} />;
  const family = pages.data?.pages[0];
  const groups = pages.data?.pages.flatMap((page) => page.groups) ?? [];
  const sure = groups.filter((g) => g.sure);
  const decide = (asked: string, path: string | null) =>
    setDecisions((old) => {
      const next = new Map(old);
      if (path === null) next.delete(asked);
      else next.set(asked, path);
      return next;
    });
  const decided = groups.filter((g) => decisions.has(g.asked));
  const places = [...sure, ...decided].reduce((sum, g) => sum + g.references, 0);

  return (
    <Page
      title={family?.title ?? 'Repairs'}
      wide
      words={['finding', 'cure', 'reference']}
      aside={
        maintain &&
        (places > 0 || pages.hasNextPage) && (
          <Button
            tone="main"
            disabled={mend.isPending}
            onClick={() => mend.mend({ causes: [cause], decisions: new Map(decisions) })}
          >
            <Wrench size={16} aria-hidden="true" />
            {askFor(places, decided.length, pages.hasNextPage)}
          </Button>
        )
      }
    >
      {!family ? (
        <Loading rows={8} height={64} />
      ) : (
        <>
          {mend.isError && <Failed error={mend.error} />}
          <p className="mb-3 text-soft">
            {sentence(family.sentence)} {many(family.total, 'different address', 'different addresses')},
            those met most often first.{' '}
            <Link
              to={`/${slug}/places?cause=${family.cause}`}
              className="font-semibold text-accent underline underline-offset-2"
            >
              Show the records
            </Link>
          </p>
          {decided.length > 0 && (
            <p className="mb-3 flex items-center gap-1.5 font-semibold" role="status">
              <Check size={16} aria-hidden="true" className="text-live" />
              {many(decided.length, 'decision')} taken; nothing is written before you have read the plan.
            </p>
          )}
          <ul className="sheet divide-y divide-line">
            {groups.map((group) => (
              <Group
                key={group.asked}
                group={group}
                cause={family.cause}
                mayStand={maintain}
                decision={decisions.get(group.asked) ?? null}
                onDecide={maintain && group.by_address ? (path) => decide(group.asked, path) : null}
              />
            ))}
          </ul>
          {pages.hasNextPage && (
            <Button
              className="mt-3"
              disabled={pages.isFetchingNextPage}
              onClick={() => void pages.fetchNextPage()}
            >
              {pages.isFetchingNextPage
                ? 'Fetching…'
                : `Show more (${number(groups.length)} of ${number(family.total)})`}
            </Button>
          )}
        </>
      )}
    </Page>
  );
}

/** What the button says; of findings that are not listed yet, the sure ones are meant as well. */
function askFor(places: number, decided: number, isMore: boolean): string {
  if (isMore) {
    return decided > 0 ? `Plan ${many(decided, 'decision')} and all sure ones` : 'Mend all sure ones';
  }
  return decided > 0
    ? `Plan ${many(places, 'reference')}`
    : `Mend ${number(places)} sure ${places === 1 ? 'one' : 'ones'}`;
}
