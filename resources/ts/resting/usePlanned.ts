import { useNavigate } from 'react-router';
import { client } from '@/api/client';
import { useAct, useSlug } from '@/api/hooks';
import type { Plan } from '@/api/types';
import { sayProblem } from '@/ui/Notice';

export interface RestAsked {
  marks?: Record<string, string>;
  items?: number[];
  files?: number[];
  size?: number[];
  asks?: boolean;
  to?: string;
}
export interface RestoreAsked {
  files?: number[];
  bagged?: number[];
  change?: number;
  called?: boolean;
  elsewhere?: boolean;
}

/** Asks for a plan, and leads to it: nothing rests, comes back or is archived before it was read. */
export function usePlanned() {
  const slug = useSlug();
  const navigate = useNavigate();
  const rest = useAct<Plan, RestAsked>((site, body) =>
    client.POST('/sites/{site}/rests', { params: { path: { site } }, body }),
  );
  const restore = useAct<Plan, RestoreAsked>((site, body) =>
    client.POST('/sites/{site}/restores', { params: { path: { site } }, body }),
  );
  const merge = useAct<Plan, { keeper: number; others: number[] }>((site, body) =>
    client.POST('/sites/{site}/merges', { params: { path: { site } }, body }),
  );
  const archive = useAct<Plan>((site) => client.POST('/sites/{site}/bags', { params: { path: { site } } }));
  const then = {
    onSuccess: (plan: Plan) => void navigate(`/${slug}/plans/${plan.id}`),
    onError: sayProblem,
  };
  return {
    isPending: rest.isPending || restore.isPending || merge.isPending || archive.isPending,
    rest: (asked: RestAsked) => rest.mutate(asked, then),
    restore: (asked: RestoreAsked) => restore.mutate(asked, then),
    merge: (keeper: number, others: number[]) => merge.mutate({ keeper, others }, then),
    archive: () => archive.mutate(undefined, then),
  };
}
