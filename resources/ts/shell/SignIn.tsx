import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { body, client, Problem, setCsrf } from '@/api/client';
import type { Session } from '@/api/types';
import { Button } from '@/ui/Button';
import { Wordmark } from './Wordmark';

const MAY: Record<string, string> = { viewer: 'looks', maintainer: 'applies and undoes', owner: 'owns' };

interface Props {
  session: Session;
  /** Why somebody is asked again. */
  note?: string;
  onEntered?: () => void;
}

export function SignIn({ session, note, onEntered }: Props) {
  const queries = useQueryClient();
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);

  async function enter(event: React.SyntheticEvent) {
    event.preventDefault();
    setBusy(true);
    setProblem(null);
    try {
      // A session that ended took its token with it; the one that begins now has its own.
      setCsrf((await body(client.GET('/session'))).csrf);
      const entered = await body(client.POST('/session', { body: { email, password } }));
      setCsrf(entered.csrf);
      queries.setQueryData(['session'], { ...session, ...entered });
      onEntered?.();
    } catch (error) {
      setProblem(error instanceof Problem ? (error.errors['email']?.[0] ?? error.detail) : 'Try again.');
      setBusy(false);
    }
  }

  return (
    <main className="grid h-full place-items-center overflow-y-auto p-6">
      <div className="sheet grid w-full max-w-3xl overflow-hidden shadow-sm md:grid-cols-[0.85fr_1fr]">
        <div className="flex flex-col justify-between gap-10 bg-accent p-8 text-on-accent [--accent:#0d3c44] [--on-accent:#fff] dark:[--accent:#0d3c44]">
          <Wordmark size={30} />
          <div>
            <p className="font-display text-[1.55rem] leading-tight font-bold text-balance">
              Know where every picture is met before you touch it.
            </p>
            <p className="mt-3 opacity-85">
              Map, swap, repair and retire the media of your site, each step as a plan that can be undone.
            </p>
          </div>
        </div>
        <form
          onSubmit={(e) => void enter(e)}
          className="flex flex-col gap-4 p-8"
          aria-labelledby="sign-in-title"
        >
          <h1 id="sign-in-title" className="text-xl font-bold">
            Sign in
          </h1>
          {note && <p className="text-soft">{note}</p>}
          <label className="flex flex-col gap-1 font-semibold">
            E-mail
            <input
              autoFocus
              name="email"
              type="email"
              autoComplete="username"
              required
              value={email}
              onChange={(e) => setEmail(e.target.value)}
              className="rounded-md border border-edge bg-paper px-3 py-2 font-normal"
            />
          </label>
          <label className="flex flex-col gap-1 font-semibold">
            Password
            <input
              name="password"
              type="password"
              autoComplete="current-password"
              required
              value={password}
              onChange={(e) => setPassword(e.target.value)}
              className="rounded-md border border-edge bg-paper px-3 py-2 font-normal"
            />
          </label>
          {problem && (
            <p role="alert" className="rounded-md bg-alert-tint px-3 py-2 text-alert">
              {problem}
            </p>
          )}
          <Button tone="main" type="submit" disabled={busy} className="py-2">
            {busy ? 'Signing in…' : 'Sign in'}
          </Button>
          {session.demo && (
            <div className="mt-1 border-t border-line pt-3 text-[0.93rem]">
              <p className="mb-1.5 text-soft">
                The demo’s accounts; the password of all is{' '}
                <code className="path">{session.demo.password}</code>
              </p>
              <ul className="flex flex-col gap-1">
                {session.demo.accounts.map((account) => (
                  <li key={account.email}>
                    <button
                      type="button"
                      className="flex w-full items-baseline justify-between gap-3 rounded px-2 py-1 text-left hover:bg-tint"
                      onClick={() => {
                        setEmail(account.email);
                        setPassword(session.demo?.password ?? '');
                      }}
                    >
                      <span className="path">{account.email}</span>
                      <span className="whitespace-nowrap text-soft">{MAY[account.role]}</span>
                    </button>
                  </li>
                ))}
              </ul>
            </div>
          )}
        </form>
      </div>
    </main>
  );
}
