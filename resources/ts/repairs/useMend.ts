import { useNavigate } from 'react-router';
import { client } from '@/api/client';
import { useAct, useSlug } from '@/api/hooks';
import type { Plan } from '@/api/types';

export interface Mending {
  /** Families; all where none is named. */
  causes?: string[];
  sure?: boolean;
  /** What references ask for → the path that they shall name. */
  decisions?: Map<string, string>;
}

/** Asks for the plan of a repair, and leads to it. */
export function useMend() {
  const slug = useSlug();
  const navigate = useNavigate();
  const act = useAct<Plan, Mending>((site, { causes, sure = true, decisions = new Map<string, string>() }) =>
    client.POST('/sites/{site}/repairs', {
      params: { path: { site } },
      body: {
        ...(causes && { causes }),
        sure,
        decisions: [...decisions].map(([asked, path]) => ({ asked, path })),
      },
    }),
  );
  return {
    ...act,
    mend: (mending: Mending) =>
      act.mutate(mending, { onSuccess: (plan) => void navigate(`/${slug}/plans/${plan.id}`) }),
  };
}
