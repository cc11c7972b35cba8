import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query';
import { body, client } from '@/api/client';
import { useMay } from '@/api/hooks';
import { sayProblem } from '@/ui/Notice';

export function usePeople() {
  const { own } = useMay();
  return useInfiniteQuery({
    queryKey: ['people'],
    queryFn: ({ pageParam, signal }) =>
      body(
        client.GET('/people', { params: { query: pageParam === null ? {} : { after: pageParam } }, signal }),
      ),
    initialPageParam: null as string | null,
    getNextPageParam: (last) => last.next,
    enabled: own,
  });
}

/** Something done to one account; the list is asked again. */
export function usePersonAct<R, V>(act: (asked: V) => Promise<{ data?: R }>) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (asked: V) => body(act(asked)),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['people'] }),
    onError: sayProblem,
  });
}
