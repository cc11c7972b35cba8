import { client } from '@/api/client';
import type { Person, WayIn } from '@/api/types';
import { Button } from '@/ui/Button';
import { typedInto } from '@/ui/form';
import { ROLES } from './roles';
import { usePersonAct } from './usePeople';

interface Props {
  /** Whether the link goes out by mail; else it is shown, to be passed on. */
  mail: boolean;
  onInvited: (way: WayIn) => void;
  onClose: () => void;
}

interface Asked {
  email: string;
  name: string | null;
  role: Person['role'];
}

export function Invite({ mail, onInvited, onClose }: Props) {
  const invite = usePersonAct((asked: Asked) => client.POST('/people', { body: asked }));
  return (
    <form
      aria-label="Invite somebody"
      className="sheet mb-4 grid gap-x-6 gap-y-3 p-4 md:grid-cols-2"
      onKeyDown={(event) => event.key === 'Escape' && onClose()}
      onSubmit={(event) => {
        event.preventDefault();
        const typed = typedInto(event.currentTarget);
        const asked = {
          email: typed('email') ?? '',
          name: typed('name'),
          role: (typed('role') ?? 'viewer') as Person['role'],
        };
        invite.mutate(asked, { onSuccess: onInvited });
      }}
    >
      <label>
        <span className="block text-[0.88rem] text-soft">E-mail</span>
        <input name="email" type="email" required autoFocus maxLength={255} className={LINE} />
      </label>
      <label>
        <span className="block text-[0.88rem] text-soft">Name, as others see it</span>
        <input name="name" maxLength={120} className={LINE} />
      </label>
      <fieldset className="md:col-span-2">
        <legend className="text-[0.88rem] text-soft">What they may</legend>
        <div className="mt-1 flex flex-wrap gap-x-6 gap-y-1">
          {ROLES.map(([role, may]) => (
            <label key={role} className="flex min-h-6 items-center gap-2">
              <input
                type="radio"
                name="role"
                value={role}
                defaultChecked={role === 'viewer'}
                className="size-5 accent-accent"
              />
              <span>
                <span className="font-semibold">{role}</span> <span className="text-soft">{may}</span>
              </span>
            </label>
          ))}
        </div>
      </fieldset>
      <div className="flex flex-wrap items-center gap-3 md:col-span-2">
        <span className="flex-1 text-soft">
          {mail
            ? 'They get a letter with a link, by which they choose their password.'
            : 'You get a link to pass on, by which they choose their password.'}
        </span>
        <Button onClick={onClose}>Never mind</Button>
        <Button type="submit" tone="main" disabled={invite.isPending}>
          {invite.isPending ? 'Inviting…' : 'Invite'}
        </Button>
      </div>
    </form>
  );
}

const LINE = 'h-10 w-full rounded-md border border-edge bg-paper px-2';
