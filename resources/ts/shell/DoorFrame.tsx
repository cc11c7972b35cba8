import type { ReactNode } from 'react';
import { Wordmark } from './Wordmark';

/** What stands around the ways in: what Ylema is for, and beside it what is asked. */
export function DoorFrame({ children }: { children: ReactNode }) {
  return (
    <main className="grid h-full place-items-center overflow-y-auto p-6">
      <div className="sheet grid w-full max-w-3xl overflow-hidden shadow-sm md:grid-cols-[0.85fr_1fr]">
        <div className={COVER}>
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
        {children}
      </div>
    </main>
  );
}

/** In the same colours by day and by night. */
const COVER =
  'flex flex-col justify-between gap-10 bg-accent p-8 text-on-accent ' +
  '[--accent:#0d3c44] [--on-accent:#fff] dark:[--accent:#0d3c44]';

interface LineProps {
  name: string;
  label: string;
  type?: 'text' | 'email' | 'password';
  complete: string;
  value: string;
  onChange: (value: string) => void;
  least?: number;
  focus?: boolean;
}

export function DoorLine({ name, label, type = 'text', complete, value, onChange, least, focus }: LineProps) {
  return (
    <label className="flex flex-col gap-1 font-semibold">
      {label}
      <input
        autoFocus={focus}
        name={name}
        type={type}
        autoComplete={complete}
        required
        minLength={least}
        value={value}
        onChange={(e) => onChange(e.target.value)}
        className="rounded-md border border-edge bg-paper px-3 py-2 font-normal"
      />
    </label>
  );
}

export function DoorProblem({ children }: { children: ReactNode }) {
  if (!children) return null;
  return (
    <p role="alert" className="rounded-md bg-alert-tint px-3 py-2 text-alert">
      {children}
    </p>
  );
}
