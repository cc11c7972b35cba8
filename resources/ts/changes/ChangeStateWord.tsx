import type { ChangeState } from '@/api/types';

const WORDS: Record<ChangeState, [string, string]> = {
  applying: ['being applied…', 'text-accent'],
  stopped: ['stopped', 'text-waiting'],
  applied: ['applied', 'text-live'],
  'applied-in-part': ['applied in part', 'text-waiting'],
  undoing: ['being undone…', 'text-accent'],
  'undo-stopped': ['undo stopped', 'text-waiting'],
  undone: ['undone', 'text-idle'],
  'undone-in-part': ['undone in part', 'text-waiting'],
};

export function ChangeStateWord({ state }: { state: ChangeState }) {
  const [word, colour] = WORDS[state];
  return <span className={`font-semibold ${colour}`}>{word}</span>;
}
