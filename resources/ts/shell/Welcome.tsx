import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { body, client, Problem } from '@/api/client';
import { Button } from '@/ui/Button';
import { Loading } from '@/ui/States';
import { DoorFrame, DoorLine, DoorProblem } from './DoorFrame';

/** The way in by a link. What it carries stands behind the "#", which browsers keep to themselves. */
export function Welcome() {
  const [link] = useState(() => {
    const said = new URLSearchParams(window.location.hash.slice(1));
    return { email: said.get('email') ?? '', token: said.get('token') ?? '' };
  });
  const check = useQuery({
    queryKey: ['welcome'],
    queryFn: ({ signal }) => body(client.POST('/welcome/check', { body: link, signal })),
    staleTime: Infinity,
  });
  return (
    <DoorFrame>
      <div className="flex flex-col gap-4 p-8">
        {check.isPending && <Loading rows={4} />}
        {check.isError && (
          <>
            <h1 className="text-xl font-bold">This link does not open</h1>
            <DoorProblem>{sentence(check.error)}</DoorProblem>
            <a href="/" className="text-accent underline underline-offset-2">
              To the sign-in
            </a>
          </>
        )}
        {check.data && <Choose link={link} name={check.data.name} first={check.data.first} />}
      </div>
    </DoorFrame>
  );
}

function sentence(error: unknown): string {
  return error instanceof Problem ? (error.errors['password']?.[0] ?? error.detail) : 'Try again.';
}

interface ChooseProps {
  link: { email: string; token: string };
  name: string;
  first: boolean;
}

function Choose({ link, name, first }: ChooseProps) {
  const [called, setCalled] = useState(name);
  const [password, setPassword] = useState('');
  const enter = useMutation({
    mutationFn: () => client.POST('/welcome', { body: { ...link, password, name: first ? called : null } }),
    // Loaded anew: nothing of who was signed in here before stays.
    onSuccess: () => window.location.replace('/'),
  });
  return (
    <form
      aria-labelledby="welcome-title"
      className="flex flex-col gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        enter.mutate();
      }}
    >
      <h1 id="welcome-title" className="text-xl font-bold">
        {first ? 'Welcome to Ylema' : 'A new password'}
      </h1>
      <p className="text-soft">
        {first ? 'Choose the password with which you sign in from now on, as ' : 'For '}
        <span className="path text-ink">{link.email}</span>.
      </p>
      {first && (
        <DoorLine name="name" label="Your name" complete="name" value={called} onChange={setCalled} />
      )}
      <DoorLine
        name="password"
        label="Password, 12 characters or more"
        type="password"
        complete="new-password"
        least={12}
        value={password}
        onChange={setPassword}
        focus
      />
      {enter.isError && <DoorProblem>{sentence(enter.error)}</DoorProblem>}
      <Button tone="main" type="submit" disabled={enter.isPending} className="py-2">
        {enter.isPending ? 'Coming in…' : 'Come in'}
      </Button>
    </form>
  );
}
