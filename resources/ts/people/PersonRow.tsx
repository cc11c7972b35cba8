import { DropdownMenu } from 'radix-ui';
import { Ellipsis } from 'lucide-react';
import { toast } from 'sonner';
import { client } from '@/api/client';
import { useSession } from '@/api/hooks';
import type { Person, WayIn } from '@/api/types';
import { ago } from '@/ui/words';
import { ROLES } from './roles';
import { usePersonAct } from './usePeople';

interface Change {
  role?: Person['role'];
  access?: boolean;
}

/** One person: what they may, when they were here, and what an owner can do about it. */
export function PersonRow({ person, onWay }: { person: Person; onWay: (way: WayIn) => void }) {
  const isMe = useSession().data?.user?.email === person.email;
  const path = { person: person.id };
  const change = usePersonAct((body: Change) => client.PATCH('/people/{person}', { params: { path }, body }));
  const link = usePersonAct(() => client.POST('/people/{person}/link', { params: { path } }));
  const signOut = usePersonAct(() => client.DELETE('/people/{person}/sessions', { params: { path } }));
  const hasEnded = person.state === 'ended';
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-1 px-4 py-3">
      <span className={`min-w-0 flex-1 basis-60 ${hasEnded ? 'opacity-60' : ''}`}>
        <span className="block truncate font-semibold">{person.name}</span>
        <span className="path block truncate text-soft">{person.email}</span>
      </span>
      <span className="w-44 text-soft">{stateWords(person)}</span>
      {isMe || hasEnded ? (
        <span className="w-36 px-2 text-soft">{isMe ? `${person.role}, you` : person.role}</span>
      ) : (
        <select
          aria-label={`Role of ${person.name}`}
          value={change.isPending ? (change.variables.role ?? person.role) : person.role}
          disabled={change.isPending}
          onChange={(event) => change.mutate({ role: event.target.value as Person['role'] })}
          className="h-9 w-36 rounded-md border border-edge bg-sheet px-2"
        >
          {ROLES.map(([role]) => (
            <option key={role}>{role}</option>
          ))}
        </select>
      )}
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger
          aria-label={`More for ${person.name}`}
          className="grid size-9 place-items-center rounded-md text-accent hover:bg-tint"
        >
          <Ellipsis size={18} aria-hidden="true" />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content align="end" sideOffset={4} className="sheet z-40 min-w-56 p-1 shadow-lg">
            {!hasEnded && (
              <DropdownMenu.Item
                className={ENTRY}
                onSelect={() => link.mutate(undefined, { onSuccess: onWay })}
              >
                {person.state === 'invited' ? 'Invite again' : 'Make a link for a new password'}
              </DropdownMenu.Item>
            )}
            {!hasEnded && (
              <DropdownMenu.Item
                className={ENTRY}
                onSelect={() =>
                  signOut.mutate(undefined, {
                    onSuccess: () =>
                      toast.success(`${person.name} is signed out everywhere${isMe ? ' else' : ''}.`),
                  })
                }
              >
                Sign out everywhere{isMe && ' else'}
              </DropdownMenu.Item>
            )}
            {!isMe && (
              <DropdownMenu.Item className={ENTRY} onSelect={() => change.mutate({ access: hasEnded })}>
                {hasEnded ? 'Let in again' : 'End the access'}
              </DropdownMenu.Item>
            )}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </li>
  );
}

const ENTRY = 'cursor-pointer rounded px-3 py-2 outline-none data-highlighted:bg-tint';

function stateWords(person: Person): string {
  if (person.state === 'ended') return 'access ended';
  if (person.state === 'invited') return 'invited, not here yet';
  return person.seen_at === null ? 'signed out' : `here ${ago(person.seen_at)}`;
}
