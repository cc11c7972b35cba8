import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { client } from '@/api/client';
import { useAct } from '@/api/hooks';
import type { Bag } from '@/api/types';
import { Button } from '@/ui/Button';
import { sayProblem } from '@/ui/Notice';
import { many } from '@/ui/words';

/** Ends a bag for good, after its name was typed. */
export function EndBag({ bag }: { bag: Bag }) {
  const [isOpen, setOpen] = useState(false);
  const [name, setName] = useState('');
  const end = useAct<unknown>((site) =>
    client.DELETE('/sites/{site}/bags/{bag}', { params: { path: { site, bag: bag.name } }, body: { name } }),
  );
  return (
    <Dialog.Root
      open={isOpen}
      onOpenChange={(open) => {
        setOpen(open);
        setName('');
      }}
    >
      <Dialog.Trigger className="min-h-[24px] text-soft underline underline-offset-2 hover:text-alert">
        Delete for good
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/40" />
        <Dialog.Content className="sheet fixed top-[20%] left-1/2 z-50 w-[min(30rem,92vw)] -translate-x-1/2 p-5">
          <Dialog.Title className="text-lg font-bold">Delete this bag for good?</Dialog.Title>
          <Dialog.Description className="mt-1">
            {many(bag.files, 'file')} would be gone, with no way back. Type the name of the bag:{' '}
            <b className="path break-all">{bag.name}</b>
          </Dialog.Description>
          <form
            className="mt-3 flex flex-col gap-3"
            onSubmit={(event) => {
              event.preventDefault();
              end.mutate(undefined, { onSuccess: () => setOpen(false), onError: sayProblem });
            }}
          >
            <input
              aria-label="Name of the bag"
              value={name}
              autoComplete="off"
              onChange={(event) => setName(event.target.value)}
              className="path h-10 rounded-md border border-edge bg-paper px-2"
            />
            <div className="flex justify-end gap-2">
              <Dialog.Close asChild>
                <Button>Keep it</Button>
              </Dialog.Close>
              <Button type="submit" tone="alert" disabled={name !== bag.name || end.isPending}>
                Delete for good
              </Button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
