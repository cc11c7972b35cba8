/** What was chosen on a bench and stands in no address: kept in the browser until its plan is applied. */
export interface Draft {
  /** Numbers of the references that are left out. */
  left: number[];
  words: Words;
}
export interface Words {
  title: string;
  alt: string;
  caption: string;
  credit: string;
}

export const NO_WORDS: Words = { title: '', alt: '', caption: '', credit: '' };
const NOTHING: Draft = { left: [], words: NO_WORDS };

/** @param bench where the bench is, below the site, without its query: `media/12/swap` */
export function draftKey(site: string, bench: string): string {
  return `ylema:draft:${site}/${bench.replace(/\?.*$/, '')}`;
}

export function readDraft(key: string): Draft {
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? 'null') as Partial<Draft> | null;
    if (!kept) return NOTHING;
    const words = (kept.words ?? {}) as Record<string, unknown>;
    const word = (name: keyof Words) => (typeof words[name] === 'string' ? words[name] : '');
    return {
      left: Array.isArray(kept.left) ? kept.left.filter((id): id is number => Number.isInteger(id)) : [],
      words: { title: word('title'), alt: word('alt'), caption: word('caption'), credit: word('credit') },
    };
  } catch {
    // A browser without storage, or something else under this name: a bench without a draft.
    return NOTHING;
  }
}

export function keepDraft(key: string, draft: Draft): void {
  try {
    if (draft.left.length === 0 && Object.values(draft.words).every((word) => word === ''))
      localStorage.removeItem(key);
    else localStorage.setItem(key, JSON.stringify(draft));
  } catch {
    // Without storage a reload begins anew; nothing else is lost.
  }
}

export function forgetDraft(key: string): void {
  keepDraft(key, NOTHING);
}
