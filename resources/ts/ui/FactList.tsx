import type { ReactNode } from 'react';

/** A label and what stands behind it; what is null is not said. */
export type Fact = [string, ReactNode];

export function FactList({ facts, className = '' }: { facts: readonly Fact[]; className?: string }) {
  return (
    <dl className={`figures grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 text-[0.95rem] ${className}`}>
      {facts.map(([label, value]) =>
        value === null ? null : (
          <div key={label} className="contents">
            <dt className="text-soft">{label}</dt>
            <dd className="min-w-0 break-words">{value}</dd>
          </div>
        ),
      )}
    </dl>
  );
}
