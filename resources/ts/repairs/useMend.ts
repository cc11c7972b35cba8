import { useNavigate } from 'react-router';
import { client } from '@/api/client';
import { useAct, useSlug } from '@/api/hooks';
import type { Plan } from '@/api/types';
import type { Rule } from './rules';

/** The path of a file or page; null to take the place out. */
export type Decision = string | null;

export interface Mending {
  /** Families; all where none is named. */
  causes?: string[];
  sure?: boolean;
  /** What references ask for → the path that they shall name; null to take them out. */
  decisions?: Map<string, Decision>;
  rules?: readonly Rule[];
}

/** Asks for the plan of a repair, and leads to it. */
export function useMend() {
  const slug = useSlug();
  const navigate = useNavigate();
  const act = useAct<Plan, Mending>(
    (site, { causes, sure = true, decisions = new Map<string, Decision>(), rules = [] }) =>
      client.POST('/sites/{site}/repairs', {
        params: { path: { site } },
        body: {
          ...(causes && { causes }),
          sure,
          rules: rules.map(({ from, to }) => ({ from, to })),
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
