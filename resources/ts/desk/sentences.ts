import type { Desk } from '@/api/types';
import { many, number, weight } from '@/ui/words';

export type Matter =
  | 'stale'
  | 'unkept'
  | 'broken'
  | 'elsewhere'
  | 'unread'
  | 'mentioned'
  | 'large'
  | 'idle'
  | 'copies'
  | 'over'
  | 'called'
  | 'safe'
  | 'archive'
  | 'left';

/** What needs somebody: the sentence with its count, and the list that holds exactly what was counted. */
export interface Sentence {
  key: string;
  matter: Matter;
  /** Whether a visitor suffers from it. */
  urgent: boolean;
  /** The count with its noun, set apart from the rest of the sentence. */
  counted: string;
  rest: string;
  more: string;
  /** Below the site's own address. */
  to: string;
  act: string;
}

/** Worst for visitors first. `maintain`: whether the reader may do more than look. */
export function sentencesOf(desk: Desk, maintain: boolean): Sentence[] {
  return [
    ...desk.stale_changes.map((change) => stale(change, maintain)),
    ...desk.unkept_changes.map(unkept),
    ...called(desk.resting, maintain),
    ...broken(desk, maintain),
    ...elsewhere(desk),
    ...unread(desk.unread),
    ...notSearched(desk.not_searched),
    ...placeQuestions(desk.place_questions),
    ...mentioned(desk.mentioned),
    ...large(desk.large),
    ...left(desk.left_behind),
    ...safe(desk.safe, maintain),
    ...idle(desk),
    ...bags(desk.resting),
    ...copies(desk.copies),
    ...over(desk.expired_banners),
  ];
}

const are = (count: number, one = 'is', more = 'are') => (count === 1 ? one : more);

function stale(change: Desk['stale_changes'][number], maintain: boolean): Sentence {
  return {
    key: `stale-${change.id}`,
    matter: 'stale',
    urgent: true,
    counted: many(change.stale, 'page'),
    rest: `still ${are(change.stale, 'shows', 'show')} the site as it was before a change.`,
    more: `A cache keeps ${are(change.stale, 'it', 'them')}: ${change.title}.`,
    to: `changes/${change.id}`,
    act: maintain ? `Purge ${are(change.stale, 'it', 'them')}` : `See ${are(change.stale, 'it', 'them')}`,
  };
}

function unkept(change: Desk['unkept_changes'][number]): Sentence {
  return {
    key: `unkept-${change.id}`,
    matter: 'unkept',
    urgent: true,
    counted: many(change.unkept, 'old address', 'old addresses'),
    rest: `${are(change.unkept, 'does', 'do')} not lead on, as a change said.`,
    more: `Whoever has an old link meets an error: ${change.title}.`,
    to: `changes/${change.id}`,
    act: `See ${are(change.unkept, 'it', 'them')}`,
  };
}

function broken(desk: Desk, maintain: boolean): Sentence[] {
  const families = desk.broken.families.filter((family) => family.broken);
  const count = families.reduce((sum, family) => sum + family.references, 0);
  if (count === 0) return [];
  const shown = desk.broken.references;
  const met =
    shown === 0
      ? 'No public page has one.'
      : `${number(shown)} on ${many(desk.broken.pages, 'public page')}.`;
  const sure = families.reduce((sum, family) => sum + family.sure, 0);
  const causes = families.map((family) => `${number(family.references)} ${family.title.toLowerCase()}`);
  return [
    {
      key: 'broken',
      matter: 'broken',
      urgent: shown > 0,
      counted: many(count, 'reference'),
      rest: `${are(count, 'does', 'do')} not lead where ${are(count, 'it', 'they')} should.`,
      more: `${met} By cause: ${causes.join(', ')}.${sure > 0 ? ` One plan mends ${number(sure)}.` : ''}`,
      to: 'repairs',
      act: sure > 0 && maintain ? 'Mend them' : 'See the causes',
    },
  ];
}

/** What loads, but from where the site has no say: each family is a list of its own. */
function elsewhere(desk: Desk): Sentence[] {
  return desk.broken.families
    .filter((family) => !family.broken && family.references > 0)
    .map((family) => ({
      key: family.cause,
      matter: 'elsewhere',
      urgent: false,
      counted: many(family.references, 'reference'),
      rest: `${are(family.references, 'loads', 'load')}, but ${family.sentence}.`,
      more: `Met on ${many(family.pages, 'public page')}.`,
      to: `repairs/${family.cause}`,
      act: `See ${are(family.references, 'it', 'them')}`,
    }));
}

function unread(count: number): Sentence[] {
  if (count === 0) return [];
  return [
    {
      key: 'unread',
      matter: 'unread',
      urgent: false,
      counted: many(count, 'record'),
      rest: 'could not be read in full.',
      more: 'What Ylema could not make out there is not on the map; each says why.',
      to: 'places?unread=1',
      act: `See ${are(count, 'it', 'them')}`,
    },
  ];
}

function notSearched(count: number): Sentence[] {
  if (count === 0) return [];
  return [
    {
      key: 'not-searched',
      matter: 'unread',
      urgent: false,
      counted: many(count, 'thing'),
      rest: 'beside the field map could not be looked into.',
      more: `While ${are(count, 'it is', 'they are')} not, no file is called safe to rest.`,
      to: 'map/coverage',
      act: 'See the reasons',
    },
  ];
}

