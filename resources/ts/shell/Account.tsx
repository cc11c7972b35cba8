import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Dialog, DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { toast } from 'sonner';
import { client } from '@/api/client';
import { useSession } from '@/api/hooks';
import { Button } from '@/ui/Button';
import { typedExactly } from '@/ui/form';
import { sayProblem } from '@/ui/Notice';

const INITIALS =
  'grid size-9 shrink-0 place-items-center rounded-full bg-tint text-[0.85rem] font-bold text-accent ' +
  'max-md:-order-2 max-md:ml-auto';

const DIALOG =
  'sheet fixed top-1/2 left-1/2 z-50 w-[26rem] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 p-5 ' +
  'shadow-lg outline-none';

export function Account() {
  const user = useSession().data?.user;
  const queries = useQueryClient();
  const [changing, setChanging] = useState(false);
  if (!user) return null;
  async function leave(everywhere: boolean) {
    await (everywhere ? client.DELETE('/account/sessions') : client.DELETE('/session'));
    queries.clear();
    window.location.assign('/');
  }
  const initials = user.name
    .split(' ')
    .map((word) => word[0])
    .join('');
  const entry = 'cursor-pointer rounded px-3 py-2 outline-none data-highlighted:bg-tint';
  return (
    <>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger aria-label={`${initials}: account of ${user.name}`} className={INITIALS}>
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
            <DropdownMenu.Item onSelect={() => setChanging(true)} className={entry}>
              Change the password…
            </DropdownMenu.Item>
            <DropdownMenu.Item onSelect={() => void leave(false)} className={entry}>
              Sign out
            </DropdownMenu.Item>
            <DropdownMenu.Item onSelect={() => void leave(true)} className={entry}>
              Sign out everywhere
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <NewPassword open={changing} onClose={() => setChanging(false)} />
    </>
  );
}

/** Asks for the password of now and the next one; all other sessions end with it. */
function NewPassword({ open, onClose }: { open: boolean; onClose: () => void }) {
  const change = useMutation({
    mutationFn: async (asked: { current: string; password: string }) => {
      await client.PUT('/account/password', { body: asked });
    },
    onSuccess: () => {
      toast.success('The password is changed. You are signed out everywhere else.');
      onClose();
    },
    onError: sayProblem,
  });
  return (
    <Dialog.Root open={open} onOpenChange={(on) => !on && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/30" />
        <Dialog.Content aria-describedby={undefined} className={DIALOG}>
          <Dialog.Title className="mb-3 text-lg font-semibold">Change the password</Dialog.Title>
          <form
            className="grid gap-3"
            onSubmit={(event) => {
              event.preventDefault();
              const typed = typedExactly(event.currentTarget);
              change.mutate({
                current: typed('current'),
                password: typed('password'),
              });
            }}
          >
            {(
              [
                ['current', 'The one of now', 'current-password', 1],
                ['password', 'The next one, 12 characters or more', 'new-password', 12],
              ] as const
            ).map(([name, label, complete, least]) => (
              <label key={name}>
                <span className="block text-[0.88rem] text-soft">{label}</span>
                <input
                  name={name}
                  type="password"
                  required
                  minLength={least}
                  autoComplete={complete}
                  className="h-10 w-full rounded-md border border-edge bg-paper px-2"
                />
              </label>
            ))}
            <div className="mt-1 flex justify-end gap-2">
              <Button onClick={onClose}>Leave it</Button>
              <Button type="submit" tone="main" disabled={change.isPending}>
                {change.isPending ? 'Changing…' : 'Change it'}
              </Button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
