/** What the words of the interface mean, each in a sentence; the stages explain those that first stand on them. */
export const GLOSSARY = {
  item: 'A picture, film, sound or document that the site owns, with its title, alt text, caption and credit.',
  file: 'Bytes at a path: the original of an item, or one of its renditions.',
  rendition: 'A file made from an original: another size, crop or type.',
  record:
    'One piece of content: a page, post, banner, banner set, slot, gallery, page part, style sheet or setting.',
  reference: 'One place in a record that names a file, an item or another record, down to its very bytes.',
  placement: 'A reference as a visitor meets it: where it stands, through which carriers, in which box.',
  carrier: 'A record that passes on what others hold: a banner set in a slot, a slot in a page part.',
  reach: 'The public pages on which a visitor meets an item, whatever carries it there.',
  standing:
    'Live: a visitor can meet it now. Waiting: only drafts or the future hold it. Fading: only what is expired, ' +
    'binned or past. Idle: nothing that was read refers to it.',
  finding: 'Something wrong with a reference: it leads nowhere, to a former address, or away from the site.',
  cause: 'Why a finding is there. Findings of one cause are gathered and counted together.',
  cure: 'What a repair would write for a finding. Sure where the evidence leaves one answer, open where you choose.',
  letStand:
    'A decision, with its reason, that a finding stays as it is. It counts no more until its cause changes.',
  plan: 'A list of all that would be written, each step with its before and after. Nothing is written without one.',
  step: 'One thing in a plan: an edit of a record, a file written or moved, a row of the media list added or changed.',
  change: 'A plan that was applied, with all that is needed to undo it.',
  leftOut:
    'A step that was not carried out: the record is no longer as the plan saw it, or somebody ruled it out.',
  refused: 'A step that the site did not take: no right, too long, disk full. The reason stands with it.',
  kept: 'What undo left as it is, since somebody else changed it meanwhile.',
  undone: 'Taken back byte for byte: records, files, and the rows of the media list.',
  stale: 'A page that a cache still shows as it was before a change. Purging asks the cache to forget it.',
  resting: 'Out of the public tree but kept whole, with a day on which it may go.',
  proof:
    'All that speaks for and against a file going to its rest: content, the site’s own code, a survey, access logs, ' +
    'age and copies. What was not looked at never counts as a yes.',
  called:
    'Something names, shows or asks for a file at rest. It does not go to the archive before somebody looked.',
  bag: 'A folder of the archive with its own list of hashes (BagIt, RFC 8493): any tool can check and read it.',
  sameAddress: 'The new bytes are put where the old ones lay: no record is edited, every place shows them.',
  newReference: 'The records are edited so that they name the other file. The old one stays where it is.',
} as const;

export type Word = keyof typeof GLOSSARY;

const SAID: Partial<Record<Word, string>> = {
  leftOut: 'left out',
  proof: 'proof sheet',
  letStand: 'let stand',
  sameAddress: 'same address',
  newReference: 'new reference',
};

/** The word as it is said in sentences. */
export function said(word: Word): string {
  return SAID[word] ?? word;
}
