import { Check, Wrench } from 'lucide-react';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { useFindingGroups, useMay, useSlug } from '@/api/hooks';
import { Button } from '@/ui/Button';
import { FailedPage, Page } from '@/ui/Page';
import { Failed, Loading } from '@/ui/States';
import { many, number, sentence } from '@/ui/words';
import { Group } from './Group';
import { OneByOne } from './OneByOne';
import { proposed, type Rule } from './rules';
import { useMend, type Decision } from './useMend';

/** One family: its findings by what they ask for, sure ones mended by themselves, open ones to be decided. */
export function FamilyPage() {
  const { cause = '' } = useParams();
  const slug = useSlug();
  const { maintain } = useMay();
  const pages = useFindingGroups(cause);
  const mend = useMend();
  const [rules, setRules] = useState<readonly Rule[]>([]);
  const [isOneByOne, setOneByOne] = useState(false);
  const [decisions, setDecisions] = useState<ReadonlyMap<string, Decision>>(new Map());
  if (pages.isError) return <FailedPage title="Repairs" error={pages.error} again={pages.refetch} />;
  const family = pages.data?.pages[0];
  const groups = pages.data?.pages.flatMap((page) => page.groups) ?? [];
  const sure = groups.filter((g) => g.sure);
  const decide = (asked: string, decision: Decision | undefined) =>
    setDecisions((old) => {
      const next = new Map(old);
      if (decision === undefined) next.delete(asked);
      else next.set(asked, decision);
      return next;
    });
  const decided = groups.filter((g) => decisions.has(g.asked));
  const open = groups.filter((g) => !g.sure);
  const rule = proposed(decisions, rules);
  const places = [...sure, ...decided].reduce((sum, g) => sum + g.references, 0);

  return (
    <Page
      title={family?.title ?? 'Repairs'}
      wide
      words={['finding', 'cure', 'reference']}
      aside={
        <>
          {maintain && open.length > 0 && !isOneByOne && (
            <Button onClick={() => setOneByOne(true)}>Decide one by one</Button>
          )}
          {maintain && (places > 0 || pages.hasNextPage || rules.length > 0) && (
            <Button
              tone="main"
              disabled={mend.isPending}
              onClick={() => mend.mend({ causes: [cause], decisions: new Map(decisions), rules })}
            >
              <Wrench size={16} aria-hidden="true" />
              {askFor(places, decided.length + rules.length, pages.hasNextPage || rules.length > 0)}
            </Button>
          )}
        </>
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
          {rules.map((r) => (
            <p key={r.from} className="mb-2 flex flex-wrap items-center gap-x-3">
              <Check size={16} aria-hidden="true" className="text-live" />
              <span>
                Whatever lay in <span className="path">{r.from}</span> is in{' '}
                <span className="path">{r.to || '/'}</span> now, wherever such a file is there.
              </span>
              <Button tone="quiet" onClick={() => setRules(rules.filter((other) => other !== r))}>
                Not so
              </Button>
            </p>
          ))}
          {rule && (
            <p className="sheet mb-3 flex flex-wrap items-center gap-x-4 gap-y-2 px-4 py-2.5" role="status">
              <span>
                Your decisions are alike: what lay in <span className="path">{rule.from}</span> is in{' '}
                <span className="path">{rule.to || '/'}</span> now.
              </span>
              <Button onClick={() => setRules([...rules, rule])}>Do so with all alike</Button>
            </p>
          )}
          {isOneByOne && (
            <OneByOne
              cause={family.cause}
              groups={open}
              decisions={decisions}
              onDecide={decide}
              onClose={() => setOneByOne(false)}
            />
          )}
          <ul className={isOneByOne ? 'hidden' : 'sheet divide-y divide-line'}>
            {groups.map((group) => (
              <Group
                key={`${String(group.leads)} ${group.asked}`}
                group={group}
                cause={family.cause}
                mayStand={maintain}
                decision={decisions.get(group.asked)}
                onDecide={maintain ? (decision) => decide(group.asked, decision) : null}
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
