import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { body, client } from '@/api/client';
import type { Draft } from '@/api/types';
import { useMay } from '@/api/hooks';

export function useDrafts() {
  const { own } = useMay();
  return useQuery({
    queryKey: ['drafts'],
    queryFn: ({ signal }) => body(client.GET('/drafts', { signal })),
    enabled: own,
  });
}

/** One site that is being connected; asked again each second only while its map is being worked out. */
export function useDraft(id: number | null) {
  return useQuery({
    queryKey: ['drafts', id],
    queryFn: ({ signal }) =>
      body(client.GET('/drafts/{draft}', { params: { path: { draft: id ?? 0 } }, signal })),
    enabled: id !== null,
    refetchInterval: (query) => (query.state.data?.state === 'proposing' ? 1000 : false),
  });
}

/** Something done to a draft, whose answer is the draft as it is then. */
export function useDraftAct<V>(act: (asked: V) => Promise<{ data?: Draft }>) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (asked: V) => body(act(asked)),
    onSuccess: (draft) => {
      queries.setQueryData(['drafts', draft.id], draft);
      void queries.invalidateQueries({ queryKey: ['drafts'], exact: true });
    },
  });
}
