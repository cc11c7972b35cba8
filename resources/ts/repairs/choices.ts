import type { CureFile, FindingGroup } from '@/api/types';
import type { Decision } from './useMend';

/** One thing that may be done about a finding. */
export interface Choice {
  /** The digit that chooses it. */
  key: string;
  decision: Decision;
  words: string;
  more?: string;
  file?: CureFile;
}

/** Where digits end. */
const MOST = 8;

/** What a person chooses among, the likeliest first; to take it out is always the last. */
export function choicesOf(group: FindingGroup): Choice[] {
  const choices: Omit<Choice, 'key'>[] = [];
  if (group.bytes) {
    choices.push({
      decision: group.asked,
      words: 'Put the file back where it was',
      more:
        group.bytes === 'kept'
          ? 'Its bytes are kept here.'
          : `Its bytes are still given out at ${group.bytes}`,
    });
  }
  for (const file of group.choosable ? group.candidates.slice(0, MOST - choices.length) : []) {
    choices.push({
      decision: file.path,
      words: group.leads ? `/${file.path}` : file.path,
      file,
      ...(file.title ? { more: file.title } : {}),
      ...(file.width !== null ? { more: `${file.width} × ${file.height ?? '?'}` } : {}),
    });
  }
  return [
    ...choices.map((choice, i) => ({ ...choice, key: String(i + 1) })),
    {
      key: '0',
      decision: null,
      words: group.leads ? 'Take the link out, keep its words' : 'Take it out',
      more: group.leads ? '' : 'With what would be empty around it: its link, its figure',
    },
  ];
}
