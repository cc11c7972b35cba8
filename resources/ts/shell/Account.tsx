import { useQueryClient } from '@tanstack/react-query';
import { DropdownMenu } from 'radix-ui';
import { client } from '@/api/client';
import { useSession } from '@/api/hooks';

export function Account() {
  const user = useSession().data?.user;
  const queries = useQueryClient();
  if (!user) return null;
  async function leave() {
    await client.DELETE('/session');
    queries.clear();
    window.location.assign('/');
  }
  const initials = user.name
    .split(' ')
    .map((word) => word[0])
    .join('');
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        aria-label={`${initials}: account of ${user.name}`}
        className="grid size-9 shrink-0 max-md:-order-2 max-md:ml-auto place-items-center rounded-full bg-tint text-[0.85rem] font-bold text-accent"
      >
        {initials}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={6} className="sheet z-40 min-w-56 p-1 shadow-lg">
          <DropdownMenu.Label className="px-3 py-2">
            <div className="font-semibold">{user.name}</div>
            <div className="path text-soft">{user.email}</div>
            <div className="mt-1 text-soft">Role: {user.role}</div>
          </DropdownMenu.Label>
          <DropdownMenu.Separator className="my-1 h-px bg-line" />
          <DropdownMenu.Item
            onSelect={() => void leave()}
            className="cursor-pointer rounded px-3 py-2 outline-none data-highlighted:bg-tint"
          >
            Sign out
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
