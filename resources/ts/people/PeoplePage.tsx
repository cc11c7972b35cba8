import { UserPlus } from 'lucide-react';
import { useState } from 'react';
import { useMay } from '@/api/hooks';
import type { Person, WayIn } from '@/api/types';
import { Button } from '@/ui/Button';
import { FailedPage, Page } from '@/ui/Page';
import { Empty, Loading } from '@/ui/States';
import { Invite } from './Invite';
import { PersonRow } from './PersonRow';
import { usePeople } from './usePeople';
import { WayOut } from './WayOut';

/** Who may come in, and what they may. */
export function PeoplePage() {
  const { own } = useMay();
  const people = usePeople();
  const [inviting, setInviting] = useState(false);
  const [way, setWay] = useState<WayIn | null>(null);
  if (!own)
    return (
      <Page title="People">
        <Empty title="Owners look after people">Ask one of them to let somebody in.</Empty>
      </Page>
    );
  if (people.isError) return <FailedPage title="People" error={people.error} again={people.refetch} />;
  const rows: Person[] = people.data?.pages.flatMap((page) => page.people) ?? [];
  return (
    <Page
      title="People"
      aside={
        !inviting && (
          <Button tone="main" onClick={() => setInviting(true)}>
            <UserPlus size={16} aria-hidden="true" /> Invite somebody
          </Button>
        )
      }
    >
      <div className="max-w-5xl">
        {inviting && (
          <Invite
            mail={people.data?.pages[0]?.mail ?? false}
            onClose={() => setInviting(false)}
            onInvited={(made) => {
              setInviting(false);
              setWay(made);
            }}
          />
        )}
        {way && <WayOut way={way} onClose={() => setWay(null)} />}
        {people.isPending ? (
          <Loading rows={3} height={64} />
        ) : (
          <ul className="sheet divide-y divide-line" aria-label="People">
            {rows.map((person) => (
              <PersonRow key={person.id} person={person} onWay={setWay} />
            ))}
          </ul>
        )}
        {people.hasNextPage && (
          <Button
            className="mt-3"
            disabled={people.isFetchingNextPage}
            onClick={() => void people.fetchNextPage()}
          >
            More people
          </Button>
        )}
      </div>
    </Page>
  );
}
