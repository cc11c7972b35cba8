import { useEffect, useState } from 'react';
import { useSlug } from '@/api/hooks';
import { draftKey, keepDraft, readDraft, type Words } from '@/ui/draft';
import { useChoices } from '@/ui/useChoices';

export type Manner = 'same-address' | 'new-reference';

/**
 * All that is chosen on the bench. What stands in, how and in which shape is in the address, so that Back, a reload and
 * "Change it" lead to it; places and words are kept as a draft.
 */
export function useBench(item: number) {
  const slug = useSlug();
  const [params, set] = useChoices();
  const key = draftKey(slug, `media/${item}/swap`);
  const [draft, setDraft] = useState(() => readDraft(key));
  useEffect(() => keepDraft(key, draft), [key, draft]);

  const to = Number(params.get('to')) || null;
  const manner: Manner = params.get('manner') === 'same-address' ? 'same-address' : 'new-reference';
  return {
    to,
    upload: params.get('upload'),
    manner,
    asIs: params.get('shape') === 'as-is',
    left: new Set(draft.left) as ReadonlySet<number>,
    words: draft.words,
    chooseItem: (id: number) => set({ to: String(id), upload: null }),
    chooseUpload: (token: string) => set({ upload: token, to: null }),
    chooseManner: (manner: Manner) => set({ manner: manner === 'same-address' ? manner : null }, true),
    chooseShape: (asIs: boolean) => set({ shape: asIs ? 'as-is' : null }, true),
    leave: (left: ReadonlySet<number>) => setDraft((now) => ({ ...now, left: [...left] })),
    say: (words: Partial<Words>) => setDraft((now) => ({ ...now, words: { ...now.words, ...words } })),
  };
}
export type BenchState = ReturnType<typeof useBench>;
