import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { body, client, Problem, setCsrf } from '@/api/client';
import type { Session } from '@/api/types';
import { Button } from '@/ui/Button';
import { DoorFrame, DoorLine, DoorProblem } from './DoorFrame';

const MAY: Record<string, string> = { viewer: 'looks', maintainer: 'applies and undoes', owner: 'owns' };

const ACCOUNT = 'flex w-full items-baseline justify-between gap-3 rounded px-2 py-1 text-left hover:bg-tint';

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
  const [said, setSaid] = useState<string | null>(null);
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

  async function forgotten() {
    setProblem(email === '' ? 'Write your address above, then press it again.' : null);
    if (email === '') return;
    try {
      setSaid((await body(client.POST('/forgotten', { body: { email } }))).said);
    } catch (error) {
      setProblem(error instanceof Problem ? error.detail : 'Try again.');
    }
  }

  return (
    <DoorFrame>
      <form
        onSubmit={(e) => void enter(e)}
        className="flex flex-col gap-4 p-8"
        aria-labelledby="sign-in-title"
      >
        <h1 id="sign-in-title" className="text-xl font-bold">
          Sign in
        </h1>
        {note && <p className="text-soft">{note}</p>}
        <DoorLine
          name="email"
          label="E-mail"
          type="email"
          complete="username"
          value={email}
          onChange={setEmail}
          focus
        />
        <DoorLine
          name="password"
          label="Password"
          type="password"
          complete="current-password"
          value={password}
          onChange={setPassword}
        />
        <DoorProblem>{problem}</DoorProblem>
        <Button tone="main" type="submit" disabled={busy} className="py-2">
          {busy ? 'Signing in…' : 'Sign in'}
        </Button>
        {session.mail && (
          <button
            type="button"
            className="min-h-6 self-start text-accent underline underline-offset-2"
            onClick={() => void forgotten()}
          >
            Forgotten the password?
          </button>
        )}
        {said && <p role="status">{said}</p>}
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
                    className={ACCOUNT}
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
    </DoorFrame>
  );
}
