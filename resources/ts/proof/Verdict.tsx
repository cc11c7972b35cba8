import { CircleCheck, CircleHelp, CircleSlash } from 'lucide-react';
import type { ProofVerdict } from '@/api/types';

const SAYS: Record<ProofVerdict, string> = {
  safe: 'safe to rest',
  ask: 'ask first',
  needed: 'needed',
};
const SIGNS = { safe: CircleCheck, ask: CircleHelp, needed: CircleSlash };
const TONES: Record<ProofVerdict, string> = { safe: 'text-live', ask: 'text-waiting', needed: 'text-ink' };

/** What a proof sheet comes to: sign and word both say it. */
export function Verdict({ verdict, className = '' }: { verdict: ProofVerdict; className?: string }) {
  const Sign = SIGNS[verdict];
  return (
    <span
      className={`inline-flex items-center gap-1.5 font-semibold whitespace-nowrap ${TONES[verdict]} ${className}`}
    >
      <Sign size={15} aria-hidden="true" />
      {SAYS[verdict]}
    </span>
  );
}
