import { CloudOff, TriangleAlert } from 'lucide-react';
import type { ReactNode } from 'react';
import { Problem } from '@/api/client';
import { Button } from './Button';

/** Blocks in the shape of what is coming, so that nothing jumps when it comes. */
export function Loading({ rows = 6, height = 44 }: { rows?: number; height?: number }) {
  return (
    <div role="status" aria-label="Loading" className="flex flex-col gap-2">
      {Array.from({ length: rows }, (_, i) => (
        <div
          key={i}
          className="waiting-block rounded-md bg-line/60"
          style={{ height, animationDelay: `${i * 80}ms` }}
        />
      ))}
    </div>
  );
}

export function Empty({
  title,
  children,
  action,
}: {
  title: string;
  children?: ReactNode;
  action?: ReactNode;
}) {
  return (
    <div className="mx-auto flex max-w-md flex-col items-center gap-2 px-6 py-14 text-center">
      <svg width="72" height="40" viewBox="0 0 72 40" aria-hidden="true" className="mb-1 text-line">
        <path
          d="M2 12c10-9 18 9 34 0s24 9 34 0M2 22c10-9 18 9 34 0s24 9 34 0M2 32c10-9 18 9 34 0s24 9 34 0"
          fill="none"
          stroke="currentColor"
          strokeWidth="2.4"
        />
      </svg>
      <h2 className="text-lg font-semibold">{title}</h2>
      {children && <div className="text-soft">{children}</div>}
      {action && <div className="mt-2">{action}</div>}
    </div>
  );
}

export function Failed({ error, again }: { error: unknown; again?: (() => unknown) | undefined }) {
  const problem = error instanceof Problem ? error : null;
  const away = problem?.status === 503 || problem?.status === 0;
  return (
    <div role="alert" className="sheet mx-auto my-8 flex max-w-2xl gap-4 border-alert/40 p-5">
      {away ? (
        <CloudOff className="shrink-0 text-alert" aria-hidden="true" />
      ) : (
        <TriangleAlert className="shrink-0 text-alert" aria-hidden="true" />
      )}
      <div>
        <h2 className="font-semibold">{problem?.title ?? 'Something went wrong'}</h2>
        <p className="mt-1 text-soft">
          {problem?.detail ?? (error instanceof Error ? error.message : 'Try again.')}
        </p>
        {again && (
          <Button className="mt-3" onClick={() => void again()}>
            Try again
          </Button>
        )}
      </div>
    </div>
  );
}