function placeQuestions(count: number): Sentence[] {
  if (count === 0) return [];
  return [
    {
      key: 'place-questions',
      matter: 'unread',
      urgent: false,
      counted: many(count, 'place'),
      rest: `beside the field map may name media; only you can tell.`,
      more: `Until you say so, what ${are(count, 'it', 'they')} may name is not called safe to rest.`,
      to: 'map/coverage',
      act: `Answer ${are(count, 'it', 'them')}`,
    },
  ];
}

function mentioned(count: number): Sentence[] {
  if (count === 0) return [];
  return [
    {
      key: 'mentioned',
      matter: 'mentioned',
      urgent: false,
      counted: many(count, 'idle item'),
      rest: `${are(count)} named somewhere in a way that is not read.`,
      more: 'A line of the field map may be missing; each item says where it is named.',
      to: 'media?mentioned=1',
      act: `Look at ${are(count, 'it', 'them')}`,
    },
  ];
}

function large({ items, bytes }: Desk['large']): Sentence[] {
  if (items === 0) return [];
  return [
    {
      key: 'large',
      matter: 'large',
      urgent: false,
      counted: many(items, 'picture'),
      rest: `in use ${are(items)} wider than 2,600 pixels.`,
      more: `Together ${weight(bytes)}.`,
      to: 'media?large=1&sort=weight',
      act: 'Heaviest first',
    },
  ];
}

function idle(desk: Desk): Sentence[] {
  const count = (desk.standing['idle'] ?? 0) - desk.safe.items;
  if (count <= 0) return [];
  return [
    {
      key: 'idle',
      matter: 'idle',
      urgent: false,
      counted: many(count, 'item'),
      rest: `${are(count)} idle, but not safe: something else may need ${are(count, 'it', 'them')}.`,
      more: 'The site’s own code, other sites, mail, or what was not looked at yet; each proof sheet says.',
      to: 'media?standing=idle&proof=ask',
      act: `Look at ${are(count, 'it', 'them')}`,
    },
  ];
}

/** Files at rest that something asks for: each may be missed by a visitor this moment. */
function called({ called: count, called_by }: Desk['resting'], maintain: boolean): Sentence[] {
  if (count === 0) return [];
  return [
    {
      key: 'called',
      matter: 'called',
      urgent: true,
      counted: many(count, 'resting file'),
      rest: `${are(count, 'is', 'are')} called back.`,
      more: called_by,
      to: 'resting',
      act: maintain ? `Restore ${are(count, 'it', 'them')}` : `See ${are(count, 'it', 'them')}`,
    },
  ];
}

function left({ items, records, title }: Desk['left_behind']): Sentence[] {
  if (items === 0) return [];
  return [
    {
      key: 'left',
      matter: 'left',
      urgent: false,
      counted: many(items, 'item'),
      rest: `${are(items, 'was', 'were')} left behind by ${records === 1 ? `“${title}”, which is` : `${many(records, 'record')} that are`} gone.`,
      more: `Nothing else names ${are(items, 'it', 'them')}.`,
      to: 'media?left=1',
      act: `Look at ${are(items, 'it', 'them')}`,
    },
  ];
}

function safe({ items, files, bytes }: Desk['safe'], maintain: boolean): Sentence[] {
  if (items === 0) return [];
  return [
    {
      key: 'safe',
      matter: 'safe',
      urgent: false,
      counted: many(items, 'item'),
      rest: `${are(items)} safe to rest: all was looked at, and nothing needs ${are(items, 'it', 'them')}.`,
      more: `${many(files, 'file')}, ${weight(bytes)} less in the public tree and in each backup.`,
      to: 'resting',
      act: maintain ? `Lay ${are(items, 'it', 'them')} to rest` : `Look at ${are(items, 'it', 'them')}`,
    },
  ];
}

function bags({ over, over_bytes, damaged }: Desk['resting']): Sentence[] {
  const sentences: Sentence[] = [];
  if (damaged > 0)
    sentences.push({
      key: 'damaged',
      matter: 'archive',
      urgent: true,
      counted: many(damaged, 'bag'),
      rest: `of the archive ${are(damaged)} damaged.`,
      more: 'What is damaged is named there; put it back from a copy.',
      to: 'resting',
      act: `See ${are(damaged, 'it', 'them')}`,
    });
  if (over > 0)
    sentences.push({
      key: 'archive',
      matter: 'archive',
      urgent: false,
      counted: many(over, 'resting file'),
      rest: `may go to the archive: ${are(over, 'its', 'their')} days are over.`,
      more: `${weight(over_bytes)}; restored from there as well.`,
      to: 'resting',
      act: 'Look at the archive',
    });
  return sentences;
}

function copies({ items, groups }: Desk['copies']): Sentence[] {
  if (items === 0) return [];
  return [
    {
      key: 'copies',
      matter: 'copies',
      urgent: false,
      counted: many(items, 'item'),
      rest: 'are copies of one another, byte for byte.',
      more: `${many(groups, 'different file')}; ${number(items - groups)} could go.`,
      to: 'media?copies=1&sort=same',
      act: 'Look at them',
    },
  ];
}

function over(count: number): Sentence[] {
  if (count === 0) return [];
  return [
    {
      key: 'over',
      matter: 'over',
      urgent: false,
      counted: many(count, 'banner'),
      rest: `${are(count)} over or switched off.`,
      more: `No visitor meets ${are(count, 'it', 'them')} any more.`,
      to: 'places?kind=banner&state=fading',
      act: `Show ${are(count, 'it', 'them')}`,
    },
  ];
}
