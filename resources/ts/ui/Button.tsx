import type { ButtonHTMLAttributes } from 'react';
import { Link } from 'react-router';

type Tone = 'main' | 'plain' | 'quiet' | 'alert';

const TONES: Record<Tone, string> = {
  main: 'bg-accent text-on-accent hover:bg-accent-deep border-transparent',
  plain: 'bg-sheet text-ink border-edge hover:border-accent hover:text-accent',
  quiet: 'bg-transparent text-accent border-transparent hover:bg-tint',
  alert: 'bg-sheet text-alert border-alert/50 hover:bg-alert-tint',
};
const SHAPE =
  'inline-flex items-center justify-center gap-1.5 rounded-md border px-3 py-1.5 text-[0.93rem] font-semibold leading-5 whitespace-nowrap transition-colors disabled:opacity-50 disabled:cursor-not-allowed';

export function Button({
  tone = 'plain',
  className = '',
  type = 'button',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { tone?: Tone }) {
  return <button type={type} className={`${SHAPE} ${TONES[tone]} ${className}`} {...rest} />;
}

export function ButtonLink({
  tone = 'plain',
  className = '',
  to,
  children,
}: {
  tone?: Tone;
  className?: string;
  to: string;
  children: React.ReactNode;
}) {
  return (
    <Link to={to} className={`${SHAPE} ${TONES[tone]} ${className}`}>
      {children}
    </Link>
  );
}
